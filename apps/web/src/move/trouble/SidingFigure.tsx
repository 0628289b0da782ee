import { printClockIn } from '@ulvane/core/quantity';
import { gates, lineCrossed, standingOf, type Runbook } from '@ulvane/core/runbook';
import { stopLetter, type TroublePlace } from '@ulvane/core/trouble';
import { HandsBar } from '../../drawing/HandsBar';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { copiesIn } from '../runbook/usePlanned';
import type { DetourTimes, useDetour } from './useTrouble';

type Detour = NonNullable<NonNullable<ReturnType<typeof useDetour>>['detour']>;

type SidingFigureProps = {
  readonly runbook: Runbook;
  readonly place: TroublePlace;
  readonly detour: Detour;
  readonly times: DetourTimes;
  readonly seenAt: string;
  /** When the move goes on with its own step; instant. */
  readonly goesOnAt: string;
  /** When the steps after that one begin; instants. */
  readonly aheadTimes: readonly string[];
};

const mainY = 42;
const sideY = 94;
const hereX = 210;
const firstStopX = 300;
const stopGap = 142;
const rowsY = 206;
const rowHeight = 40;
/** More stops than these scroll sideways. */
const stopsInWidth = 5;

/** Data sets with as many copies all along, together. */
function copyRows(detour: Detour, nameOf: (id: string) => string) {
  const machines = [detour.before, ...detour.stops.map(({ after }) => after)];
  const rows = detour.before.data.map(({ id, name, good }, at) => {
    const counts = machines.map(({ data }) => {
      const one = data[at];
      return one ? copiesIn(one) : 0;
    });
    const original = detour.before.data[at]?.original;
    const where = good.map(nameOf).join(' and ');
    const gone = original === 'gone';
    return {
      id,
      name,
      counts,
      way: `${counts.join()} ${gone} ${where}`,
      text: `${counts[0] === 1 ? '1 copy' : `${counts[0] ?? 0} copies`}${gone ? ', no original' : ''}${where === '' ? '' : `: ${gone ? '' : 'the device, '}${where}`}.`,
      risked: detour.stops.flatMap(({ risks }, stop) => (risks.includes(id) ? [stopLetter(stop)] : [])),
      gone,
    };
  });
  return [...new Set(rows.map(({ way }) => way))].map((way) => {
    const group = rows.filter((row) => row.way === way);
    const [first] = group;
    return { ...(first ?? rows[0]), group } as { readonly group: typeof rows } & (typeof rows)[number];
  });
}

