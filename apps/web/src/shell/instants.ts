const whole = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const zone = new Intl.DateTimeFormat('en-GB', { timeZoneName: 'shortOffset' });

/** An instant in the technician's own time. @example printInstant('2026-03-24T15:40:00Z') // '24 Mar, 15:40' */
export function printInstant(iso: string): string {
  return whole.format(new Date(iso));
}

/** @example printClock('2026-03-24T15:40:00Z') // '15:40' */
export function printClock(iso: string): string {
  return clock.format(new Date(iso));
}

/** The zone that the other two print in. @example 'UTC+1' */
export function zoneName(): string {
  const name = zone.formatToParts(new Date()).find(({ type }) => type === 'timeZoneName')?.value ?? 'UTC';
  return name === 'GMT' ? 'UTC' : name.replace('GMT', 'UTC');
}
