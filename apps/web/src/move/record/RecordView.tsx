import { api, type LogRecord } from '@ulvane/contract';
import { printClockIn, printInstantIn, printCount } from '@ulvane/core/quantity';
import { foldLog, isException, lineProofs, proofOf, type LineProof } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import useSWR from 'swr';
import { addressOf, call } from '../../api/call';
import { keys } from '../../api/keys';
import { ProofMark } from '../../drawing/ProofMark';
import { useZone } from '../../shell/Instant';
import { Loading } from '../../shell/Loading';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { RecordRows } from './RecordRows';
import { useChainCheck } from './useChainCheck';

/** The record of a move, checked line by line in this browser. */
export function RecordView() {
  const { move, view } = useOpenMove();
  const params = { reference: move.reference };
  const zone = useZone();
  const [again, setAgain] = useState(0);
  const { data, error, mutate } = useSWR<LogRecord, unknown>(keys.record(move.reference, view.version), () =>
    call(api.events, { params }),
  );
  const checked = useChainCheck(data, again);
  if (!data) return error === undefined ? <Loading what="the record" /> : <Problem error={error} />;
  const { lines } = data;
  const crossing = crossingOf(move, lines);
  const fault = checked?.fault ?? null;
  const [first] = lines;
  const last = lines.at(-1);
  return (
    <section aria-labelledby="record-title">
      <title>{`Record of ${move.reference} · Ulvane`}</title>
      <div className="page-head">
        <h2 id="record-title" role="status">
          {!checked
            ? `Record: checking ${printCount(lines.length, 'line')} …`
            : fault
              ? `Record: line ${fault.number} does not fit`
              : `Record: all ${printCount(lines.length, 'line')} fit`}
        </h2>
        <span className="soft">
          {checked &&
            `checked in this browser at ${printClockIn(zone, checked.at)} ${checked.seconds < 0.05 ? 'in under 0.1 s' : `in ${checked.seconds.toFixed(1)} s`}; `}
          {first &&
            last &&
            `written from ${printInstantIn(zone, first.at)} to ${printInstantIn(zone, last.at)}`}
        </span>
        <span className="ms-auto d-flex gap-2 no-print">
          <a
            className="btn btn-quiet"
            href={addressOf(api.exportMove, { params })}
            download={`${move.reference}.json`}
          >
            Export as JSON
          </a>
          <Button
            onClick={() => {
              void mutate();
              setAgain((count) => count + 1);
            }}
          >
            Check again
          </Button>
        </span>
      </div>
      <Problem error={error} />
      {fault && (
        <div className="notice" role="alert">
          <strong>{fault.sentence}</strong>{' '}
          {fault.number > 1 ? `Lines 1 to ${fault.number - 1} are proved.` : 'No line is proved.'} What comes
          after is not. Tell a lead, and keep the export as it is.
        </div>
      )}
      <div className="record-columns">
        <div>
          <div className="record-head" aria-hidden="true">
            <span className="number">Line</span>
            <span>When, who</span>
            <span>What</span>
            <span>Code, cut to fit</span>
          </div>
          <RecordRows rows={foldLog(lines, crossing)} fault={fault} crossing={crossing} />
        </div>
        <div className="record-side">
          <section>
            <h3>Check</h3>
            <p className="soft">Each line holds the code of the line before.</p>
            <LineTicks lines={lines} crossing={crossing} faultAt={fault?.number ?? null} />
            <Counts lines={lines} />
          </section>
          <Exceptions lines={lines} />
          <section>
            <h3>Without Ulvane</h3>
            <p>
              The code of a line is SHA-256 of a JSON array: the code of the line before, the id of the move,
              the number, the time in UTC, who, the kind, the sentence, who imported it, and the code of the
              record after it. <code>/api/v1/moves/{move.reference}/events</code> hands out all of it;
              docs/formats.md shows how to make the codes with other tools.
            </p>
          </section>
        </div>
      </div>
    </section>
  );
}

