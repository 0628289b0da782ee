import { Instant } from '../../shell/Instant';
import { diskWorkOf } from '@ulvane/core/runbook';
import { routes } from '@ulvane/core/route';
import { diskMark } from '@ulvane/core/survey';
import { useMemo } from 'react';
import Button from 'react-bootstrap/Button';
import { ProblemList } from '../../disk/ProblemList';
import { useOpenMove } from '../MoveContext';

/** The disk work that stands in the plan of the move, as it would be done now. */
export function PlannedWork({ onTakeOut }: { readonly onTakeOut: (() => void) | undefined }) {
  const { move } = useOpenMove();
  const { diskPlan, decision } = move;
  const work = useMemo(
    () =>
      diskPlan
        ? diskWorkOf(move.facts, diskPlan, decision ? routes[decision.routeId] : undefined)
        : undefined,
    [move.facts, diskPlan, decision],
  );
  if (!diskPlan || !work) return null;
  return (
    <section className="sheet">
      <h2>In the plan</h2>
      {work.ok ? (
        <>
          <ol className="mb-1">
            {work.value.operations.map(({ sentence }) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ol>
          <p className="mb-2">
            Disk <span className="mono">{diskMark(work.value.disk)}</span>, about {work.value.minutes} min;
            planned by {diskPlan.by}, <Instant at={diskPlan.at} />.
          </p>
        </>
      ) : (
        <ProblemList problems={work.problems} />
      )}
      {onTakeOut && (
        <Button size="sm" variant="quiet" onClick={onTakeOut}>
          Remove from the plan
        </Button>
      )}
    </section>
  );
}
