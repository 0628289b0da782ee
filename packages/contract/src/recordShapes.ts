import { ChainLineSchema } from '@ulvane/core/record';
import { z } from 'zod';

/** The log of a move, as whoever wants to check it needs it. */
export const LogRecordSchema = z.object({
  /** The move's id, which every code is made with. */
  id: z.uuid(),
  lines: z.array(ChainLineSchema),
  /** Where the log ends by what is kept beside it. */
  head: z.object({ count: z.int().min(0), hash: z.string() }),
  /** The record as it is stored: the last line holds its code. */
  record: z.json(),
});

export const UnreadableMoveSchema = z.object({
  reference: z.string(),
  device: z.string(),
  version: z.int(),
  reason: z.string(),
  /** The last version that can be read, and until when it stood; null where none is kept. */
  rollBackTo: z.object({ version: z.int(), until: z.string() }).nullable(),
});

/** What the owner of a device was shown with their earlier ones, the latest first. */
export const OwnerHabitsSchema = z.object({
  owner: z.string(),
  earlier: z.array(
    z.object({
      reference: z.string(),
      device: z.string(),
      at: z.iso.datetime(),
      by: z.string(),
      move: z.string(),
      note: z.string(),
    }),
  ),
});

export type LogRecord = z.infer<typeof LogRecordSchema>;
export type UnreadableMove = z.infer<typeof UnreadableMoveSchema>;
