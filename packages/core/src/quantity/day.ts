import { utc } from '@date-fns/utc';
import {
  addDays as addCalendarDays,
  addMinutes as addWholeMinutes,
  differenceInCalendarDays,
  formatISO,
  parseISO,
} from 'date-fns';

// Days and instants are UTC throughout, so that the same input gives the same day everywhere.
const inUtc = { in: utc };

/**
 * Whole days from one calendar day to another, both as ISO dates or instants (UTC days).
 * @example daysBetween('2026-03-01', '2026-03-15') // 14
 */
export function daysBetween(from: string, to: string): number {
  return differenceInCalendarDays(parseISO(to, inUtc), parseISO(from, inUtc), inUtc);
}

/** @example addDays('2026-02-27', 3) // '2026-03-02' */
export function addDays(day: string, days: number): string {
  return formatISO(addCalendarDays(parseISO(day, inUtc), days), { representation: 'date' });
}

/** @example addMinutes('2026-03-02T09:00:00.000Z', 90) // '2026-03-02T10:30:00.000Z' */
export function addMinutes(instant: string, minutes: number): string {
  return new Date(addWholeMinutes(parseISO(instant), minutes)).toISOString();
}

/** Minutes from one instant to another, not rounded; negative when `to` is earlier. */
export function minutesBetween(from: string, to: string): number {
  return (Date.parse(to) - Date.parse(from)) / 60_000;
}