/** The siding: the runbook waits at its step while the stops of the detour are done, and goes on from there. */
export function SidingFigure({
  runbook,
  place,
  detour,
  times,
  seenAt,
  goesOnAt,
  aheadTimes,
}: SidingFigureProps) {
  const { move } = useOpenMove();
  const zone = useZone();
  const clock = (at: string) => printClockIn(zone, at).replace(/ .*$/, '');
  const nameOf = (id: string) => move.destinations.find((one) => one.id === id)?.name ?? id;
  const { index } = place;
  const { stops } = detour;
  const gap =
    stops.length > 1
      ? Math.max(118, Math.min(stopGap, (stopGap * (stopsInWidth - 1)) / (stops.length - 1)))
      : stopGap;
  const stopX = (at: number) => firstStopX + at * gap;
  const lastX = stopX(Math.max(0, stops.length - 1));
  const boxEnd = Math.max(984, lastX + 118);
  const backX = boxEnd + 47;
  const width = boxEnd + 248;
  const ahead = runbook.steps.slice(index + 1, index + 4);
  const before = runbook.steps[index - 1];
  const rows = copyRows(detour, nameOf);
  const longest = Math.max(...stops.map(({ step }) => step.handsOn.likely + step.waiting.likely));
  const height = rowsY + Math.max(1, rows.length) * rowHeight;
  const crossed = lineCrossed(runbook, move.signatures);
  const lineAhead = runbook.lineIndex === null ? -1 : runbook.lineIndex - index - 1;
  const crossedAt = crossed
    ? move.signatures.find(({ stepId }) => stepId === runbook.steps[runbook.lineIndex ?? -1]?.id)?.at
    : undefined;
  const aheadX = (at: number) => backX + 62 + at * 56;
  const label = `The detour leaves the runbook at step ${index + 1}, has ${stops.length} stops, and comes back to step ${index + 1} at ${printClockIn(zone, goesOnAt)}.`;
  return (
    <div className="siding-scroll" role="group" tabIndex={0} aria-label={label}>
      <div className="siding-figure" style={{ width, height }}>
        <svg width={width} height={height} aria-hidden="true">
          <rect className="siding-sheet" x="274" y="62" width={boxEnd - 274} height={height - 64} />
          {stops.map(
            ({ step, id }, at) =>
              step.barrier && (
                <g key={id}>
                  <rect className="siding-risk" x={stopX(at) - 26} y="63" width={gap} height={height - 66} />
                  <path className="boom-post" d={`M${stopX(at) - 26} 79V107`} />
                  <path className="boom" d={`M${stopX(at) - 39} 80h26`} />
                </g>
              ),
          )}
          <path className="waits" d={`M246 ${mainY}H${backX - 22}`} />
          {[
            `M110 ${mainY}H238`,
            `M${backX - 14} ${mainY}H${width - 4}`,
            `M${hereX} ${mainY}C258 ${mainY} 238 ${sideY} 300 ${sideY}H${boxEnd - 16}C${boxEnd + 35} ${sideY} ${boxEnd} ${mainY} ${backX} ${mainY}`,
          ].map((path) => (
            <g key={path}>
              <path className="rail" d={path} />
              <path className="rail-inside" d={path} />
            </g>
          ))}
          <path className="buffer" d={`M241 31V53`} />
          {before && (
            <Stop
              x={146}
              y={mainY}
              text={String(index)}
              isDone={standingOf(move.signatures, before.id).state === 'signed'}
            />
          )}
          <Stop x={hereX} y={mainY} text={String(index + 1)} isDone={false} />
          <Stop x={backX} y={mainY} text={String(index + 1)} isDone={false} />
          {ahead.map((step, at) => (
            <Stop key={step.id} x={aheadX(at)} y={mainY} text={String(index + 2 + at)} isDone={false} />
          ))}
          {stops.map(({ id }, at) => (
            <Stop
              key={id}
              x={stopX(at)}
              y={sideY}
              text={stopLetter(at)}
              isDone={standingOf(move.signatures, id).state === 'signed'}
              isStuck={detour.obstacle?.stepId === id}
            />
          ))}
          {crossed && <path className="line-mark" d={`M102 16V${height}M107 16V${height}`} />}
          {!crossed && lineAhead >= 0 && lineAhead < ahead.length && (
            <path
              className="line-mark"
              d={`M${aheadX(lineAhead) - 31} 16V${height}M${aheadX(lineAhead) - 26} 16V${height}`}
            />
          )}
          {detour.wayBack.length > 0 && (
            <>
              <path
                className="way-back"
                d={`M${lastX + 44} 172V181Q${lastX + 44} 186 ${lastX + 39} 186H215Q${hereX} 186 ${hereX} 181V62`}
              />
              <path className="way-back-head" d={`M${hereX} 56l-5 9h10z`} />
            </>
          )}
          <path className="copies-top" d={`M0 ${rowsY - 6}H${width}`} />
          {rows.map(({ id, counts }, at) => {
            const base = rowsY + at * rowHeight + 30;
            const y = (count: number) => base - Math.min(3, count) * 8;
            const steps = counts
              .map((count, place) => (place === 0 ? `M116 ${y(count)}` : `H${stopX(place - 1)}V${y(count)}`))
              .join('');
            return (
              <g key={id}>
                <path className="copies-base" d={`M116 ${base}H${width - 4}`} />
                <path className="copies" d={`${steps}H${width - 4}`} />
              </g>
            );
          })}
        </svg>
        <Text x={0} y={10} width={96} soft>
          Begins, {printClockIn(zone, goesOnAt).slice(6)}
        </Text>
        <Text x={0} y={33} width={96} bold>
          Runbook
        </Text>
        <Text x={0} y={85} width={96} bold>
          Detour
        </Text>
        {crossedAt !== undefined && (
          <Text x={0} y={112} width={96} line>
            The Line, {clock(crossedAt)}
          </Text>
        )}
        {before && (
          <Text x={118} y={56} width={82}>
            {short(before.title)}
          </Text>
        )}
        <Text x={228} y={10} width={90} bold>
          {clock(seenAt)}
        </Text>
        <Text x={330} y={20} width={backX - 400} soft centred>
          The runbook waits from {clock(seenAt)} to {clock(goesOnAt)}: from step {index + 1} on nothing can be
          signed
        </Text>
        <Text x={backX - 34} y={10} width={68} bold centred>
          {clock(goesOnAt)}
        </Text>
        {ahead.map((step, at) => {
          const from = aheadTimes[at];
          return (
            <Text key={step.id} x={aheadX(at) - 28} y={10} width={56} centred>
              <span title={step.title}>{from === undefined ? '' : clock(from)}</span>
            </Text>
          );
        })}
        <Text x={backX - 40} y={58} width={80} centred>
          {short(place.step.title)} goes on
        </Text>
        {stops.map(({ step, id }, at) => (
          <div
            key={id}
            className="siding-stop"
            style={{ left: stopX(at) - 14, top: sideY - 24, width: gap - 18 }}
          >
            <strong className="stop-time">{times.stops[at] && clock(times.stops[at].from)}</strong>
            <span className="stop-title" title={step.title}>
              {step.title}
            </span>
            <span className="stop-minutes">
              <HandsBar
                handsOnMinutes={step.handsOn.likely}
                waitingMinutes={step.waiting.likely}
                fullMinutes={longest}
              />
              <span className="text-nowrap">
                {step.handsOn.likely}
                {step.waiting.likely > 0 && ` + ${step.waiting.likely}`} min
              </span>
            </span>
            {step.barrier && (
              <span className="stop-barrier">
                barrier:{' '}
                {gates
                  .filter(({ id: gate }) => step.barrier?.gates.includes(gate))
                  .map(({ title }) => title.toLowerCase())
                  .join(', ')}
              </span>
            )}
          </div>
        ))}
        {detour.wayBack.length > 0 && (
          <Text x={284} y={178} width={Math.min(lastX + 30, boxEnd) - 296} clear>
            <strong>Way back, {detour.wayBackMinutes} min:</strong>{' '}
            {detour.wayBack.map(({ undo }) => undo).join(' ')}
          </Text>
        )}
        <Text x={0} y={rowsY - 22} width={104} soft>
          Copies meanwhile
        </Text>
        {rows.map(({ id, name, group, text, risked, gone }, at) => (
          <div key={id}>
            <Text x={0} y={rowsY + at * rowHeight} width={112}>
              <strong>{name}</strong>
              {group.length > 1 && <span className="soft"> + {group.length - 1}</span>}
            </Text>
            <Text x={282} y={rowsY + at * rowHeight + 18} width={boxEnd - 290} clear>
              {gone ? <strong>{text}</strong> : text}{' '}
              {risked.length > 0
                ? `At risk in ${risked.join(', ')}.`
                : gone
                  ? 'No stop touches them: do not wipe or lend these drives before they are restored.'
                  : 'No stop of the detour risks them.'}
            </Text>
          </div>
        ))}
        {rows.length === 0 && (
          <Text x={116} y={rowsY} width={500} soft>
            No data set is listed in this move.
          </Text>
        )}
      </div>
    </div>
  );
}

const short = (title: string) => (title.length > 26 ? `${title.slice(0, 24).trimEnd()}…` : title);

function Stop({
  x,
  y,
  text,
  isDone,
  isStuck = false,
}: {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly isDone: boolean;
  readonly isStuck?: boolean;
}) {
  return (
    <g className={`stop-mark${isDone ? ' done' : ''}${isStuck ? ' stuck' : ''}`}>
      <circle cx={x} cy={y} r="11" />
      <text x={x} y={y + 4.5}>
        {text}
      </text>
    </g>
  );
}

type TextProps = {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly soft?: boolean;
  readonly bold?: boolean;
  readonly line?: boolean;
  readonly centred?: boolean;
  /** Legible over what is drawn below it. */
  readonly clear?: boolean;
  readonly children: React.ReactNode;
};

function Text({ x, y, width, soft, bold, line, centred, clear, children }: TextProps) {
  const classes = [
    soft && 'soft',
    bold && 'fw-bold',
    line && 'siding-line',
    centred && 'text-center',
    clear && 'siding-clear',
  ];
  return (
    <div className={`siding-text ${classes.filter(Boolean).join(' ')}`} style={{ left: x, top: y, width }}>
      {children}
    </div>
  );
}
