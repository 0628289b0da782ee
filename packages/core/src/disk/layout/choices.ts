import type { Area, Piece } from './areas';

/** Up to so many pieces every choice is tried; beyond it no more than so many are moved. */
export const exactPieces = 8;
const maxMovedBeyond = 2;
export const maxShrunkBeyond = 3;

/** How much searching is left, in steps: the same answer on every machine, and never a long wait. */
export type Budget = { left: number };

/** Steps for one plan: some 50 ms (`npm run bench`). */
export const planSteps = 12_000;

/** Which pieces are moved and which are shrunk, by their places in the area. */
export type Choice = {
  readonly moved: ReadonlySet<number>;
  readonly shrunk: ReadonlySet<number>;
  readonly risk: number;
  readonly movedSectors: number;
};

/** Which pieces are moved and which are shrunk, a bit for each place. */
export type Bits = {
  readonly moved: number;
  readonly shrunk: number;
  readonly risk: number;
  readonly movedSectors: number;
};

export function choiceOf({ pieces }: Area, { moved, shrunk, risk, movedSectors }: Bits): Choice {
  const places = (bits: number) =>
    new Set(pieces.flatMap((_piece, index) => (bits & (1 << index) ? [index] : [])));
  return { moved: places(moved), shrunk: places(shrunk), risk, movedSectors };
}

/** A choice with its cost. */
export function bitsWith({ pieces }: Area, moved: number, shrunk: number): Bits {
  return {
    moved,
    shrunk,
    risk: sumOver(pieces, moved, ({ moveRisk }) => moveRisk) + count(shrunk),
    movedSectors:
      sumOver(pieces, moved & ~shrunk, ({ sectorCount }) => sectorCount) +
      sumOver(pieces, moved & shrunk, ({ minSectors: minSectors }) => minSectors),
  };
}

/** A look at a choice goes over all pieces: it costs the more, the more there are. */
export function stepOf({ pieces }: Area): number {
  return Math.ceil(pieces.length / 8);
}

/** What may be moved: every set up to `exactPieces`, beyond it up to two, and at last all that can be. */
function movedSets({ pieces }: Area): readonly number[] {
  const movable = bitsOf(pieces, ({ movable: can }) => can);
  if (pieces.length <= exactPieces) return subsets(movable, movable.length);
  const all = movable.reduce((union, bit) => union | bit, 0);
  return [...subsets(movable, maxMovedBeyond), ...(movable.length > maxMovedBeyond ? [all] : [])];
}

function shrinkableBits({ pieces }: Area): readonly number[] {
  return bitsOf(
    pieces,
    ({ minSectors: minSectors, sectorCount, wantedSectors }) =>
      minSectors < sectorCount && wantedSectors === sectorCount,
  );
}

/** Every choice with all shrunk that can be, the fewest risks of moving first: where none of these fits, none does. */
export function everythingShrunk(area: Area, windowSectors: number, budget: Budget): readonly Bits[] {
  const everything = shrinkableBits(area).reduce((all, bit) => all | bit, 0);
  const lengths = lengthsOf(area);
  const step = stepOf(area);
  return movedSets(area)
    .filter((moved) => {
      budget.left -= step;
      return viable(area, lengths, moved, everything, windowSectors);
    })
    .map((moved) => bitsWith(area, moved, everything))
    .sort((a, b) => a.risk - b.risk || a.movedSectors - b.movedSectors);
}

