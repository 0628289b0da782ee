import type { Segment } from '@ulvane/core/disk';
import { printBothUnits, type UnitFamily } from '@ulvane/core/quantity';
import type { ScaleLinear } from 'd3-scale';
import { ZoomIn, ZoomOut } from 'lucide-react';
import { useId, useMemo, useState } from 'react';
import { SegmentTable } from './SegmentTable';
import { Bar, barHeight, Patterns, Ticks, ticksHeight } from './TapeBar';
import { tapeScale } from './tapeScale';

type TapeProps = {
  /** What the disk is called: its mark. */
  readonly name: string;
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  readonly before: readonly Segment[];
  /** Undefined where nothing changes on this disk. */
  readonly after: readonly Segment[] | undefined;
  /** The container of logical partitions. */
  readonly extended?: { readonly startLba: number; readonly sectorCount: number } | undefined;
};

const baseWidth = 560;
const gap = 46;
const top = ticksHeight;
const zooms = [1, 2, 4, 8, 16] as const;

/** A disk as a measuring tape: before above, after below, ribbons for what stays or moves. */
export function Tape({ name, sectorSizeBytes, sectorCount, before, after, extended }: TapeProps) {
  const id = useId();
  const [zoom, setZoom] = useState<number>(1);
  const [unit, setUnit] = useState<UnitFamily>('decimal');
  const width = baseWidth * zoom;
  const scale = useMemo(
    () => tapeScale(after ? [before, after] : [before], sectorCount, width),
    [before, after, sectorCount, width],
  );
  const y2 = top + barHeight + gap;
  const height = top + barHeight + (after ? gap + barHeight : 0) + 16;
  const bytes = sectorCount * sectorSizeBytes;
  const count = before.filter(({ kind }) => kind === 'partition').length;
  const level = zooms.findIndex((one) => one === zoom);
  return (
    <figure className="tape-figure mb-0">
      <div className="tape-tools no-print">
        <button
          type="button"
          className="btn-plain"
          onClick={() => setUnit(unit === 'decimal' ? 'binary' : 'decimal')}
        >
          {unit === 'decimal' ? 'Ticks in GiB' : 'Ticks in GB'}
        </button>
        <button
          type="button"
          className="btn-icon"
          aria-label={`Tape of ${name} wider`}
          disabled={level >= zooms.length - 1}
          onClick={() => setZoom(zooms[level + 1] ?? zoom)}
        >
          <ZoomIn size={16} aria-hidden="true" />
        </button>
        <button
          type="button"
          className="btn-icon"
          aria-label={`Tape of ${name} narrower`}
          disabled={level <= 0}
          onClick={() => setZoom(zooms[level - 1] ?? zoom)}
        >
          <ZoomOut size={16} aria-hidden="true" />
        </button>
      </div>
      {/* A stretched tape is scrolled, by keys, too. */}
      <div
        className="tape-window"
        tabIndex={zoom > 1 ? 0 : undefined}
        role={zoom > 1 ? 'region' : undefined}
        aria-label={zoom > 1 ? `Tape of ${name}, stretched` : undefined}
      >
        <svg
          className="tape"
          style={{ width: `${zoom * 100}%` }}
          viewBox={`-1 0 ${width + 2} ${height}`}
          role="group"
          aria-labelledby={`${id}-title`}
        >
          <title id={`${id}-title`}>
            {`Disk ${name}, ${printBothUnits(bytes)}: ${count === 1 ? '1 partition' : `${count} partitions`}${after ? ', and how it looks afterwards' : ''}. The table below says the same.`}
          </title>
          <Patterns id={id} />
          <text x="0" y="12">
            {after ? 'now' : ''}
          </text>
          <Ticks bytes={bytes} sectorSizeBytes={sectorSizeBytes} scale={scale} width={width} unit={unit} />
          <Bar
            id={id}
            y={top}
            width={width}
            segments={before}
            scale={scale}
            sectorSizeBytes={sectorSizeBytes}
          />
          {extended && (
            <Extended
              from={scale(extended.startLba)}
              until={scale(extended.startLba + extended.sectorCount)}
            />
          )}
          {after && (
            <>
              <Ribbons id={id} before={before} after={after} scale={scale} y2={y2} />
              <text x="0" y={y2 - 5} className="tape-when">
                after
              </text>
              <Bar
                id={id}
                y={y2}
                width={width}
                segments={after}
                scale={scale}
                sectorSizeBytes={sectorSizeBytes}
              />
            </>
          )}
        </svg>
      </div>
      <SegmentTable sectorSizeBytes={sectorSizeBytes} before={before} after={after} />
    </figure>
  );
}

/** The extended partition as a bracket below what stands in it. */
function Extended({ from, until }: { readonly from: number; readonly until: number }) {
  const y = top + barHeight + 2;
  return (
    <g className="tape-extended">
      <path d={`M${from} ${y}v5H${until}v-5`} fill="none" stroke="var(--ink)" />
      <text x={(from + until) / 2} y={y + 10} textAnchor="middle" style={{ fontSize: '8px' }}>
        extended
      </text>
    </g>
  );
}

function Ribbons({
  id,
  before,
  after,
  scale,
  y2,
}: {
  readonly id: string;
  readonly before: readonly Segment[];
  readonly after: readonly Segment[];
  readonly scale: ScaleLinear<number, number>;
  readonly y2: number;
}) {
  const y1 = top + barHeight;
  return before
    .filter(({ kind }) => kind === 'partition')
    .map((was) => {
      const x = scale(was.startLba);
      const w = scale(was.startLba + was.sectorCount) - x;
      const middle = x + w / 2;
      const is = after.find(
        ({ kind, fate, partitionNumber, startLba }) =>
          kind === 'partition' &&
          fate !== 'new' &&
          (was.fate === 'moved' ? partitionNumber === was.partitionNumber : startLba === was.startLba),
      );
      if (was.fate === 'erased')
        return w > 80 ? (
          <text
            key={was.startLba}
            x={middle}
            y={y1 + gap / 2 + 4}
            textAnchor="middle"
            style={{ fill: 'var(--line)', fontWeight: 600 }}
          >
            erased here
          </text>
        ) : null;
      if (!is || was.fate === 'unknown') return null;
      const kept = Math.min(was.sectorCount, is.sectorCount);
      const toX = scale(is.startLba);
      const toEnd = scale(is.startLba + kept);
      const moves = is.startLba !== was.startLba;
      return (
        <g key={was.startLba}>
          <path
            d={`M${x} ${y1}L${toX} ${y2}L${toEnd} ${y2}L${scale(was.startLba + kept)} ${y1}Z`}
            fill={moves ? `url(#${id}-moved)` : 'var(--go)'}
            opacity={moves ? 0.55 : 0.14}
          />
          {Math.min(w, toEnd - toX) > 130 && (
            <text x={(middle + (toX + toEnd) / 2) / 2} y={y1 + gap / 2 + 4} textAnchor="middle">
              {moves
                ? 'moves'
                : is.sectorCount < was.sectorCount
                  ? 'stays, shorter'
                  : is.sectorCount > was.sectorCount
                    ? 'stays, longer'
                    : 'stays, byte for byte'}
            </text>
          )}
        </g>
      );
    });
}
