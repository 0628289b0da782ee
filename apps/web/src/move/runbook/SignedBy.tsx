import { standingOf } from '@ulvane/core/runbook';
import { Instant } from '../../shell/Instant';
import { useDay } from '../../shell/useDay';
import { useOpenMove } from '../MoveContext';

type SignedByProps = {
  readonly stepId: string;
  readonly title: string;
  /** Absent where the signature is for good. */
  readonly onUnsign: (() => void) | undefined;
  readonly onCorrect: (() => void) | undefined;
};

/** Who signed a step, when, and what it took; its history, and how to withdraw or correct it. */
export function SignedBy({ stepId, title, onUnsign, onCorrect }: SignedByProps) {
  const { move } = useOpenMove();
  const { last } = standingOf(move.signatures, stepId);
  const lines = move.signatures.filter((line) => line.stepId === stepId);
  const today = useDay();
  if (!last) return null;
  return (
    <>
      <span className="by">
        ✓ {last.by}, <Instant at={last.at} today={today} />
      </span>
      {last.actualMinutes !== null && <span> took {last.actualMinutes} min</span>}
      {last.note !== '' && <span className="soft"> {last.note}</span>}
      {last.crossing && (
        <span className="soft">
          {' '}
          the installer showed …{last.crossing.serialEnd}, {last.crossing.sizeShown}
        </span>
      )}
      {lines.some(({ action }) => action === 'unsign' || action === 'correct') && (
        <details>
          <summary className="small-print">history</summary>
          {lines.map((line) => (
            <div key={line.at + line.action} className="small-print">
              <Instant at={line.at} /> {line.by}: {line.action} {line.note}
            </div>
          ))}
        </details>
      )}
      {onUnsign && (
        <button type="button" className="btn-plain small-print no-print ms-1" onClick={onUnsign}>
          Withdraw
        </button>
      )}
      {onCorrect && (
        <button
          type="button"
          className="btn-plain small-print no-print ms-1"
          onClick={onCorrect}
          aria-label={`Correct: ${title}`}
        >
          Correct
        </button>
      )}
    </>
  );
}
