import type { Area, Piece } from './areas';
import { choiceOf, choicesByCost, exactPieces, type Choice } from './choices';

/** Where every piece of an area ends up. */
export type Arrangement = {
  /** By place in `area.pieces`. */
  readonly placed: readonly { readonly startLba: number; readonly sectorCount: number }[];
  /** In the order in which they can be done: each target is free when its turn comes. */
  readonly moves: readonly number[];
  readonly window?: { readonly startLba: number; readonly sectorCount: number };
  readonly risk: number;
  readonly movedSectors: number;
};

type Item = { readonly piece: number | 'window'; readonly sectorCount: number };
type Gap = { readonly from: number; readonly until: number; readonly before: number | undefined };
type Place = { readonly item: Item; readonly startLba: number };

const up = (lba: number, align: number) => Math.ceil(lba / align) * align;
const down = (lba: number, align: number) => Math.floor(lba / align) * align;

/**
 * Finds room in an area with the least risk, then the fewest sectors moved: which pieces are moved
 * (once each) and which are shrunk, so that a window of free sectors and every wanted length fit.
 * All choices are tried in order of their cost, so the first that fits is the best; see decision 0016.
 * @param windowSectors whole alignment units; 0 when only wanted lengths are asked for
 */
export function arrange(area: Area, windowSectors: number): Arrangement | undefined {
  if (windowSectors > roomBound(area)) return undefined;
  for (const bits of choicesByCost(area, windowSectors)) {
    const found = tryChoice(area, choiceOf(area, bits), windowSectors);
    if (found) return found;
  }
  return undefined;
}

/**
 * No window can be longer: not than all free sectors and all that shrinking gives, and not than what lies
 * between two pieces that cannot be moved.
 */
function roomBound(area: Area): number {
  let total = 0;
  let between = 0;
  let best = 0;
  let next = area.firstLba;
  const see = (gap: number) => {
    total += Math.max(0, gap);
    between += Math.max(0, gap);
    best = Math.max(best, between);
  };
  for (const piece of area.pieces) {
    see(piece.takenFromLba - next);
    const gives = piece.sectorCount - piece.leastSectors;
    total += gives;
    // What can be moved may leave its whole place.
    between = piece.movable ? between + piece.sectorCount : gives;
    next = piece.startLba + piece.sectorCount;
  }
  see(area.endLba - next);
  return Math.min(best, total);
}

/**
 * The longest window that `arrange` finds in an area, by halving: to the unit where every choice is tried,
 * to a two-hundredth beyond. Sectors.
 */
export function mostRoom(area: Area): number {
  const exact = area.pieces.length <= exactPieces;
  let has = 0;
  let lacks = Math.floor(roomBound(area) / area.alignSectors) + 1;
  while (lacks - has > (exact ? 1 : Math.max(1, has / 200))) {
    const middle = Math.floor((has + lacks) / 2);
    if (arrange(area, middle * area.alignSectors)) has = middle;
    else lacks = middle;
  }
  return has * area.alignSectors;
}

function tryChoice(area: Area, choice: Choice, windowSectors: number): Arrangement | undefined {
  const { pieces } = area;
  const lengthOf = (index: number, piece: Piece) =>
    choice.shrunk.has(index) ? piece.leastSectors : piece.wantedSectors;
  const gaps: Gap[] = [];
  let next = area.firstLba;
  let before: number | undefined;
  for (const [index, piece] of pieces.entries()) {
    if (choice.moved.has(index)) continue;
    // A piece that grows in place, or the one before it, may already reach too far.
    if (piece.takenFromLba < next && piece.startLba >= area.firstLba) return undefined;
    gaps.push({ from: next, until: piece.takenFromLba, before });
    next = Math.max(next, piece.startLba + lengthOf(index, piece));
    before = index;
  }
  if (next > area.endLba) return undefined;
  gaps.push({ from: next, until: area.endLba, before });
  const items: Item[] = [
    ...(windowSectors > 0 ? [{ piece: 'window' as const, sectorCount: windowSectors }] : []),
    ...pieces.flatMap((piece, index) =>
      choice.moved.has(index) ? [{ piece: index, sectorCount: lengthOf(index, piece) }] : [],
    ),
  ].sort((a, b) => b.sectorCount - a.sectorCount);
  return assign(
    area,
    choice,
    gaps,
    items,
    gaps.map(() => []),
    windowSectors,
  );
}

/** Tries every gap for every item, the longest first, and every way of standing in them. */
function assign(
  area: Area,
  choice: Choice,
  gaps: readonly Gap[],
  items: readonly Item[],
  held: readonly (readonly Item[])[],
  windowSectors: number,
): Arrangement | undefined {
  const [item, ...rest] = items;
  if (!item) return stand(area, choice, gaps, held, windowSectors);
  for (const [index, gap] of gaps.entries()) {
    const inGap = [...(held[index] ?? []), item];
    if (!fits(area, gap, inGap)) continue;
    const found = assign(area, choice, gaps, rest, held.with(index, inGap), windowSectors);
    if (found) return found;
  }
  return undefined;
}

/** Starts are aligned; only the last piece of a gap may end between two units, so the most wasteful stands last. */
function fits({ alignSectors, leadSectors }: Area, { from, until }: Gap, items: readonly Item[]): boolean {
  const whole = (item: Item) => up(item.sectorCount + leadSectors, alignSectors);
  const waste = Math.max(...items.map((item) => whole(item) - item.sectorCount));
  const total = items.reduce((sum, item) => sum + whole(item), 0) - waste;
  return up(from + leadSectors, alignSectors) + total <= until;
}

