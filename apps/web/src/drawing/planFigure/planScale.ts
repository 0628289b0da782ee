import type { PlanDisk } from '@ulvane/core/runbook';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { area, curveBumpX, curveStep, line } from 'd3-shape';

/** Pixels: the labels at the left, the axis of steps above, the disk, and a row of copies. */
export const labelWidth = 96;
export const axisHeight = 44;
export const diskHeight = 152;
export const rowHeight = 27;
/** Room between disk and copies, for the name of the Line. */
export const gap = 34;
/** What would vanish is drawn so high. */
const minBand = 2;

type Band = PlanDisk['bands'][number];

export type PlanScale = {
  /** Of a cut: 0 is before the first step, n after the n-th. */
  readonly x: ScaleLinear<number, number>;
  /** Of a sector of the disk. */
  readonly y: ScaleLinear<number, number>;
  readonly columnWidth: number;
};

export function planScale(disk: Pick<PlanDisk, 'sectorCount'>, steps: number, width: number): PlanScale {
  const x = scaleLinear([0, Math.max(1, steps)], [labelWidth, Math.max(labelWidth + 1, width)]);
  return {
    x,
    y: scaleLinear([0, disk.sectorCount], [axisHeight, axisHeight + diskHeight]),
    columnWidth: x(1) - x(0),
  };
}

/** A band from the first cut at which it is there to the last one. */
type Run = { readonly first: number; readonly last: number };

/** Where a band is there: it may go and come again. */
export function runsOf({ cuts }: Band): readonly Run[] {
  const runs: Run[] = [];
  for (const [index, cut] of cuts.entries()) {
    if (!cut) continue;
    const open = runs.at(-1);
    if (open?.last === index - 1) runs[runs.length - 1] = { ...open, last: index };
    else runs.push({ first: index, last: index });
  }
  return runs;
}

type Edge = { readonly x: number; readonly top: number; readonly bottom: number };

const shape = area<Edge>()
  .x((edge) => edge.x)
  .y0(({ top }) => top)
  .y1(({ bottom }) => bottom)
  .curve(curveBumpX);

/**
 * The outline of a run of a band: still at each cut, and changing between them.
 * @param part how many of its sectors: all, or those in use
 */
export function runPath(
  { cuts }: Band,
  { first, last }: Run,
  { x, y }: PlanScale,
  part: (sectors: number) => number = (sectors) => sectors,
): string {
  const end = cuts.length - 1;
  const edges: Edge[] = [];
  for (let index = first; index <= last; index += 1) {
    const cut = cuts[index];
    if (!cut) continue;
    const top = y(cut.startLba);
    const bottom = Math.max(top + minBand, y(cut.startLba + part(cut.sectorCount)));
    const from = index === 0 ? 0 : index - 0.35;
    const until = index === end ? end : index === last ? index + 0.5 : index + 0.35;
    edges.push({ x: x(from), top, bottom }, { x: x(until), top, bottom });
  }
  return shape(edges) ?? '';
}

/** One copy is so many pixels high, where there is room for all. */
const copyHeight = 6;

/**
 * Pixels of one copy, the same in every row, so that rows can be compared.
 * @param most copies that any row has after any step
 */
export function heightOfCopy(most: number): number {
  return Math.min(copyHeight, (rowHeight - copyHeight) / Math.max(1, most));
}

/** Good copies after each step as a step line. */
export function copiesPath(
  counts: readonly number[],
  base: number,
  copyPixels: number,
  { x }: PlanScale,
): string {
  return (
    line<number>(
      (_count, index) => x(index),
      (count) => base - count * copyPixels,
    ).curve(curveStep)(counts) ?? ''
  );
}