/** The line that signed the step at the Line; null while nothing has crossed it. */
function crossingOf(move: ReturnType<typeof useOpenMove>['move'], lines: LogRecord['lines']): number | null {
  const { plan } = move;
  const at = plan?.runbook.lineIndex ?? null;
  const step = at === null ? undefined : plan?.runbook.steps[at];
  if (!step) return null;
  return (
    lines.findLast(
      ({ kind, sentence }) => kind === 'step-signed' && sentence.startsWith(`${step.title}: signed`),
    )?.number ?? null
  );
}

const ticksWidth = 360;

function LineTicks({
  lines,
  crossing,
  faultAt,
}: {
  readonly lines: LogRecord['lines'];
  readonly crossing: number | null;
  readonly faultAt: number | null;
}) {
  const x = (number: number) => ((number - 0.5) / Math.max(1, lines.length)) * ticksWidth;
  const path = (which: (line: LogRecord['lines'][number]) => boolean, top: number) =>
    lines
      .filter(which)
      .map(({ number }) => `M${x(number).toFixed(1)} ${top}V26`)
      .join('');
  const proved = (number: number) => faultAt === null || number < faultAt;
  return (
    <svg
      className="record-ticks"
      viewBox={`0 0 ${ticksWidth} 44`}
      role="img"
      aria-label={`${printCount(lines.length, 'line')}; overrules, corrections and other exceptions are taller`}
    >
      <path d={path((line) => proved(line.number) && !isException(line), 12)} />
      <path d={path((line) => proved(line.number) && isException(line), 4)} strokeWidth={2} />
      <path d={path((line) => !proved(line.number), 12)} strokeDasharray="2 2" />
      {crossing !== null && (
        <path className="the-line-tick" d={`M${x(crossing) - 2.4} 1V30M${x(crossing) + 2.4} 1V30`} />
      )}
      <text x="0" y="42">
        1
      </text>
      <text x={ticksWidth} y="42" textAnchor="end">
        {lines.length}
      </text>
    </svg>
  );
}

const proofWords: Record<LineProof, string> = {
  compared: 'compared here',
  sampled: 'sampled',
  stated: 'stated by a person',
  measured: 'measured',
  decision: 'decisions',
};

function Counts({ lines }: { readonly lines: LogRecord['lines'] }) {
  const imported = lines.filter(({ importedBy }) => importedBy !== null).length;
  const exceptions = lines.filter(isException).length;
  const people = new Set(lines.map(({ by }) => by)).size;
  const proved = lineProofs
    .map((proof) => ({ proof, count: lines.filter((line) => proofOf(line) === proof).length }))
    .filter(({ count }) => count > 0);
  return (
    <>
      <ul className="proof-counts">
        {proved.map(({ proof, count }) => (
          <li key={proof}>
            <ProofMark mark={proof} label="" /> <strong>{count}</strong> {proofWords[proof]}
          </li>
        ))}
      </ul>
      <p>
        <strong>{lines.length - imported}</strong> written here, by{' '}
        {people === 1 ? '1 person' : `${people} people`}
        {imported > 0 && (
          <>
            ; <strong>{imported}</strong> imported
          </>
        )}
        ; <strong>{exceptions}</strong> {exceptions === 1 ? 'exception' : 'exceptions'}
      </p>
    </>
  );
}

function Exceptions({ lines }: { readonly lines: LogRecord['lines'] }) {
  const found = lines.filter(isException);
  if (found.length === 0) return null;
  return (
    <section>
      <h3>Overrules, corrections and the like</h3>
      <ul className="check-rows">
        {found.slice(-12).map(({ number, sentence, by }) => (
          <li key={number}>
            {sentence}
            <span className="small-print d-block">
              Line {number}, {by}
            </span>
          </li>
        ))}
      </ul>
      {found.length > 12 && <p className="small-print">The last 12 of {found.length} are shown.</p>}
    </section>
  );
}