/** Finds places in the gaps from which every move can be done with its target free. */
function stand(
  area: Area,
  choice: Choice,
  gaps: readonly Gap[],
  held: readonly (readonly Item[])[],
  windowSectors: number,
): Arrangement | undefined {
  const perGap = held.map((items, index) => {
    const gap = gaps[index];
    return gap ? ways(area, gap, items, gap.before !== undefined && choice.shrunk.has(gap.before)) : [];
  });
  for (const places of product(perGap)) {
    const found = sequence(area, choice, gaps, places.flat(), windowSectors);
    if (found) return found;
  }
  return undefined;
}

/** All ways of standing in a gap: every order, packed to the left, to the right, or to both ends. */
function ways(
  area: Area,
  gap: Gap,
  items: readonly Item[],
  fromRight: boolean,
): readonly (readonly Place[])[] {
  if (items.length === 0) return [[]];
  const orders = items.length <= 4 ? permutations(items) : [items];
  const result: (readonly Place[])[] = [];
  for (const order of orders) {
    const splits = order.map((_item, index) => index);
    for (const atLeft of fromRight ? [0, ...splits.slice(1), order.length] : [order.length, ...splits]) {
      const left = packLeft(area, gap, order.slice(0, atLeft));
      const right = packRight(area, gap, order.slice(atLeft));
      const lastLeft = left.at(-1);
      const firstRight = right[0];
      const meet = lastLeft ? lastLeft.startLba + lastLeft.item.sectorCount : gap.from;
      const end = right.at(-1);
      if (lastLeft && meet > gap.until) continue;
      if (firstRight && firstRight.startLba - area.leadSectors < meet) continue;
      if (end && end.startLba + end.item.sectorCount > gap.until) continue;
      result.push([...left, ...right]);
    }
  }
  return result;
}

function packLeft({ alignSectors, leadSectors }: Area, gap: Gap, items: readonly Item[]): readonly Place[] {
  let next = gap.from;
  return items.map((item) => {
    const startLba = up(next + leadSectors, alignSectors);
    next = startLba + item.sectorCount;
    return { item, startLba };
  });
}

function packRight({ alignSectors, leadSectors }: Area, gap: Gap, items: readonly Item[]): readonly Place[] {
  let until = gap.until;
  return [...items]
    .reverse()
    .map((item) => {
      const startLba = down(until - item.sectorCount, alignSectors);
      until = startLba - leadSectors;
      return { item, startLba };
    })
    .reverse();
}

function permutations<T>(items: readonly T[]): readonly (readonly T[])[] {
  if (items.length <= 1) return [items];
  return items.flatMap((item, index) =>
    permutations(items.toSpliced(index, 1)).map((rest) => [item, ...rest]),
  );
}

function* product<T>(lists: readonly (readonly T[])[]): Generator<readonly T[]> {
  const [first, ...rest] = lists;
  if (!first) {
    yield [];
    return;
  }
  for (const one of first) for (const others of product(rest)) yield [one, ...others];
}

/** Orders the moves so that each target is free; gives back what a shrunk piece need not give. */
function sequence(
  area: Area,
  choice: Choice,
  gaps: readonly Gap[],
  places: readonly Place[],
  windowSectors: number,
): Arrangement | undefined {
  const { pieces } = area;
  const now = pieces.map((piece, index) => ({
    startLba: piece.startLba,
    takenFromLba: piece.takenFromLba,
    sectorCount: choice.shrunk.has(index) ? piece.leastSectors : piece.sectorCount,
  }));
  const targets = new Map(
    places.flatMap(({ item, startLba }) =>
      item.piece === 'window' ? [] : [[item.piece, startLba] as const],
    ),
  );
  const moves: number[] = [];
  let waiting = [...targets.keys()];
  while (waiting.length > 0) {
    const ready = waiting.find((index) => {
      const target = targets.get(index) ?? 0;
      const length = now[index]?.sectorCount ?? 0;
      return now.every(
        (other, at) =>
          at === index ||
          other.takenFromLba >= target + length ||
          other.startLba + other.sectorCount <= target - area.leadSectors,
      );
    });
    if (ready === undefined) return undefined;
    const target = targets.get(ready) ?? 0;
    const length = now[ready]?.sectorCount ?? 0;
    now[ready] = { startLba: target, takenFromLba: target - area.leadSectors, sectorCount: length };
    moves.push(ready);
    waiting = waiting.filter((index) => index !== ready);
  }
  const placed = pieces.map((piece, index) => {
    const at = now[index] ?? piece;
    if (choice.moved.has(index) && !choice.shrunk.has(index))
      return { startLba: at.startLba, sectorCount: piece.wantedSectors };
    return {
      startLba: at.startLba,
      sectorCount: choice.shrunk.has(index) ? at.sectorCount : piece.wantedSectors,
    };
  });
  for (const gap of gaps) {
    const { before } = gap;
    const piece = before === undefined ? undefined : pieces[before];
    if (before === undefined || !piece || !choice.shrunk.has(before)) continue;
    const behind = places.filter(({ startLba }) => startLba >= gap.from && startLba < gap.until);
    const first = Math.min(gap.until, ...behind.map(({ startLba }) => startLba - area.leadSectors));
    placed[before] = {
      startLba: piece.startLba,
      sectorCount: Math.min(piece.sectorCount, first - piece.startLba),
    };
  }
  const window = places.find(({ item }) => item.piece === 'window');
  return {
    placed,
    moves,
    ...(window ? { window: { startLba: window.startLba, sectorCount: windowSectors } } : {}),
    risk: choice.risk,
    movedSectors: choice.movedSectors,
  };
}
