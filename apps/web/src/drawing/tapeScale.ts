import type { Segment } from '@ulvane/core/disk';
import { scaleLinear, type ScaleLinear } from 'd3-scale';

/** A very small partition still gets so many pixels, as long as there are not too many of them. */
const smallest = 9;
/** All small ones together take no more of the tape than this. */
const maxOfTape = 0.6;

/**
 * Sectors to pixels, true to scale but for partitions that would vanish: each stretch between two edges
 * gets its least, and all others share the rest by their length. One scale serves before and after.
 */
export function tapeScale(
  bars: readonly (readonly Segment[])[],
  sectorCount: number,
  width: number,
): ScaleLinear<number, number> {
  const edges = [
    ...new Set([
      0,
      sectorCount,
      ...bars.flat().flatMap((one) => [one.startLba, one.startLba + one.sectorCount]),
    ]),
  ]
    .filter((lba) => lba >= 0 && lba <= sectorCount)
    .sort((a, b) => a - b);
  const partitions = bars.flat().filter(({ kind }) => kind === 'partition');
  const stretches = edges.slice(1).map((end, index) => {
    const start = edges[index] ?? 0;
    return {
      sectors: end - start,
      held: partitions.some((one) => one.startLba < end && one.startLba + one.sectorCount > start),
    };
  });
  const held = stretches.filter((one) => one.held).length;
  const min = Math.min(smallest, (width * maxOfTape) / Math.max(1, held));
  const widths = share(
    stretches.map(({ sectors, held: isHeld }) => ({ sectors, min: isHeld ? min : 0 })),
    width,
  );
  let x = 0;
  return scaleLinear()
    .domain(edges)
    .range([0, ...widths.map((w) => (x += w))]);
}

/** Widths that add up: those below their least get it, the others share what is left by their sectors. */
function share(
  stretches: readonly { readonly sectors: number; readonly min: number }[],
  width: number,
): readonly number[] {
  const fixed = new Set<number>();
  for (;;) {
    const left = width - stretches.reduce((sum, one, index) => sum + (fixed.has(index) ? one.min : 0), 0);
    const sectors = stretches.reduce((sum, one, index) => sum + (fixed.has(index) ? 0 : one.sectors), 0);
    const widthOf = (index: number) => {
      const one = stretches[index];
      if (!one) return 0;
      return fixed.has(index) ? one.min : sectors === 0 ? 0 : (one.sectors / sectors) * left;
    };
    const short = stretches.findIndex((one, index) => !fixed.has(index) && widthOf(index) < one.min);
    if (short < 0) return stretches.map((_one, index) => widthOf(index));
    fixed.add(short);
  }
}
