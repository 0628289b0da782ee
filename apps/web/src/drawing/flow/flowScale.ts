import type { DiskFlow, FlowBand, Stretch } from '@ulvane/core/disk';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { area, curveBumpX } from 'd3-shape';

/** Pixels of the figure: sides with labels and tapes, and what is left for the operations. */
export const flowHeight = 344;
export const sideWidth = 148;
export const tapeWidth = 40;
const minColumn = 156;
/** The part of a column in which a band changes: a quarter of it stands still on either side. */
const easeFrom = 0.275;
const easeUntil = 0.725;
/** What would vanish is drawn as a line of so many pixels. */
const minBand = 3;

export type FlowScale = {
  readonly y: ScaleLinear<number, number>;
  readonly columnWidth: number;
  readonly width: number;
  readonly x: (column: number) => number;
};

export function flowScale({ sectorCount, columns }: DiskFlow, available: number): FlowScale {
  const count = Math.max(1, columns.length);
  const columnWidth = Math.max(minColumn, available / count);
  return {
    y: scaleLinear([0, sectorCount], [0, flowHeight]),
    columnWidth,
    width: columnWidth * count,
    x: (column) => column * columnWidth,
  };
}

type Edge = { readonly x: number; readonly top: number; readonly bottom: number };

/** A band from where it begins to where it ends, with a step at each operation and an ease in its middle. */
function edgesOf(band: FlowBand, { y, x, columnWidth }: FlowScale, part: (cut: Stretch) => number): Edge[] {
  const columns = band.cuts.length - 1;
  const at = (place: number, cut: Stretch): Edge => {
    const top = y(cut.startLba);
    return { x: place, top, bottom: Math.max(top + minBand, y(cut.startLba + part(cut))) };
  };
  const edges: Edge[] = [];
  for (let column = 0; column < Math.max(1, columns); column += 1) {
    const from = band.cuts[column];
    const to = columns === 0 ? from : band.cuts[column + 1];
    const left = x(column);
    if (from) edges.push(at(left, from));
    if (!from || !to) {
      // What is made is there from the middle of its column on; what goes is drawn apart.
      if (to) edges.push(at(left + columnWidth * easeUntil, to));
      if (to) edges.push(at(left + columnWidth, to));
      continue;
    }
    edges.push(at(left + columnWidth * easeFrom, from), at(left + columnWidth * easeUntil, to));
    edges.push(at(left + columnWidth, to));
  }
  return edges;
}

const path = area<Edge>()
  .x((edge) => edge.x)
  .y0(({ top }) => top)
  .y1(({ bottom }) => bottom)
  .curve(curveBumpX);

/** The outline of a band through all columns. */
export function bandPath(band: FlowBand, scale: FlowScale): string {
  return path(edgesOf(band, scale, ({ sectorCount }) => sectorCount)) ?? '';
}

/** The part of a band that is in use; undefined when that is not known. */
export function usedPath(band: FlowBand, scale: FlowScale): string | undefined {
  const { usedSectors } = band;
  return usedSectors === undefined
    ? undefined
    : (path(edgesOf(band, scale, ({ sectorCount }) => Math.min(sectorCount, usedSectors))) ?? undefined);
}

/** Where a band slopes: the middle of the column in which it is moved. */
export function movePath(band: FlowBand, scale: FlowScale, column: number): string | undefined {
  const from = band.cuts[column];
  const to = band.cuts[column + 1];
  if (!from || !to || from.startLba === to.startLba) return undefined;
  const left = scale.x(column);
  const edge = (place: number, cut: Stretch): Edge => {
    const top = scale.y(cut.startLba);
    return {
      x: left + scale.columnWidth * place,
      top,
      bottom: Math.max(top + minBand, scale.y(cut.startLba + cut.sectorCount)),
    };
  };
  return path([edge(easeFrom, from), edge(easeUntil, to)]) ?? undefined;
}

/** Places for labels, in their order, each with its height: as near to what they belong to as the others let them. */
export function spread(
  labels: readonly { readonly middle: number; readonly height: number }[],
  height: number,
): readonly number[] {
  const tops: number[] = [];
  let next = 0;
  for (const { middle, height: own } of labels) {
    const top = Math.max(next, middle - own / 2);
    tops.push(top);
    next = top + own;
  }
  let until = height;
  for (let index = labels.length - 1; index >= 0; index -= 1) {
    const own = labels[index]?.height ?? 0;
    const top = Math.min(tops[index] ?? 0, until - own);
    tops[index] = top;
    until = top;
  }
  return tops;
}

/** @example shortened('RECOVERY', 5) // 'RECO…' */
export function shortened(text: string, max: number): string {
  return text.length <= max ? text : `${text.slice(0, max - 1)}…`;
}
