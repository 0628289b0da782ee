import type { Area, Piece } from './areas';
import {
  bitsWith,
  choiceOf,
  choicesByCost,
  everythingShrunk,
  exactPieces,
  maxShrunkBeyond,
  stepOf,
  type Bits,
  type Budget,
  type Choice,
} from './choices';

/** Where every piece of an area ends up. */
export type Arrangement = {
  /** By place in `area.pieces`. */
  readonly placed: readonly {
    readonly startLba: number;
    readonly sectorCount: number;
    /** What it is shrunk to before it is moved; what is left over it gets back behind it. */
    readonly minSectors: number;
  }[];
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

type Search = {
  readonly found?: Arrangement;
  /** No cheaper one exists; or, where none was found, none exists at all. */
  readonly proven: boolean;
};

/**
 * Finds room in an area with the least risk, then the fewest sectors moved: which pieces are moved
 * (once each) and which are shrunk, so that a window of free sectors and every wanted length fit.
 * Choices are tried in order of their cost, so the first that fits is the best; when the budget ends before, the
 * way with everything shrunk is taken back as far as it goes. See decision 0016.
 * @param windowSectors whole alignment units; 0 when only wanted lengths are asked for
 */
export function arrange(area: Area, windowSectors: number, budget: Budget): Search {
  if (windowSectors > roomBound(area)) return { proven: true };
  const exact = area.pieces.length <= exactPieces;
  const any = anyFit(area, windowSectors, budget);
  if (!any.choice) return { proven: exact && !any.brokenOff };
  const min = minFit(area, windowSectors, { left: Math.floor(budget.left * 0.8) }, budget);
  // Beyond so many pieces only the cheapest are known to have none before them: no move, few shrinks.
  if (min.found) return { found: min.found, proven: exact || min.found.risk <= maxShrunkBeyond };
  const found = withLessShrunk(area, any.choice, windowSectors, budget);
  return { ...(found ? { found } : {}), proven: false };
}

/** The cheapest choice that fits, while the budget lasts. */
function minFit(
  area: Area,
  windowSectors: number,
  own: Budget,
  budget: Budget,
): { readonly found?: Arrangement } {
  const before = own.left;
  const spent = () => {
    budget.left -= before - own.left;
  };
  for (const bits of choicesByCost(area, windowSectors, own)) {
    const found = tryChoice(area, choiceOf(area, bits), windowSectors, own);
    if (found) {
      spent();
      return { found };
    }
    if (own.left <= 0) break;
  }
  spent();
  return {};
}

/**
 * Whether there is any way at all: everything shrunk, since more shrinking never hurts, and pieces moved, the
 * cheapest first.
 */
function anyFit(
  area: Area,
  windowSectors: number,
  budget: Budget,
): { readonly choice?: Bits; readonly brokenOff: boolean } {
  for (const bits of everythingShrunk(area, windowSectors, budget)) {
    if (tryChoice(area, choiceOf(area, bits), windowSectors, budget))
      return { choice: bits, brokenOff: false };
    if (budget.left <= 0) return { brokenOff: true };
  }
  return { brokenOff: budget.left <= 0 };
}

/** The same moves with as little shrunk as they need: each piece is left whole when the rest still fits. */
function withLessShrunk(
  area: Area,
  choice: Bits,
  windowSectors: number,
  budget: Budget,
): Arrangement | undefined {
  let best = choice;
  for (const [index] of area.pieces.entries()) {
    if (!(best.shrunk & (1 << index))) continue;
    const less = bitsWith(area, best.moved, best.shrunk & ~(1 << index));
    if (tryChoice(area, choiceOf(area, less), windowSectors, { left: 300 })) best = less;
  }
  return tryChoice(area, choiceOf(area, best), windowSectors, { left: Math.max(3000, budget.left) });
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
    const gives = piece.sectorCount - piece.minSectors;
    total += gives;
    // What can be moved may leave its whole place.
    between = piece.movable ? between + piece.sectorCount : gives;
    next = piece.startLba + piece.sectorCount;
  }
  see(area.endLba - next);
  return Math.min(best, total);
}

/** The longest gap between whole units with every piece shrunk and none moved. */
function roomAtRest(area: Area): number {
  const ends = area.pieces.map((piece) => ({
    from: piece.startLba + piece.minSectors,
    taken: piece.takenFromLba,
  }));
  let longest = 0;
  let next = area.firstLba;
  for (const { from, taken } of [...ends, { from: area.endLba, taken: area.endLba }]) {
    longest = Math.max(
      longest,
      down(taken, area.alignSectors) - up(next + area.leadSectors, area.alignSectors),
    );
    next = Math.max(next, from);
  }
  return longest;
}

