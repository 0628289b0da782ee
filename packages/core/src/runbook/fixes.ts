import type { Release } from '../catalogue/catalogue';
import { supportDaysLeft, supportedUntil } from '../catalogue/find';
import type { StepInput } from './input';

/** @example untilWords(release) // ': 2027-03-25'; empty without an end */
export function untilWords(release: Release): string {
  const until = supportedUntil(release);
  return until === null ? '' : `: ${until}`;
}

/**
 * What is known of the fixes of the present system on the day of the plan: over, until a day, without an end. One that
 * nobody knows counts as over: it is kept off the network.
 */
export function presentFixes({
  present,
  today,
}: Pick<StepInput, 'present' | 'today'>): 'over' | 'no-end' | { readonly until: string } {
  if (!present || supportDaysLeft(present, today) < 0) return 'over';
  const until = supportedUntil(present);
  return until === null ? 'no-end' : { until };
}
