import type { Assessment } from '@ulvane/core/assess';
import { findRelease, releaseTitle, supportedUntil } from '@ulvane/core/catalogue';
import { useState } from 'react';
import { useOpenMove } from '../MoveContext';
import { Judgements } from '../../drawing/Judgements';
import { VerdictSign } from '../../drawing/verdicts';

/** The device against every release; opening one shows requirement by requirement. */
export function AssessmentTable({ assessments }: { readonly assessments: readonly Assessment[] }) {
  const { house } = useOpenMove();
  const [opened, setOpened] = useState<string>();
  return (
    <section className="sheet" aria-labelledby="assessment">
      <h2 id="assessment">Against every release</h2>
      <table className="table">
        <thead>
          <tr>
            <th scope="col">Release</th>
            <th scope="col">Verdict</th>
            <th scope="col" className="number">
              Security updates end
            </th>
          </tr>
        </thead>
        {assessments.map((assessment) => {
          const release = findRelease(house.catalogue, assessment.releaseId);
          if (!release) return null;
          const open = opened === release.id;
          return (
            <tbody key={release.id}>
              <tr>
                <th scope="row">
                  <button
                    type="button"
                    className="btn-plain"
                    aria-expanded={open}
                    onClick={() => setOpened(open ? undefined : release.id)}
                  >
                    {releaseTitle(release)}
                  </button>
                </th>
                <td>
                  <VerdictSign verdict={assessment.verdict} />
                </td>
                <td className="number">{supportedUntil(release) ?? 'no end'}</td>
              </tr>
              {open && (
                <tr>
                  <td colSpan={3}>
                    <Judgements judgements={assessment.judgements} />
                  </td>
                </tr>
              )}
            </tbody>
          );
        })}
      </table>
    </section>
  );
}
