import type { DiskFlow, FlowBand, Stretch } from '@ulvane/core/disk';
import { printBothUnits, printBytes } from '@ulvane/core/quantity';
import { flowHeight, shortened, sideWidth, spread, tapeWidth, type FlowScale } from './flowScale';
import { FlowTape } from './FlowTape';

type FlowSideProps = {
  readonly flow: DiskFlow;
  readonly scale: FlowScale;
  readonly side: 'before' | 'after';
};

/** The bands by name at one end, beside a measuring tape; narrow ones get a line that leads to them. */
export function FlowSide({ flow, scale, side }: FlowSideProps) {
  const { sectorSizeBytes, bands } = flow;
  const last = flow.columns.length;
  const standing = bands
    .flatMap((band) => {
      const cut = band.cuts[side === 'before' ? 0 : last];
      return cut ? [{ band, cut }] : [];
    })
    .sort((a, b) => a.cut.startLba - b.cut.startLba);
  const labels = standing.map(({ band, cut }) => {
    const top = scale.y(cut.startLba);
    const bottom = scale.y(cut.startLba + cut.sectorCount);
    const wide = bottom - top >= 34;
    return {
      band,
      cut,
      wide,
      middle: (top + bottom) / 2,
      height: wide ? (side === 'after' && bottom - top >= 48 ? 48 : 33) : 16,
    };
  });
  // More names than there is room for: the smallest are left to the table and the reading line.
  const fitting = fits(labels);
  const tops = spread(fitting, flowHeight);
  const before = side === 'before';
  return (
    <svg
      className="flow-side"
      width={sideWidth + tapeWidth}
      height={flowHeight}
      aria-hidden="true"
      overflow="visible"
    >
      <g transform={`translate(${before ? sideWidth : 0} 0)`}>
        <FlowTape
          bytes={flow.sectorCount * sectorSizeBytes}
          unit={before ? 'decimal' : 'binary'}
          side={before ? 'left' : 'right'}
        />
      </g>
      {fitting.map(({ band, cut, wide, middle, height }, index) => {
        const top = tops[index] ?? 0;
        const x = before ? 0 : tapeWidth + 10;
        const text = `${numberOf(band, side)}${band.label}`;
        const leads = !wide || Math.abs(top + height / 2 - middle) > 3;
        return (
          <g key={band.key}>
            {leads && (
              <path
                className="leader"
                d={
                  before
                    ? `M${sideWidth} ${middle}H${sideWidth - 6}L${sideWidth - 14} ${top + 8}`
                    : `M${tapeWidth} ${middle}H${tapeWidth + 3}L${tapeWidth + 8} ${top + 8}`
                }
              />
            )}
            <text x={x} y={top + 12} className={wide ? 'name' : undefined}>
              <tspan className="strong">{shortened(text, wide ? 18 : 13)}</tspan>
              {!wide && ` ${printBytes(cut.sectorCount * sectorSizeBytes, 'binary', 0)}`}
            </text>
            {wide && (
              <text x={x} y={top + 27}>
                {printBothUnits(cut.sectorCount * sectorSizeBytes)
                  .replace(' (', ', ')
                  .replace(')', '')}
              </text>
            )}
            {height > 40 && (
              <text x={x} y={top + 42} className="quiet">
                {range(cut, sectorSizeBytes)}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

function numberOf({ numberBefore, numberAfter }: FlowBand, side: 'before' | 'after'): string {
  const number = side === 'before' ? numberBefore : numberAfter;
  return number === undefined ? '' : `${number} `;
}

function fits<L extends { readonly height: number; readonly wide: boolean; readonly cut: Stretch }>(
  labels: readonly L[],
): readonly L[] {
  let kept = labels;
  while (kept.reduce((sum, { height }) => sum + height, 0) > flowHeight) {
    const narrow = kept.filter(({ wide }) => !wide);
    const min = [...(narrow.length > 0 ? narrow : kept)].sort(
      (a, b) => a.cut.sectorCount - b.cut.sectorCount,
    )[0];
    kept = kept.filter((one) => one !== min);
  }
  return kept;
}

/** @example range({ startLba: 2048, sectorCount: 2048 }, 512) // '0.0 to 0.0 GB' */
function range({ startLba, sectorCount }: Stretch, sectorSizeBytes: number): string {
  const number = (lba: number) => printBytes(lba * sectorSizeBytes, 'decimal');
  return `${number(startLba)} to ${number(startLba + sectorCount)}`;
}
