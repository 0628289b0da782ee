/** A partition on a grid of whole units. */
export type Block = {
  readonly length: number;
  readonly least: number;
  readonly movable: boolean;
  readonly moveRisk: number;
};

type State = readonly { readonly start: number; readonly length: number }[];
type Cost = { readonly risk: number; readonly moved: number };

/**
 * The cheapest way to a free run, by trying everything: every partition shrunk to every length (one point) and
 * moved to every free place (its points, and the units moved), in any order and any number of times.
 * It knows nothing of the planner; grids stay small.
 */
export function bruteRoom(
  blocks: readonly (Block & { readonly start: number })[],
  first: number,
  end: number,
  window: number,
): Cost | undefined {
  const begin: State = blocks.map(({ start, length }) => ({ start, length }));
  const keyOf = (state: State) => state.map(({ start, length }) => `${start}:${length}`).join(' ');
  const weight = ({ risk, moved }: Cost) => risk * 10_000 + moved;
  const best = new Map<string, number>([[keyOf(begin), 0]]);
  // Costs are whole numbers: a list for each of them is queue enough.
  const waiting = new Map<number, { readonly state: State; readonly cost: Cost }[]>([
    [0, [{ state: begin, cost: { risk: 0, moved: 0 } }]],
  ]);
  while (waiting.size > 0) {
    const least = Math.min(...waiting.keys());
    const queue = waiting.get(least) ?? [];
    const next = queue.pop();
    if (queue.length === 0) waiting.delete(least);
    if (!next) continue;
    const { state, cost } = next;
    if (weight(cost) > (best.get(keyOf(state)) ?? Infinity)) continue;
    if (longestFree(state, first, end) >= window) return cost;
    const reach = (index: number, place: State[number], more: Cost) => {
      const after = state.with(index, place);
      const total = { risk: cost.risk + more.risk, moved: cost.moved + more.moved };
      const key = keyOf(after);
      if (weight(total) >= (best.get(key) ?? Infinity)) return;
      best.set(key, weight(total));
      waiting.set(weight(total), [...(waiting.get(weight(total)) ?? []), { state: after, cost: total }]);
    };
    for (const [index, block] of blocks.entries()) {
      const place = state[index];
      if (!place) continue;
      for (let length = block.least; length < place.length; length += 1)
        reach(index, { ...place, length }, { risk: 1, moved: 0 });
      if (!block.movable) continue;
      for (let start = first; start + place.length <= end; start += 1)
        if (
          start !== place.start &&
          state.every(
            (other, at) =>
              at === index || other.start >= start + place.length || other.start + other.length <= start,
          )
        )
          reach(index, { ...place, start }, { risk: block.moveRisk, moved: place.length });
    }
  }
  return undefined;
}

function longestFree(state: State, first: number, end: number): number {
  let next = first;
  let longest = 0;
  for (const { start, length } of [...state].sort((a, b) => a.start - b.start)) {
    longest = Math.max(longest, start - next);
    next = start + length;
  }
  return Math.max(longest, end - next);
}
