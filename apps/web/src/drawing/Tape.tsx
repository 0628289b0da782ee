import { diskBytes, diskMark, printBothUnits, printBytes, type Disk, type Segment } from '@ulvane/core';
import { scaleLinear, ticks as niceTicks } from 'd3';
import { useId } from 'react';

type TapeProps = {
  readonly disk: Disk;
  readonly before: readonly Segment[];
  /** Undefined where the route changes nothing on this disk. */
  readonly after: readonly Segment[] | undefined;
};

const width = 500;
const barHeight = 36;
const gap = 46;
/** A very small partition still gets this many pixels. */
const smallest = 9;

type Placed = Segment & { readonly x: number; readonly w: number };

/** Places segments along the tape: true to scale but for the smallest, whose pixels the largest give up. */
function place(segments: readonly Segment[], sectorCount: number): readonly Placed[] {
  const scale = scaleLinear().domain([0, sectorCount]).range([0, width]);
  const wanted = segments.map(({ kind, sectorCount: sectors }) =>
    Math.max(scale(sectors), kind === 'partition' ? smallest : 0),
  );
  const tooMuch = wanted.reduce((sum, w) => sum + w, 0) - width;
  const largest = wanted.indexOf(Math.max(...wanted));
  let x = 0;
  return segments.map((segment, index) => {
    const w = (wanted[index] ?? 0) - (index === largest ? tooMuch : 0);
    const placed = { ...segment, x, w };
    x += w;
    return placed;
  });
}

/** A disk as a measuring tape: before above, after below, ribbons for what stays. */
export function Tape({ disk, before, after }: TapeProps) {
  const id = useId();
  const was = place(before, disk.sectorCount);
  const is = after ? place(after, disk.sectorCount) : undefined;
  const height = 26 + barHeight + (is ? gap + barHeight : 0) + 8;
  const bytes = diskBytes(disk);
  const axis = scaleLinear().domain([0, bytes]).range([0, width]);
  const y2 = 20 + barHeight + gap;
  const kept = is ? was.filter(({ kind, fate }) => kind === 'partition' && fate === 'kept') : [];
  const erased = is ? was.filter(({ fate }) => fate === 'erased') : [];
  return (
    <figure className="mb-0">
      <svg
        className="tape"
        viewBox={`-1 0 ${width + 2} ${height}`}
        role="img"
        aria-labelledby={`${id}-title`}
      >
        <title id={`${id}-title`}>
          Disk {diskMark(disk)}, {printBothUnits(bytes)}:{' '}
          {before.filter(({ kind }) => kind === 'partition').length} partitions
          {is ? ', and how it looks afterwards' : ''}. The table below says the same.
        </title>
        <defs>
          <pattern id={`${id}-erased`} width="7" height="7" patternUnits="userSpaceOnUse">
            <path d="M0 0L7 7M7 0L0 7" stroke="var(--line)" strokeWidth="1" />
          </pattern>
        </defs>
        <text x="0" y="12">
          now
        </text>
        <Bar id={id} y={20} segments={was} />
        {niceTicks(0, bytes, 6).map((tick) => (
          <g key={tick}>
            <line x1={axis(tick)} x2={axis(tick)} y1={14} y2={20} stroke="var(--ink)" />
            {tick > 0 && axis(tick) < width - 30 && (
              <text x={axis(tick)} y="11" textAnchor="middle" style={{ fill: 'var(--soft)' }}>
                {printBytes(tick, 'decimal', 0)}
              </text>
            )}
          </g>
        ))}
        {is && (
          <>
            {kept.map((segment) => {
              const stays = is.find(
                ({ startLba, sectorCount }) =>
                  startLba === segment.startLba && sectorCount === segment.sectorCount,
              );
              return stays ? (
                <g key={segment.startLba}>
                  <path
                    d={`M${segment.x} ${20 + barHeight}L${stays.x} ${y2}L${stays.x + stays.w} ${y2}L${segment.x + segment.w} ${20 + barHeight}Z`}
                    fill="var(--go)"
                    opacity="0.14"
                  />
                  {segment.w > 130 && (
                    <text x={segment.x + segment.w / 2} y={20 + barHeight + gap / 2 + 4} textAnchor="middle">
                      stays, byte for byte
                    </text>
                  )}
                </g>
              ) : null;
            })}
            {erased.map((segment) =>
              segment.w > 80 ? (
                <text
                  key={segment.startLba}
                  x={segment.x + segment.w / 2}
                  y={20 + barHeight + gap / 2 + 4}
                  textAnchor="middle"
                  style={{ fill: 'var(--line)', fontWeight: 600 }}
                >
                  erased here
                </text>
              ) : null,
            )}
            <text x="0" y={y2 - 5}>
              after
            </text>
            <Bar id={id} y={y2} segments={is} />
          </>
        )}
      </svg>
      <SegmentTable disk={disk} before={before} after={after} />
    </figure>
  );
}

