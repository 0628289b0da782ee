import { z } from 'zod';

/** One line of the log of a move. Lines are only ever added. */
export const EventSchema = z.strictObject({
  at: z.iso.datetime(),
  by: z.string(),
  kind: z.string(),
  sentence: z.string(),
});

export type LogEvent = z.infer<typeof EventSchema>;
