import { printMinutes } from '@ulvane/core/quantity';
import { standingOf, totalMinutes, type Runbook } from '@ulvane/core/runbook';
import { Link } from 'react-router';
import { useOpenMove } from '../MoveContext';

/** In place of the step in work once every step is signed: what was planned, what it took, and where it goes on. */
export function AllSigned({ runbook }: { readonly runbook: Runbook }) {
  const { move } = useOpenMove();
  const { handsOn, waiting } = totalMinutes(runbook.steps);
  const took = runbook.steps.flatMap(({ id }) => standingOf(move.signatures, id).last?.actualMinutes ?? []);
  return (
    <li className="step step-current all-signed">
      <h3 className="step-title">Every step is signed</h3>
      <p className="mb-0">
        Planned: {printMinutes(handsOn.likely)} hands-on and {printMinutes(waiting.likely)} waiting.{' '}
        {took.length === 0
          ? 'No minutes were noted.'
          : `Noted at ${took.length} of ${runbook.steps.length} steps: ${printMinutes(took.reduce((sum, minutes) => sum + minutes, 0))}.`}{' '}
        <Link to={`/moves/${move.reference}/hand-over`}>To Hand over</Link>
      </p>
    </li>
  );
}
