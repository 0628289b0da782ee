import { printClockIn, printCount, printMinutes } from '@ulvane/core/quantity';
import type { CauseRow } from '@ulvane/core/record';
import type { CauseAnswer } from '@ulvane/core/trouble';
import { useRef, type KeyboardEvent } from 'react';
import { useZone } from '../../shell/Instant';
import type { TroubleReading } from './useTrouble';

const answerLabels: Readonly<Record<CauseAnswer, string>> = { yes: 'Yes', no: 'No', cannot: 'Cannot check' };
const answerKeys: Readonly<Partial<Record<string, CauseAnswer>>> = { y: 'yes', n: 'no', 0: 'cannot' };

type CauseTableProps = {
  readonly reading: TroubleReading;
  /** The cause whose remedy is shown below. */
  readonly chosenId: string | undefined;
  readonly canAnswer: boolean;
  readonly onAnswer: (causeId: string, answer: CauseAnswer) => void;
  readonly onChoose: ((causeId: string) => void) | undefined;
};

/** The causes in order of likelihood, each with its reason, its check and its remedy. */
export function CauseTable({ reading, chosenId, canAnswer, onAnswer, onChoose }: CauseTableProps) {
  const { rows, cases, timesOf } = reading;
  const table = useRef<HTMLTableElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined || !(document.activeElement instanceof HTMLElement)) return;
    const groups = [...(table.current?.querySelectorAll<HTMLElement>('[data-answers]') ?? [])];
    const at = groups.findIndex((group) => group.contains(document.activeElement));
    const next = groups[at + step]?.querySelector('button');
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  return (
    <div className="table-scroll">
      <table className="causes" ref={table} onKeyDown={onKeyDown}>
        <thead>
          <tr>
            <th scope="col">
              <span className="visually-hidden">Place</span>
            </th>
            <th scope="col">
              Cause, in order of likelihood for this device{cases === 0 ? ' by its state alone' : ''}, and why
            </th>
            {cases > 0 && <th scope="col">Seen here, of {cases}</th>}
            <th scope="col">Check</th>
            <th scope="col">Answer</th>
            <th scope="col">Remedy</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <tr
              key={row.cause.id}
              data-cause={row.cause.id}
              className={`${row.isExcluded ? 'excluded' : ''}${row.cause.id === chosenId ? ' chosen' : ''}`}
            >
              <td className="cause-number">{index + 1}</td>
              <th scope="row">
                <span className="cause-title">{row.cause.title}</span>
                <span className="cause-why">{row.cause.because}</span>
              </th>
              {cases > 0 && (
                <td className="cause-cases">
                  <Ticks of={cases} times={timesOf(row.cause.id)} />
                  {printCount(timesOf(row.cause.id), 'time')}
                </td>
              )}
              <td>
                {row.cause.likelihood === 0 ? (
                  'None needed.'
                ) : (
                  <>
                    {row.cause.check.what} {printMinutes(row.cause.check.minutes)}.
                  </>
                )}
              </td>
              <td>
                <Answer row={row} canAnswer={canAnswer} onAnswer={onAnswer} />
              </td>
              <td>
                <RemedyCell row={row} isChosen={row.cause.id === chosenId} onChoose={onChoose} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** So many ticks at most: a house that saw a sign more often has the figure beside them. */
const maxTicks = 9;

function Ticks({ of, times }: { readonly of: number; readonly times: number }) {
  const shown = Math.min(of, maxTicks);
  const tall = of > maxTicks ? Math.round((times / of) * maxTicks) : times;
  return (
    <svg width={shown * 8 + 2} height="14" aria-hidden="true" className="ticks">
      {Array.from({ length: shown }, (_unused, index) => (
        <path
          key={index}
          className={index < tall ? 'tall' : ''}
          d={`M${index * 8 + 2} ${index < tall ? 1 : 9}V13`}
        />
      ))}
    </svg>
  );
}

function Answer({
  row: { cause, answer },
  canAnswer,
  onAnswer,
}: {
  readonly row: CauseRow;
  readonly canAnswer: boolean;
  readonly onAnswer: CauseTableProps['onAnswer'];
}) {
  const zone = useZone();
  if (cause.likelihood === 0)
    return (
      <>
        <strong>No,</strong> by the state
      </>
    );
  const give = (given: CauseAnswer) => onAnswer(cause.id, given);
  return (
    <>
      {answer && (
        <span className="d-block">
          <strong>{answerLabels[answer.answer]}.</strong> {answer.by}, {printClockIn(zone, answer.at)}, took{' '}
          {printMinutes(answer.minutes)}
        </span>
      )}
      {canAnswer && (
        <div
          className={`answers no-print${answer ? ' again' : ''}`}
          role="group"
          aria-label={`Is it this: ${cause.title}`}
          data-answers={cause.id}
          onKeyDown={(event) => {
            const given = answerKeys[event.key.toLowerCase()];
            if (!given || event.ctrlKey || event.metaKey || event.altKey) return;
            event.preventDefault();
            give(given);
          }}
        >
          {(['yes', 'no', 'cannot'] as const).map((one) => (
            <button key={one} type="button" aria-pressed={answer?.answer === one} onClick={() => give(one)}>
              {answerLabels[one]}
            </button>
          ))}
        </div>
      )}
      {!answer && <span className="print-only">□ Yes □ No □ Cannot check</span>}
    </>
  );
}

function RemedyCell({
  row: { cause, isExcluded },
  isChosen,
  onChoose,
}: {
  readonly row: CauseRow;
  readonly isChosen: boolean;
  readonly onChoose: CauseTableProps['onChoose'];
}) {
  const { remedy } = cause;
  const title = typeof remedy === 'string' ? 'No detour: see below' : remedy.title;
  const minutes =
    typeof remedy === 'string'
      ? 0
      : remedy.stops.reduce((sum, stop) => sum + stop.minutes + (stop.waiting ?? 0), 0);
  const text = typeof remedy === 'string' ? title : `${title}, ${printMinutes(minutes)}`;
  if (isExcluded || !onChoose) return isChosen && !isExcluded ? <strong>{text}</strong> : <>{text}</>;
  return (
    <>
      <button
        type="button"
        className="btn-plain remedy-choice"
        aria-pressed={isChosen}
        onClick={() => onChoose(cause.id)}
      >
        {text}
        {isChosen && ': below'}
      </button>
      <span className="print-only">{text}</span>
    </>
  );
}
