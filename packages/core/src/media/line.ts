import type { ThreePoint } from '../quantity/duration';

/** What a line is taken for where nobody has said what it carries, megabits a second. */
export const usualLine = 50;

/**
 * Minutes to fetch bytes over a line: bits ÷ bits a second. A line that is known carries a fifth more at best and half
 * at worst; one that is not known, twice as much and a fifth.
 * @param megabits of the site's line, a second; null where nobody has said
 * @example downloadMinutes(6_000_000_000, 20).likely // 48 000 Mbit ÷ 20 Mbit/s = 2400 s = 40 min
 */
export function downloadMinutes(bytes: number, megabits: number | null): ThreePoint {
  const at = (speed: number) => (bytes * 8) / (speed * 1_000_000) / 60;
  const speed = megabits ?? usualLine;
  const [best, worst] = megabits === null ? [2, 0.2] : [1.2, 0.5];
  return { low: at(speed * best), likely: at(speed), high: at(speed * worst) };
}

/**
 * What a line carried, from downloads that were timed: the median.
 * @returns megabits a second; null without one
 */
export function measuredLine(
  downloads: readonly { readonly bytes: number; readonly seconds: number }[],
): number | null {
  const speeds = downloads
    .filter(({ seconds }) => seconds > 0)
    .map(({ bytes, seconds }) => (bytes * 8) / seconds / 1_000_000)
    .sort((a, b) => a - b);
  if (speeds.length === 0) return null;
  const middle = Math.floor(speeds.length / 2);
  const median =
    speeds.length % 2 === 1 ? (speeds[middle] ?? 0) : ((speeds[middle - 1] ?? 0) + (speeds[middle] ?? 0)) / 2;
  return Math.round(median * 10) / 10;
}
