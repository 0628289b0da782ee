import type { Fate, Segment } from '@ulvane/core/disk';
import { printBothUnits, printBytes, type UnitFamily } from '@ulvane/core/quantity';
import { ticks as niceTicks } from 'd3-array';
import type { ScaleLinear } from 'd3-scale';

export const barHeight = 36;
/** Room above a bar for its ticks. */
export const ticksHeight = 20;

/** Shape before colour: hatched moves, cross-hatched goes. */
export function Patterns({ id }: { readonly id: string }) {
  return (
    <defs>
      <pattern id={`${id}-erased`} width="7" height="7" patternUnits="userSpaceOnUse">
        <path d="M0 0L7 7M7 0L0 7" stroke="var(--line)" strokeWidth="1" />
      </pattern>
      <pattern id={`${id}-moved`} width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="#f3e8cf" />
        <path d="M-2 10L10 -2M-2 2L2 -2M6 10L10 6" stroke="var(--wait)" strokeWidth="1.2" />
      </pattern>
    </defs>
  );
}

type ScaleProps = { readonly scale: ScaleLinear<number, number>; readonly sectorSizeBytes: number };

export function Ticks({
  bytes,
  sectorSizeBytes,
  scale,
  width,
  unit,
}: ScaleProps & { readonly bytes: number; readonly width: number; readonly unit: UnitFamily }) {
  const base = unit === 'decimal' ? 1000 : 1024;
  // Round numbers of the unit that is read, not of bytes.
  const power = base ** Math.max(0, Math.floor(Math.log(bytes) / Math.log(base) - 0.3));
  const wanted = Math.max(6, Math.round(width / 95));
  let lastLabel = -Infinity;
  return niceTicks(0, bytes / power, wanted).map((tick) => {
    const x = scale((tick * power) / sectorSizeBytes);
    const labelled = tick > 0 && x < width - 30 && x - lastLabel > 52;
    if (labelled) lastLabel = x;
    return (
      <g key={tick}>
        <line x1={x} x2={x} y1={14} y2={ticksHeight} stroke="var(--ink)" />
        {labelled && (
          <text x={x} y="11" textAnchor="middle" style={{ fill: 'var(--soft)' }}>
            {printBytes(Math.round(tick * power), unit).replace('.0 ', ' ')}
          </text>
        )}
      </g>
    );
  });
}

/** One state of a disk, to scale: a piece for every partition, told apart by shape before colour. */
export function Bar({
  id,
  y,
  width,
  segments,
  scale,
  sectorSizeBytes,
}: ScaleProps & {
  readonly id: string;
  readonly y: number;
  readonly width: number;
  readonly segments: readonly Segment[];
}) {
  return (
    <g transform={`translate(0,${y})`}>
      <rect width={width} height={barHeight} fill="#efe7d0" stroke="var(--ink)" />
      {segments
        .filter(({ kind }) => kind === 'partition')
        .map((segment) => (
          <Piece
            key={segment.startLba}
            id={id}
            segment={segment}
            x={scale(segment.startLba)}
            w={scale(segment.startLba + segment.sectorCount) - scale(segment.startLba)}
            sectorSizeBytes={sectorSizeBytes}
          />
        ))}
    </g>
  );
}

const looks: Readonly<
  Record<Fate, { readonly fill?: string; readonly stroke: string; readonly dash?: string }>
> = {
  kept: { fill: '#cfe3df', stroke: 'var(--go)' },
  moved: { stroke: 'var(--wait)' },
  new: { fill: 'var(--sheet)', stroke: 'var(--ink)', dash: '6 3' },
  unknown: { fill: 'var(--sheet)', stroke: 'var(--ink)', dash: '1.5 3' },
  erased: { stroke: 'var(--line)' },
};

function Piece({
  id,
  segment,
  x,
  w,
  sectorSizeBytes,
}: {
  readonly id: string;
  readonly segment: Segment;
  readonly x: number;
  readonly w: number;
  readonly sectorSizeBytes: number;
}) {
  const { fill, stroke, dash } = looks[segment.fate];
  const { label, partitionNumber } = segment;
  const textWidth = label.length * 7 + 8;
  const short = partitionNumber === undefined ? '' : String(partitionNumber);
  const text = w > textWidth ? label : w > short.length * 7 + 4 ? short : '';
  const patterned = segment.fate === 'erased' || segment.fate === 'moved';
  const drawn = text === label ? textWidth : text.length * 7 + 4;
  return (
    <g>
      <title>{`${partitionNumber === undefined ? '' : `${partitionNumber}: `}${label}, ${printBothUnits(segment.sectorCount * sectorSizeBytes)}, from sector ${segment.startLba}`}</title>
      <rect
        x={x + Math.min(1, w / 4)}
        y={1}
        width={Math.max(1, w - Math.min(2, w / 2))}
        height={barHeight - 2}
        fill={fill ?? `url(#${id}-${segment.fate})`}
        stroke={stroke}
        strokeDasharray={dash}
        strokeWidth="1.3"
      />
      {text !== '' && (
        <>
          {patterned && (
            <rect x={x + w / 2 - drawn / 2} y={9} width={drawn} height={18} fill="var(--sheet)" />
          )}
          <text
            x={x + w / 2}
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
