import { z } from 'zod';
import { InstantSchema } from '../quantity/daySchema';

/** One line of the log of a move. Lines are only ever added. */
export const EventSchema = z.strictObject({
  at: InstantSchema,
  by: z.string(),
  kind: z.string(),
  sentence: z.string(),
  /** Who brought the line along with an imported move; absent for a line that was written here. */
  importedBy: z.string().optional(),
});

export type LogEvent = z.infer<typeof EventSchema>;
