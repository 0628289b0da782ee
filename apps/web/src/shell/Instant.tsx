import { dayIn, printClockIn, printInstantIn } from '@ulvane/core/quantity';
import { useHouse } from '../api/useHouse';

/** The house's time zone; UTC until the house is known. */
export function useZone(): string {
  return useHouse().house?.houseRules.timeZone ?? 'UTC';
}

/** The day of an instant in the house's time zone. */
export function Day({ at }: { readonly at: string }) {
  return <time dateTime={at}>{dayIn(useZone(), at)}</time>;
}

/** An instant in the house's time zone, marked with it; only the clock for one of the same day. */
export function Instant({ at, today }: { readonly at: string; readonly today?: string }) {
  const zone = useZone();
  const isToday = today !== undefined && dayIn(zone, at) === today;
  return <time dateTime={at}>{isToday ? printClockIn(zone, at) : printInstantIn(zone, at)}</time>;
}
