import type { Stretch } from './ribbon';

/**
 * Heights of boxes in one column: to scale by bytes, none below the least that its words need; what the small ones take
 * more is taken from the others. Sums to the room that is given, gaps included, where that is possible.
 * @param sizes bytes @param room pixels
 */
export function stack(
  sizes: readonly number[],
  room: number,
  minHeight: number,
  gap: number,
): readonly Stretch[] {
  const free = room - gap * Math.max(0, sizes.length - 1);
  const fixed = new Set<number>();
  let scale = 0;
  // Each round fixes the boxes that would be too small; with these set aside the others share the rest.
  for (let round = 0; round <= sizes.length; round += 1) {
    const rest = sizes.reduce((sum, size, at) => (fixed.has(at) ? sum : sum + size), 0);
    scale = rest > 0 ? Math.max(0, free - fixed.size * minHeight) / rest : 0;
    const before = fixed.size;
    sizes.forEach((size, at) => {
      if (size * scale < minHeight) fixed.add(at);
    });
    if (fixed.size === before) break;
  }
  let top = 0;
  return sizes.map((size, at) => {
    const height = fixed.has(at) ? minHeight : size * scale;
    const band = { top, height };
    top += height + gap;
    return band;
  });
}