/**
 * The longest window that an area can have, by halving; sectors. Proven where no longer one can exist: every
 * choice was tried, or all that is free and can be given is in it.
 */
export function maxRoom(area: Area, budget: Budget): { readonly sectors: number; readonly proven: boolean } {
  const align = area.alignSectors;
  const max = Math.floor(roomBound(area) / align);
  // What is free once everything is shrunk where it stands is there without any search.
  const atRest = Math.min(max, Math.floor(roomAtRest(area) / align));
  let has = atRest;
  let lacks = max + 1;
  let proven = area.pieces.length <= exactPieces;
  while (lacks - has > 1 && budget.left > 0) {
    const middle = has === atRest && lacks === max + 1 ? max : Math.floor((has + lacks) / 2);
    const share = { left: Math.ceil(budget.left / 6) };
    const before = share.left;
    const { choice, brokenOff } = anyFit(area, middle * align, share);
    budget.left -= before - share.left;
    if (choice) has = middle;
    else {
      lacks = middle;
      if (brokenOff) proven = false;
    }
  }
  return { sectors: has * align, proven: has === max || (proven && lacks - has <= 1) };
}

function tryChoice(
  area: Area,
  choice: Choice,
  windowSectors: number,
  budget: Budget,
): Arrangement | undefined {
  const { pieces } = area;
  budget.left -= 3 * stepOf(area);
  const lengthOf = (index: number, piece: Piece) =>
    choice.shrunk.has(index) ? piece.minSectors : piece.wantedSectors;
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
    budget,
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
  budget: Budget,
): Arrangement | undefined {
  budget.left -= 2 * stepOf(area);
  if (budget.left <= 0) return undefined;
  const [item, ...rest] = items;
  if (!item) return stand(area, choice, gaps, held, windowSectors, budget);
  for (const [index, gap] of gaps.entries()) {
    const inGap = [...(held[index] ?? []), item];
    if (!fits(area, gap, inGap)) continue;
    const found = assign(area, choice, gaps, rest, held.with(index, inGap), windowSectors, budget);
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
  budget: Budget,
): Arrangement | undefined {
  const perGap = held.map((items, index) => {
    const gap = gaps[index];
    return gap ? ways(area, gap, items, gap.before !== undefined && choice.shrunk.has(gap.before)) : [];
  });
  for (const places of product(perGap)) {
    budget.left -= 3 * stepOf(area);
    const found = sequence(area, choice, places.flat(), windowSectors);
    if (found) return found;
    if (budget.left <= 0) return undefined;
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
  places: readonly Place[],
  windowSectors: number,
): Arrangement | undefined {
  const { pieces } = area;
  const now = pieces.map((piece, index) => ({
    startLba: piece.startLba,
    takenFromLba: piece.takenFromLba,
    sectorCount: choice.shrunk.has(index) ? piece.minSectors : piece.sectorCount,
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
  const window = places.find(({ item }) => item.piece === 'window');
  // What belongs to each in the end, and where the next begins that is not its own.
  const takenAt = [
    ...now.map(({ takenFromLba }) => takenFromLba),
    ...(window ? [window.startLba - area.leadSectors] : []),
    area.endLba,
  ];
  const placed = pieces.map((piece, index) => {
    const { startLba, sectorCount } = now[index] ?? piece;
    if (!choice.shrunk.has(index))
      return { startLba, sectorCount: piece.wantedSectors, minSectors: piece.sectorCount };
    const next = Math.min(...takenAt.filter((lba) => lba > startLba));
    const kept = shrunkTo(piece, next - startLba, area.alignSectors);
    return { startLba, sectorCount: kept, minSectors: choice.moved.has(index) ? sectorCount : kept };
  });
  return {
    placed,
    moves,
    ...(window ? { window: { startLba: window.startLba, sectorCount: windowSectors } } : {}),
    risk: choice.risk,
    movedSectors: choice.movedSectors,
  };
}

/** The longest that a piece can keep in so many sectors: whole MiB are taken away, as a dialog asks for them. */
function shrunkTo({ sectorCount }: Piece, availableSectors: number, alignSectors: number): number {
  const away = Math.max(0, sectorCount - availableSectors);
  return sectorCount - up(away, alignSectors);
}
