import { z } from 'zod';

/** Whether the host knows a zone by that name of the IANA time zone database. */
function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** A zone of the IANA time zone database, such as `UTC` or `Etc/GMT-1`. */
export const TimeZoneSchema = z
  .string()
  .max(60)
  .refine(isTimeZone, 'This is no time zone: write it as the IANA database does, such as UTC.');

const shapes = {
  instant: { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' },
  clock: { hour: '2-digit', minute: '2-digit' },
  day: { day: '2-digit', month: '2-digit', year: 'numeric' },
} as const satisfies Readonly<Record<string, Intl.DateTimeFormatOptions>>;

type Shape = keyof typeof shapes;

/** Making a format takes longer than printing with it a hundred times: the zones that were asked for stay. */
const formats = new Map<string, Intl.DateTimeFormat>();

function formatOf(zone: string, shape: Shape): Intl.DateTimeFormat {
  const key = `${shape} ${zone}`;
  const kept = formats.get(key);
  if (kept) return kept;
  const made = new Intl.DateTimeFormat('en-GB', {
    ...shapes[shape],
    timeZone: zone,
    timeZoneName: 'shortOffset',
  });
  formats.set(key, made);
  return made;
}

function partsIn(zone: string, iso: string, shape: Shape): Readonly<Record<string, string>> {
  const parts = formatOf(zone, shape).formatToParts(new Date(iso));
  return Object.fromEntries(parts.map(({ type, value }) => [type, value]));
}

const markOf = (offset = 'GMT') => (/^GMT(\+0)?$/.test(offset) ? 'UTC' : offset.replace('GMT', 'UTC'));

/**
 * An instant in a zone, marked with it.
 * @example printInstantIn('Etc/GMT-1', '2026-03-24T15:40:00Z') // '24 Mar 2026, 16:40 UTC+1'
 */
export function printInstantIn(zone: string, iso: string): string {
  const { day, month, year, hour, minute, timeZoneName } = partsIn(zone, iso, 'instant');
  return `${day ?? ''} ${month ?? ''} ${year ?? ''}, ${hour ?? ''}:${minute ?? ''} ${markOf(timeZoneName)}`;
}

/** @example printClockIn('UTC', '2026-03-24T15:40:00Z') // '15:40 UTC' */
export function printClockIn(zone: string, iso: string): string {
  const { hour, minute, timeZoneName } = partsIn(zone, iso, 'clock');
  return `${hour ?? ''}:${minute ?? ''} ${markOf(timeZoneName)}`;
}

/** The calendar day of an instant in a zone, as an ISO date. @example dayIn('Etc/GMT-1', '2026-03-24T23:40:00Z') // '2026-03-25' */
export function dayIn(zone: string, iso: string): string {
  const { day, month, year } = partsIn(zone, iso, 'day');
  return `${year ?? ''}-${month ?? ''}-${day ?? ''}`;
}
