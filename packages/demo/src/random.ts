/** A source of numbers in [0, 1), handed in so that the same seed gives the same demo. */
export type Random = () => number;

/** The mulberry32 generator (public domain). @param seed any 32-bit integer */
export function seededRandom(seed: number): Random {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

export function pick<T>(random: Random, from: readonly T[]): T {
  const item = from[Math.floor(random() * from.length)];
  if (item === undefined) throw new RangeError('nothing to pick from');
  return item;
}

/** A whole number from `low` to `high`, both included. */
export function between(random: Random, low: number, high: number): number {
  return low + Math.floor(random() * (high - low + 1));
}

/** `#` becomes a digit, `@` a letter; the rest stays. @example serial(random, 'KF14-##@') // 'KF14-70Q' */
export function serial(random: Random, pattern: string): string {
  return pattern
    .replace(/#/g, () => String(between(random, 0, 9)))
    .replace(/@/g, () => pick(random, [...'ABCDEFGHJKLMNPQRSTUVWXYZ']));
}

/** A version 4 UUID (RFC 9562) from the given source. */
export function uuidFrom(random: Random): string {
  const hex = (count: number) =>
    Array.from({ length: count }, () => between(random, 0, 15).toString(16)).join('');
  return `${hex(8)}-${hex(4)}-4${hex(3)}-${pick(random, ['8', '9', 'a', 'b'])}${hex(3)}-${hex(12)}`;
}
