import { dayIn } from '../../quantity/localTime';
import { z } from 'zod';
import { daysBetween } from '../../quantity/day';
import { DaySchema, InstantSchema } from '../../quantity/daySchema';

/** What becomes of the backup on one destination. */
export const RetentionSchema = z.strictObject({
  destinationId: z.string(),
  /** What is written on it. */
  label: z.string().trim().min(1).max(100),
  place: z.string().trim().min(1).max(300),
  keepUntil: DaySchema,
  wiped: z
    .strictObject({ at: InstantSchema, by: z.string(), method: z.string().trim().min(1).max(300) })
    .nullable(),
});

export type Retention = z.infer<typeof RetentionSchema>;

/** The first day on which a backup of these is to be wiped; null when none is left. */
export function nextWipe(retentions: readonly Retention[]): string | null {
  const days = retentions.filter(({ wiped }) => wiped === null).map(({ keepUntil }) => keepUntil);
  return days.sort()[0] ?? null;
}

/**
 * How a backup stands on a day, in words.
 * @example retentionSentence({ …, keepUntil: '2026-04-01', wiped: null }, '2026-03-30', 'UTC') // 'kept for 2 more days'
 */
export function retentionSentence({ keepUntil, wiped }: Retention, today: string, zone: string): string {
  if (wiped) return `wiped on ${dayIn(zone, wiped.at)} by ${wiped.by}: ${wiped.method}`;
  const days = daysBetween(today, keepUntil);
  if (days < 0) return `should have been wiped ${-days} ${days === -1 ? 'day' : 'days'} ago`;
  return days === 0 ? 'to be wiped today' : `kept for ${days} more ${days === 1 ? 'day' : 'days'}`;
}
