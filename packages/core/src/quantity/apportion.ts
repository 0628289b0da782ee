/**
 * Whole units that add up to a total, each part as near to its share as that lets it be (largest remainders,
 * Hamilton's method): figures that are rounded one by one often miss their sum.
 * @param weights what each part really is, 0 or more
 * @param total units to give out
 * @example apportion([62.93, 148.92, 44.25], 2561) // [629, 1489, 443]: tenths of a gigabyte of 256.1
 */
export function apportion(weights: readonly number[], total: number): readonly number[] {
  const sum = weights.reduce((all, weight) => all + weight, 0);
  if (sum === 0) return weights.map(() => 0);
  const shares = weights.map((weight) => (weight * total) / sum);
  const units = shares.map(Math.floor);
  const left = total - units.reduce((all, unit) => all + unit, 0);
  const byRemainder = shares
    .map((share, index) => ({ index, remainder: share - Math.floor(share) }))
    .toSorted((a, b) => b.remainder - a.remainder || a.index - b.index)
    .slice(0, left);
  for (const { index } of byRemainder) units[index] = (units[index] ?? 0) + 1;
  return units;
}
