import { printMinutes } from '@ulvane/core/quantity';
import { unbeaten, type Candidate } from '@ulvane/core/decide';
import { Gem } from 'lucide-react';
import { Fragment, useId, useMemo, useState } from 'react';
import { HandsBar } from '../../drawing/HandsBar';
import { CandidateDetails } from './CandidateDetails';

type CompareTableProps = {
  readonly candidates: readonly Candidate[];
  readonly advised: Candidate;
  /** Set for what stands beside the ranking: it has no points to be compared by. */
  readonly apart?: boolean;
  readonly isChosen: (candidate: Candidate) => boolean;
  readonly onChoose: ((candidate: Candidate) => void) | undefined;
};

const keyOf = ({ routeId, releaseId }: Candidate) => `${routeId} ${releaseId ?? ''}`;

/** How good a term is, in a word beside its bar: readable in grey and by ear. */
function degree(value: number): string {
  if (value >= 0.75) return 'high';
  return value >= 0.4 ? 'middling' : 'low';
}

/** Allowed candidates side by side on every count; the unbeaten ones are marked. */
export function CompareTable({ candidates, advised, apart = false, isChosen, onChoose }: CompareTableProps) {
  const id = useId();
  const [all, setAll] = useState(false);
  const [opened, setOpened] = useState<string | undefined>(keyOf(advised));
  const marked = useMemo(() => new Set(unbeaten(candidates)), [candidates]);
  // The best of each route, in the order of advice, and what has been chosen.
  const first = candidates.filter(
    (one, index) => isChosen(one) || candidates.findIndex(({ routeId }) => routeId === one.routeId) === index,
  );
  const shown = all ? candidates : first;
  return (
    <section className="sheet table-scroll" aria-labelledby={id}>
      <h2 id={id}>
        {apart ? (
          'Beside the ranking: no way to a supported system'
        ) : (
          <>
            Compared on every count{' '}
            <span className="soft">
              ({all ? `${candidates.length} allowed` : `the best of each route; ${candidates.length} allowed`}
              )
            </span>
          </>
        )}
      </h2>
      <table className="table compare">
        <thead>
          <tr>
            <th scope="col">Candidate</th>
            <th scope="col">Risk to data</th>
            <th scope="col">Hands-on and waiting</th>
            <th scope="col">Owner’s effort</th>
            <th scope="col" className="number">
              Money
            </th>
            <th scope="col">Supported until</th>
            <th scope="col">Undone</th>
            {!apart && (
              <th scope="col" className="number">
                Points
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {shown.map((candidate) => {
            const key = keyOf(candidate);
            const open = opened === key;
            return (
              <Fragment key={key}>
                <tr className={isChosen(candidate) ? 'chosen' : undefined}>
                  <th scope="row">
                    <button
                      type="button"
                      className="btn-plain"
                      aria-expanded={open}
                      onClick={() => setOpened(open ? undefined : key)}
                    >
                      {candidate.title}
                    </button>
                    <span className="small-print d-block">
                      {candidate === advised && <strong>advised </strong>}
                      {isChosen(candidate) && <strong>chosen </strong>}
                      {!apart && marked.has(candidate) && (
                        <span className="unbeaten">
                          <Gem size={13} aria-hidden="true" /> no other beats it on every count
                        </span>
                      )}
                    </span>
                  </th>
                  <td>{degree(1 - candidate.values.dataRisk)}</td>
                  <td>
                    <span className="small-print text-nowrap">
                      {printMinutes(candidate.handsOnMinutes)} + {printMinutes(candidate.waitingMinutes)}
                    </span>
                    <HandsBar
                      handsOnMinutes={candidate.handsOnMinutes}
                      waitingMinutes={candidate.waitingMinutes}
                      fullMinutes={420}
                    />
                  </td>
                  <td>{degree(1 - candidate.values.ownerEffort)}</td>
                  <td className="number">{candidate.cost === 0 ? 'none' : candidate.cost}</td>
                  <td className="text-nowrap">
                    {candidate.supportedUntil ??
                      (candidate.routeId === 'replace' ? 'a new system' : 'no end')}
                  </td>
                  <td>
                    {candidate.values.reversible >= 0.75
                      ? 'yes'
                      : candidate.values.reversible >= 0.4
                        ? 'for some days'
                        : 'no'}
                  </td>
                  {!apart && <td className="number">{candidate.points.toFixed(0)}</td>}
                </tr>
                {open && (
                  <tr>
                    <td colSpan={8}>
                      <CandidateDetails
                        candidate={candidate}
                        isAdvised={candidate === advised}
                        onChoose={onChoose && !isChosen(candidate) ? () => onChoose(candidate) : undefined}
                      />
                    </td>
                  </tr>
                )}
              </Fragment>
            );
          })}
        </tbody>
      </table>
      {candidates.length > first.length && (
        <button type="button" className="btn-plain mt-2" onClick={() => setAll(!all)}>
          {all ? 'Show the best of each route' : `Show all ${candidates.length}`}
        </button>
      )}
    </section>
  );
}
