import { printClockIn } from '@ulvane/core/quantity';
import { scaleTime } from 'd3-scale';
import { useId } from 'react';
import { WaitPattern } from './WaitPattern';
import { useWidth } from './flow/useWidth';

type Span = {
  readonly from: string;
  readonly handsUntil: string;
  readonly until: string;
};

type DayStripProps = {
  readonly spans: readonly Span[];
  readonly now: string;
  readonly lineAt: string | undefined;
  readonly doneAt: string;
  readonly zone: string;
};

/** The day of a move: hands-on solid, waiting hatched, with now, the Line and the end. */
export function DayStrip({ spans, now, lineAt, doneAt, zone }: DayStripProps) {
  const id = useId();
  const [frame, width] = useWidth<HTMLDivElement>(430);
  const begin = spans.reduce((first, { from }) => (from < first ? from : first), now);
  const end = doneAt > now ? doneAt : now;
  const x = scaleTime([new Date(begin), new Date(end > begin ? end : doneAt)], [1, width - 1]);
  const at = (instant: string) => x(new Date(instant));
  const clock = (instant: string) => printClockIn(zone, instant).slice(0, 5);
  const mark = printClockIn(zone, now).slice(6);
  const hours = x.ticks(6).filter((tick) => x(tick) > 16 && x(tick) < width - 16);
  const nowX = at(now);
  const lineX = lineAt === undefined ? undefined : at(lineAt);
  // Words above the strip, each where the one before leaves room.
  const isFar = (one: number, other: number) => Math.abs(one - other) > 66;
  return (
    <div ref={frame}>
      <svg
        className="day-strip"
        width={width}
        height="56"
        role="img"
        aria-label={`From ${clock(begin)} to ${clock(end)} ${mark}; now ${clock(now)}${lineAt === undefined ? '' : `, the Line about ${clock(lineAt)}`}`}
      >
        <WaitPattern id={id} />
        {isFar(nowX, 0) && (
          <text x="0" y="11">
            {clock(begin)}
          </text>
        )}
        {isFar(nowX, width) && (
          <text x={width} y="11" textAnchor="end">
            {clock(end)} {mark}
          </text>
        )}
        {spans.map(({ from, handsUntil, until }) => (
          <g key={`${from} ${until}`}>
            <rect
              x={at(from)}
              y="18"
              width={Math.max(0, at(handsUntil) - at(from))}
              height="13"
              fill="var(--ink)"
              stroke="#fffdf8"
              strokeWidth="0.5"
            />
            <rect
              x={at(handsUntil)}
              y="18"
              width={Math.max(0, at(until) - at(handsUntil))}
              height="13"
              fill={`url(#${id})`}
            />
          </g>
        ))}
        <rect x="0.5" y="17.5" width={Math.max(0, width - 1)} height="14" fill="none" stroke="var(--soft)" />
        {hours.map((tick) => (
          <g key={tick.toISOString()}>
            <path d={`M${x(tick)} 32V37`} stroke="var(--ink)" />
            <text x={x(tick)} y="50" textAnchor="middle">
              {clock(tick.toISOString())}
            </text>
          </g>
        ))}
        {lineX !== undefined && (
          <g className="the-line-mark">
            <path d={`M${lineX - 2.5} 13V36M${lineX + 2.5} 13V36`} />
            {lineAt !== undefined && isFar(lineX, nowX) && isFar(lineX, width) && isFar(lineX, 0) && (
              <text x={lineX} y="11" textAnchor="middle">
                {clock(lineAt)}
              </text>
            )}
          </g>
        )}
        <g className="reading-line">
          <path d={`M${nowX} 13V36`} />
          <text x={nowX} y="11" textAnchor={nowX < 40 ? 'start' : nowX > width - 40 ? 'end' : 'middle'}>
            now {clock(now)}
          </text>
        </g>
      </svg>
    </div>
  );
}
