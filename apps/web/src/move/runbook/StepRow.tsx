import { Instant } from '../../shell/Instant';
import { addMinutes, minutesBetween } from '@ulvane/core/quantity';
import { tooEarly } from '@ulvane/core/record';
import { standingOf, troubles, type Step, type StepStanding } from '@ulvane/core/runbook';
import { Lock } from 'lucide-react';
import { useState } from 'react';
import { useDraft } from '../../shell/useDraft';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link } from 'react-router';
import { useNow } from '../../api/useNow';
import { HandsBar } from '../../drawing/HandsBar';
import { whenText } from '../../shell/whenText';
import { useOpenMove } from '../MoveContext';
import { useDay } from '../../shell/useDay';

type StepRowProps = {
  readonly step: Step;
  readonly number: number;
  readonly state: StepStanding['state'];
  readonly lockReason: string | null;
  readonly isNext: boolean;
  readonly canWrite: boolean;
  readonly onStart: () => void;
  readonly onSign: (actualMinutes: number | null, note: string) => Promise<boolean>;
  /** Absent where a signature stands for good. */
  readonly onUnsign: (() => void) | undefined;
  readonly onCorrect: () => void;
};

/** Kinds of steps that are signed by what is entered elsewhere. */
const signedElsewhere: ReadonlySet<Step['kind']> = new Set(['sign-off', 'reconcile', 'identify-disk']);

/** One step: minutes, what and why, what to see when it worked; signing with actual minutes and a note. */
export function StepRow({
  step,
  number,
  state,
  lockReason,
  isNext,
  canWrite,
  onStart,
  onSign,
  onUnsign,
  onCorrect,
}: StepRowProps) {
  const [noting, setNoting] = useState(false);
  const { move } = useOpenMove();
  const now = useNow(15_000);
  const { last } = standingOf(move.signatures, step.id);
  const minutes = state === 'waiting' && last ? Math.round(minutesBetween(last.at, now)) : null;
  const early = tooEarly(step, minutes, '');
  const isOpen = state === 'open' || state === 'waiting';
  const own = troubles.filter(({ id }) => step.troubles.includes(id));
  return (
    <li
      className={`step ${state}${isNext ? ' next' : ''}`}
      id={`step-${step.id}`}
      data-step={step.id}
      data-state={state}
    >
      <div>
        <span
          className="minutes"
          title={`${step.handsOn.low + step.waiting.low} to ${step.handsOn.high + step.waiting.high} min`}
        >
          {step.handsOn.likely} + {step.waiting.likely} min
        </span>
        <HandsBar
          handsOnMinutes={step.handsOn.likely}
          waitingMinutes={step.waiting.likely}
          fullMinutes={90}
        />
      </div>
      <div>
        <h3 className="step-title">
          <span className="soft">{number}.</span> {step.title}
        </h3>
        {state !== 'signed' && (
          <>
            <p>{step.why}</p>
            <p className="worked">
              <strong>Done when:</strong> {step.success}
            </p>
            {step.caution !== null && <p className="caution">{step.caution}</p>}
          </>
        )}
        {own.length > 0 && state !== 'signed' && (
          <details className="no-print">
            <summary className="small-print">If it goes wrong</summary>
            <ul className="small-print mb-0">
              {own.map(({ id, sign, remedy }) => (
                <li key={id}>
                  <strong>{sign}.</strong> {remedy}
                </li>
              ))}
            </ul>
          </details>
        )}
        {noting && isOpen && canWrite && (
          <>
            {early !== null && <p className="caution mb-0">{early}</p>}
            <SignForm step={step} onSign={onSign} onClose={() => setNoting(false)} />
          </>
        )}
      </div>
      <div className="side">
        {state === 'signed' && (
          <SignedBy
            stepId={step.id}
            title={step.title}
            onUnsign={canWrite ? onUnsign : undefined}
            onCorrect={canWrite && !onUnsign ? onCorrect : undefined}
          />
        )}
        {state === 'waiting' && <Countdown step={step} />}
        {isOpen && canWrite && step.kind === 'sign-off' && (
          <span className="soft">the owner signs on Hand over</span>
        )}
        {isOpen && step.kind === 'reconcile' && (
          <span className="soft">
            is signed automatically on <Link to={`/moves/${move.reference}/hand-over`}>Hand over</Link>, with
            the last explanation
          </span>
        )}
        {isOpen && step.kind === 'identify-disk' && (
          <span className="soft">
            is signed automatically with serial number and size on{' '}
            <Link to={`/moves/${move.reference}/prepare`}>Prepare</Link>
          </span>
        )}
        {isOpen && canWrite && !signedElsewhere.has(step.kind) && (
          <div className="d-flex flex-column gap-1 align-items-end">
            {state === 'open' && step.waiting.likely > 0 && (
              <Button
                size="sm"
                variant={isNext ? 'primary' : 'quiet'}
                onClick={onStart}
                aria-label={`Start: ${step.title}`}
              >
                Start
              </Button>
            )}
            <Button
              id={`sign-${step.id}`}
              size="sm"
              variant={isNext && (state === 'waiting' || step.waiting.likely === 0) ? 'primary' : 'quiet'}
              // Before its shortest time it asks for the reason first.
              onClick={() => (early === null ? void onSign(null, '') : setNoting(true))}
              aria-keyshortcuts={isNext ? 's' : undefined}
            >
              Sign<span className="visually-hidden">: {step.title}</span> {isNext && <kbd>S</kbd>}
            </Button>
            <button
              type="button"
              className="btn-plain small-print"
              aria-expanded={noting}
              onClick={() => setNoting(!noting)}
              aria-label={`with minutes, note: ${step.title}`}
            >
              with minutes, note
            </button>
            {state === 'waiting' && onUnsign && (
              <button
                type="button"
                className="btn-plain small-print"
                onClick={onUnsign}
                aria-label={`undo the start: ${step.title}`}
              >
                undo the start
              </button>
            )}
          </div>
        )}
        {isOpen && !canWrite && step.requiresLead && <span className="soft">a lead signs</span>}
        {state === 'locked' && (
          <span className="soft" title={lockReason ?? undefined}>
            <Lock size={13} aria-hidden="true" /> locked
            <span className="visually-hidden">: {lockReason}</span>
          </span>
        )}
      </div>
    </li>
  );
}

