/** Low, likely and high minutes of one piece of work. */
export type ThreePoint = { readonly low: number; readonly likely: number; readonly high: number };

/** A fixed time with no spread. @example exactly(3) // { low: 3, likely: 3, high: 3 } */
export function exactly(minutes: number): ThreePoint {
  return { low: minutes, likely: minutes, high: minutes };
}

/** @example addThreePoint(exactly(1), { low: 1, likely: 2, high: 4 }) // { low: 2, likely: 3, high: 5 } */
export function addThreePoint(a: ThreePoint, b: ThreePoint): ThreePoint {
  return { low: a.low + b.low, likely: a.likely + b.likely, high: a.high + b.high };
}

/**
 * Minutes as hours and minutes in one form, for figures in a column.
 * @example printHours(65) // '1 h 05'
 */
export function printHours(minutes: number): string {
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`;
}

/**
 * @param minutes 0 or more; rounded to whole minutes
 * @example printMinutes(80) // '1 h 20 min'
 * @example printMinutes(2880) // '48 h'
 */
export function printMinutes(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  const rest = whole % 60;
  if (hours === 0) return `${rest} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${rest} min`;
}
