const dayMilliseconds = 86_400_000;

/** Days since 1970-01-01 of an ISO date or instant (UTC). */
function dayNumber(day: string): number {
  return (
    Date.UTC(Number(day.slice(0, 4)), Number(day.slice(5, 7)) - 1, Number(day.slice(8, 10))) / dayMilliseconds
  );
}

/**
 * Whole days from one calendar day to another, both as ISO dates or instants (UTC days).
 * @example daysBetween('2026-03-01', '2026-03-15') // 14
 */
export function daysBetween(from: string, to: string): number {
  return dayNumber(to) - dayNumber(from);
}

/** @example addDays('2026-02-27', 3) // '2026-03-02' */
export function addDays(day: string, days: number): string {
  return new Date(Date.parse(day.slice(0, 10)) + days * dayMilliseconds).toISOString().slice(0, 10);
}

/** @example addMinutes('2026-03-02T09:00:00.000Z', 90) // '2026-03-02T10:30:00.000Z' */
export function addMinutes(instant: string, minutes: number): string {
  return new Date(Date.parse(instant) + minutes * 60_000).toISOString();
}

/** Minutes from one instant to another, not rounded; negative when `to` is earlier. */
export function minutesBetween(from: string, to: string): number {
  return (Date.parse(to) - Date.parse(from)) / 60_000;
}
