import { printClockIn } from '@ulvane/core/quantity';
import type { Step, StepStanding } from '@ulvane/core/runbook';
import { Lock } from 'lucide-react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { signedElsewhere, useEarly, useWait, type StepActions } from './stepActions';

type SignControlsProps = {
  readonly step: Step;
  readonly index: number;
  readonly state: StepStanding['state'];
  readonly lockReason: string | null;
  readonly isCurrent: boolean;
  readonly actions: StepActions;
  readonly isNoting: boolean;
  readonly onNoting: (isNoting: boolean) => void;
};

/** How a step is started and signed, or where that is done, or what closes it. */
export function SignControls(props: SignControlsProps) {
  const { step, index, state, lockReason, isCurrent, actions, isNoting, onNoting } = props;
  const { move } = useOpenMove();
  const zone = useZone();
  const early = useEarly(step, state);
  const wait = useWait(step, state);
  const canWrite = actions.canWrite(step);
  if (state === 'signed') return null;
  if (state === 'locked')
    return (
      <span className="soft" title={lockReason ?? undefined}>
        <Lock size={13} aria-hidden="true" /> locked
        <span className="visually-hidden">: {lockReason}</span>
      </span>
    );
  if (step.kind === 'sign-off') return <span className="soft">the owner signs on Hand over</span>;
  if (step.kind === 'reconcile')
    return (
      <span className="soft">
        is signed automatically on <Link to={`/moves/${move.reference}/hand-over`}>Hand over</Link>, with the
        last explanation
      </span>
    );
  if (signedElsewhere.has(step.kind))
    return (
      <span className="soft">
        is signed automatically with serial number and size on{' '}
        <Link to={`/moves/${move.reference}/prepare`}>Prepare</Link>
      </span>
    );
  if (!canWrite) return step.requiresLead ? <span className="soft">a lead signs</span> : null;
  const undoStart = state === 'waiting' ? actions.unsign(step, index) : undefined;
  const small = isCurrent ? {} : { size: 'sm' as const };
  const starts = state === 'open' && step.waiting.likely > 0;
  return (
    <span className="sign-controls">
      <button
        type="button"
        className="btn-plain small-print"
        aria-expanded={isNoting}
        onClick={() => onNoting(!isNoting)}
        aria-label={`with minutes, note: ${step.title}`}
      >
        with minutes, note
      </button>
      {undoStart && (
        <button
          type="button"
          className="btn-plain small-print"
          onClick={undoStart}
          aria-label={`undo the start: ${step.title}`}
        >
          undo the start
        </button>
      )}
      {starts && (
        <Button
          {...small}
          variant={isCurrent ? 'primary' : 'quiet'}
          onClick={() => actions.start(step)}
          aria-label={`Start: ${step.title}`}
        >
          Start
        </Button>
      )}
      <Button
        id={`sign-${step.id}`}
        {...small}
        variant={isCurrent && !starts && early === null ? 'primary' : 'quiet'}
        className={early === null ? '' : 'sign-later'}
        // Before its shortest time it asks for the reason first.
        onClick={() => (early === null ? void actions.sign(step, null, '') : onNoting(true))}
        aria-keyshortcuts={isCurrent ? 's' : undefined}
      >
        {wait && early !== null ? `Sign from ${printClockIn(zone, wait.signFrom)}` : 'Sign'}
        <span className="visually-hidden">: {step.title}</span> {isCurrent && <kbd>S</kbd>}
      </Button>
    </span>
  );
}
