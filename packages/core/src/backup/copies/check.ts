import { z } from 'zod';
import { differenceKinds } from '../../manifest/differences';
import { InstantSchema } from '../../quantity/daySchema';

/** How a copy was found good: said so by hand, every file compared, or a sample of them. */
export const CopyCheckSchema = z.discriminatedUnion('method', [
  z.strictObject({ method: z.literal('full'), files: z.int().min(0) }),
  z.strictObject({ method: z.literal('sample'), files: z.int().min(0), ofFiles: z.int().min(0) }),
]);

/** A comparison that found files that differ: the copy counts for nothing until it is compared again. */
export const FailedCheckSchema = z.strictObject({
  dataSetId: z.string(),
  destinationId: z.string(),
  at: InstantSchema,
  by: z.string(),
  count: z.int().positive(),
  /** The first of them. */
  files: z.array(z.strictObject({ kind: z.enum(differenceKinds), path: z.string() })).max(200),
});

export type CopyCheck = z.infer<typeof CopyCheckSchema>;
export type FailedCheck = z.infer<typeof FailedCheckSchema>;