function Bar({
  id,
  y,
  segments,
}: {
  readonly id: string;
  readonly y: number;
  readonly segments: readonly Placed[];
}) {
  return (
    <g transform={`translate(0,${y})`}>
      <rect width={width} height={barHeight} fill="#efe7d0" stroke="var(--ink)" />
      {segments
        .filter(({ kind }) => kind === 'partition')
        .map((segment) => (
          <Piece key={segment.startLba} id={id} segment={segment} />
        ))}
    </g>
  );
}

const looks = {
  kept: { fill: '#cfe3df', stroke: 'var(--go)', dash: undefined },
  new: { fill: 'var(--sheet)', stroke: 'var(--ink)', dash: '6 3' },
  unknown: { fill: 'var(--sheet)', stroke: 'var(--ink)', dash: '1.5 3' },
  erased: { fill: undefined, stroke: 'var(--line)', dash: undefined },
} as const;

function Piece({ id, segment }: { readonly id: string; readonly segment: Placed }) {
  const { fill, stroke, dash } = looks[segment.fate];
  const text = `${segment.label}`;
  const textWidth = text.length * 7 + 8;
  return (
    <g>
      <rect
        x={segment.x + 1}
        y={1}
        width={Math.max(1, segment.w - 2)}
        height={barHeight - 2}
        fill={fill ?? `url(#${id}-erased)`}
        stroke={stroke}
        strokeDasharray={dash}
        strokeWidth="1.3"
      />
      {segment.w > textWidth && (
        <>
          {segment.fate === 'erased' && (
            <rect
              x={segment.x + segment.w / 2 - textWidth / 2}
              y={9}
              width={textWidth}
              height={18}
              fill="var(--sheet)"
            />
          )}
          <text
            x={segment.x + segment.w / 2}
            y={22}
            textAnchor="middle"
            textDecoration={segment.fate === 'erased' ? 'line-through' : undefined}
          >
            {text}
          </text>
        </>
      )}
    </g>
  );
}

const fateWords = { kept: 'stays', erased: 'erased', new: 'new', unknown: 'unknown' } as const;

function SegmentTable({ disk, before, after }: TapeProps) {
  const rows = [
    ...before.map((segment) => ({ when: 'now', segment })),
    ...(after ?? []).map((segment) => ({ when: 'after', segment })),
  ].filter(({ segment }) => segment.kind === 'partition');
  return (
    <details className="mt-1">
      <summary className="small-print">The same as a table</summary>
      <div className="table-scroll">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Partition</th>
              <th scope="col" className="number">
                Size
              </th>
              <th scope="col" className="number">
                First and last sector
              </th>
              <th scope="col">Fate</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ when, segment }) => (
              <tr key={`${when} ${segment.startLba}`}>
                <td>{when}</td>
                <td>
                  {segment.partitionNumber !== undefined && `${segment.partitionNumber}: `}
                  {segment.label}
                </td>
                <td className="number">{printBothUnits(segment.sectorCount * disk.sectorBytes)}</td>
                <td className="number mono">
                  {segment.startLba} – {segment.startLba + segment.sectorCount - 1}
                </td>
                <td>{fateWords[segment.fate]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