/** Every choice of pieces to move and to shrink, cheapest first; the next cost is only calculated when it is asked for. */
export function* choicesByCost(area: Area, windowSectors: number, budget: Budget): Generator<Bits> {
  const lengths = lengthsOf(area);
  const { pieces } = area;
  const exact = pieces.length <= exactPieces;
  const step = stepOf(area);
  const shrinkable = shrinkableBits(area);
  // More shrinking never hurts: what does not fit with everything shrunk does not fit at all.
  const moves = everythingShrunk(area, windowSectors, budget)
    .filter(({ moved }) => exact || count(moved) <= maxMovedBeyond)
    .map(({ moved }) => ({
      moved,
      risk: sumOver(pieces, moved, ({ moveRisk }) => moveRisk),
      // Only what stands before the window or a target, and what is moved itself, is worth shrinking.
      maxShrunk: Math.min(2 * count(moved) + 1, exact ? shrinkable.length : maxShrunkBeyond),
    }));
  const shrinks = subsets(shrinkable, Math.max(0, ...moves.map(({ maxShrunk: maxShrunk }) => maxShrunk)));
  const byCount = new Map<number, number[]>();
  for (const shrunk of shrinks) {
    const same = byCount.get(count(shrunk));
    if (same) same.push(shrunk);
    else byCount.set(count(shrunk), [shrunk]);
  }
  const maxRisk = Math.max(-1, ...moves.map(({ risk, maxShrunk: maxShrunk }) => risk + maxShrunk));
  for (let risk = 0; risk <= maxRisk; risk += 1) {
    const level: Bits[] = [];
    for (const { moved, risk: riskOfMoves, maxShrunk: maxShrunk } of moves) {
      const shrinkCount = risk - riskOfMoves;
      if (shrinkCount < 0 || shrinkCount > maxShrunk) continue;
      for (const shrunk of byCount.get(shrinkCount) ?? []) {
        budget.left -= step;
        // A level that was not looked through whole has no cheapest one.
        if (budget.left <= 0) return;
        if (viable(area, lengths, moved, shrunk, windowSectors)) level.push(bitsWith(area, moved, shrunk));
      }
    }
    yield* level.sort((a, b) => a.movedSectors - b.movedSectors);
  }
}

function bitsOf(pieces: readonly Piece[], is: (piece: Piece) => boolean): readonly number[] {
  return pieces.flatMap((piece, index) => (is(piece) ? [1 << index] : []));
}

function count(bits: number): number {
  let left = bits;
  let found = 0;
  for (; left !== 0; left &= left - 1) found += 1;
  return found;
}

function sumOver(pieces: readonly Piece[], bits: number, of: (piece: Piece) => number): number {
  return pieces.reduce((sum, piece, index) => (bits & (1 << index) ? sum + of(piece) : sum), 0);
}

/** Unions of up to so many single bits. */
function subsets(bits: readonly number[], max: number): readonly number[] {
  let all: readonly (readonly [union: number, next: number])[] = [[0, 0]];
  let layer = all;
  for (let size = 1; size <= max && layer.length > 0; size += 1) {
    layer = layer.flatMap(([union, next]) =>
      bits.slice(next).map((bit, index): readonly [number, number] => [union | bit, next + index + 1]),
    );
    all = [...all, ...layer];
  }
  return all.map(([union]) => union);
}

type Lengths = readonly { readonly whole: number; readonly min: number }[];

function lengthsOf({ pieces }: Area): Lengths {
  return pieces.map(({ wantedSectors, minSectors: minSectors }) => ({
    whole: wantedSectors,
    min: minSectors,
  }));
}

/**
 * A quick look without a place for anything: all gaps together take all items; the longest gap takes the
 * longest item; and where only one gap takes the window, the longest moved piece has room beside it or
 * in the next longest gap. Most choices end here.
 */
function viable(area: Area, lengths: Lengths, moved: number, shrunk: number, windowSectors: number): boolean {
  let next = area.firstLba;
  let longest = 0;
  let second = 0;
  let room = 0;
  let longestMoved = 0;
  let items = windowSectors;
  for (let index = 0; index <= area.pieces.length; index += 1) {
    const piece = area.pieces[index];
    const length = lengths[index];
    const bit = 1 << index;
    const sectors = length === undefined ? 0 : shrunk & bit ? length.min : length.whole;
    if (piece && moved & bit) {
      items += sectors;
      longestMoved = Math.max(longestMoved, sectors);
      continue;
    }
    const gap = (piece?.takenFromLba ?? area.endLba) - next;
    if (gap > 0) room += gap;
    if (gap > longest) {
      second = longest;
      longest = gap;
    } else if (gap > second) second = gap;
    if (piece) next = Math.max(next, piece.startLba + sectors);
  }
  return (
    room >= items &&
    longest >= Math.max(windowSectors, longestMoved) &&
    (second >= windowSectors || Math.max(longest - windowSectors, second) >= longestMoved)
  );
}
