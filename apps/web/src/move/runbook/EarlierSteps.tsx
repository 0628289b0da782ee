import { Instant } from '../../shell/Instant';
import { isSigned } from '@ulvane/core/runbook';
import { useOpenMove } from '../MoveContext';

/** Steps signed under an earlier plan that the present one does not have: they were done, and stay told. */
export function EarlierSteps() {
  const { move } = useOpenMove();
  const present = new Set(move.plan?.runbook.steps.map(({ id }) => id));
  const earlier = [
    ...new Map(
      move.signatures
        .filter(({ stepId }) => !present.has(stepId) && isSigned(move.signatures, stepId))
        .map((line) => [line.stepId, line]),
    ).values(),
  ];
  if (earlier.length === 0) return null;
  return (
    <section className="sheet mt-3">
      <h2>Done under an earlier plan</h2>
      <ul className="mb-0">
        {earlier.map(({ stepId, title, by, at, note }) => (
          <li key={stepId}>
            {title}: {by}, <Instant at={at} /> {note && `(${note})`}
          </li>
        ))}
      </ul>
    </section>
  );
}
