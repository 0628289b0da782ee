import { printClockIn } from '@ulvane/core/quantity';
import { openTroubleOf } from '@ulvane/core/record';
import { troubleSigns } from '@ulvane/core/runbook';
import { Link } from 'react-router';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { troublePath } from '../trouble/troublePath';

/** What holds the runbook up, and where that goes on; nothing where all is well. */
export function HeldUp() {
  const { move } = useOpenMove();
  const zone = useZone();
  const trouble = openTroubleOf(move);
  if (!trouble) return null;
  const number = (move.plan?.runbook.steps.findIndex(({ id }) => id === trouble.stepId) ?? -1) + 1;
  return (
    <div className="held-up" role="status">
      <p className="mb-0">
        <strong>{troubleSigns[trouble.sign]}.</strong> Step {number} and all that follow wait: seen at{' '}
        {printClockIn(zone, trouble.seenAt)} by {trouble.by}.
      </p>
      <Link className="btn btn-primary btn-sm" to={troublePath(move.reference, trouble.stepId, trouble.sign)}>
        {trouble.detour ? `Go on with the detour: ${trouble.detour.title}` : 'Find the cause'}
      </Link>
    </div>
  );
}