function SignedBy({
  stepId,
  title,
  onUnsign,
  onCorrect,
}: {
  readonly stepId: string;
  readonly title: string;
  readonly onUnsign: (() => void) | undefined;
  readonly onCorrect: (() => void) | undefined;
}) {
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
      {last.actualMinutes !== null && <div>took {last.actualMinutes} min</div>}
      {last.note !== '' && <div className="soft">{last.note}</div>}
      {last.crossing && (
        <div className="soft">
          the installer showed …{last.crossing.serialEnd}, {last.crossing.sizeShown}
        </div>
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
          className="btn-plain small-print no-print"
          onClick={onCorrect}
          aria-label={`Correct: ${title}`}
        >
          Correct
        </button>
      )}
    </>
  );
}

/** The wait under way, counted down from its start. */
function Countdown({ step }: { readonly step: Step }) {
  const { move } = useOpenMove();
  const now = useNow(1000);
  const today = useDay();
  const { last } = standingOf(move.signatures, step.id);
  if (!last) return null;
  const left = minutesBetween(now, addMinutes(last.at, step.waiting.likely));
  return (
    <div className="waiting" role="timer">
      {left > 0 ? `ready ${whenText(left)}` : `should be done: ${whenText(left)}`}
      <div className="small-print">
        started <Instant at={last.at} today={today} /> by {last.by}
      </div>
    </div>
  );
}

type SignFormProps = {
  readonly step: Step;
  readonly onSign: StepRowProps['onSign'];
  readonly onClose: () => void;
};

function SignForm({ step, onSign, onClose }: SignFormProps) {
  const { move } = useOpenMove();
  const [minutes, setMinutes, forgetMinutes] = useDraft(`${move.reference} ${step.id} minutes`);
  const [note, setNote, forgetNote] = useDraft(`${move.reference} ${step.id} note`);
  return (
    <form
      className="d-flex gap-2 mt-2 no-print"
      onSubmit={(event) => {
        event.preventDefault();
        void onSign(minutes.trim() === '' ? null : Number(minutes), note).then((done) => {
          if (!done) return;
          forgetMinutes();
          forgetNote();
          onClose();
        });
      }}
    >
      <Form.Control
        size="sm"
        type="number"
        min={0}
        max={100000}
        aria-label={`Actual minutes of ${step.title}`}
        placeholder="actual min"
        value={minutes}
        onChange={(event) => setMinutes(event.target.value)}
      />
      <Form.Control
        size="sm"
        aria-label={`Note on ${step.title}`}
        placeholder="note"
        value={note}
        onChange={(event) => setNote(event.target.value)}
        maxLength={2000}
      />
      <Button size="sm" type="submit">
        Sign
      </Button>
    </form>
  );
}
