import { api } from '@ulvane/contract';
import Button from 'react-bootstrap/Button';
import { useChange } from '../api/useMove';
import { useMay } from '../api/useSession';
import { Instant } from '../shell/Instant';
import { Problem } from '../shell/Problem';
import { useOpenMove } from './MoveContext';
import { ReasonDialog } from '../shell/ReasonDialog';

/** Asks why a move is called off. */
export function CallOffDialog({ onClose }: { readonly onClose: () => void }) {
  const { view, move } = useOpenMove();
  const { change, error } = useChange(view);
  return (
    <ReasonDialog
      title={`Call ${move.reference} off`}
      label="Why is it called off?"
      hint="Nothing is deleted: the record and its log stay, and the move can be resumed."
      action="Call it off"
      error={error}
      onGive={(reason) => change(api.callOff, { reason })}
      onClose={onClose}
    />
  );
}

/** Says that the open move was called off, by whom and why, and resumes it. */
export function CalledOffNotice() {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const may = useMay();
  if (!move.calledOff) return null;
  const { by, at, reason } = move.calledOff;
  return (
    <div className="notice" role="status">
      <Problem error={error} />
      <strong>Called off</strong> by {by}, <Instant at={at} />: {reason}{' '}
      {may.write && (
        <Button size="sm" variant="quiet" disabled={busy} onClick={() => void change(api.resume, {})}>
          Resume the move
        </Button>
      )}
    </div>
  );
}
