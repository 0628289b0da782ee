import { dayIn } from '@ulvane/core/quantity';
import { useNow } from '../api/useNow';
import { useZone } from './Instant';

/** Today, in the house's time zone. */
export function useDay(): string {
  const zone = useZone();
  return dayIn(zone, useNow(60_000));
}
