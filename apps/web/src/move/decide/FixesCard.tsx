import { rankFixes, type Assessment } from '@ulvane/core/assess';
import { findRelease, releaseTitle, supportDaysLeft } from '@ulvane/core/catalogue';
import { useOpenMove } from '../MoveContext';
import { useDay } from '../../shell/useDay';

/** What could be done to the device, the fix that unlocks most first. */
export function FixesCard({ assessments }: { readonly assessments: readonly Assessment[] }) {
  const { house } = useOpenMove();
  const today = useDay();
  const titleOf = (id: string) => {
    const release = findRelease(house.catalogue, id);
    return release ? releaseTitle(release) : id;
  };
  const fixes = rankFixes(
    assessments.filter(({ releaseId }) => {
      const release = findRelease(house.catalogue, releaseId);
      return release !== undefined && supportDaysLeft(release, today) >= 0;
    }),
  );
  if (fixes.length === 0) return null;
  return (
    <section className="sheet" aria-labelledby="fixes">
      <h2 id="fixes">Fixes, the one that unlocks most first</h2>
      <ol className="mb-0">
        {fixes.map(({ id, action, handsOnMinutes, cost, unlocks, helps }) => (
          <li key={id}>
            <strong>{action}</strong>{' '}
            <span className="soft">
              {handsOnMinutes} min{cost > 0 && `, about ${cost}`}
            </span>
            <span className="small-print d-block">
              {unlocks.length > 0 && `By itself it opens ${unlocks.map(titleOf).join(', ')}. `}
              {helps.length > 0 && `With others: ${helps.map(titleOf).join(', ')}.`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
