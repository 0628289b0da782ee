import { z } from 'zod';
import { RememberedSchema, ResolutionSchema } from '../disk/convert/conversion';
import { LayoutPlanGoalSchema } from '../disk/layout/goal';
import { WritesFileSchema } from '../disk/sectors/writesFile';
import { InstantSchema } from '../quantity/daySchema';

/** What is to be done to the table of a disk: its scheme, or what stands where. */
export const DiskWorkSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('convert'),
    target: z.enum(['gpt', 'mbr']),
    resolutions: z.array(ResolutionSchema).max(200),
  }),
  z.strictObject({ kind: z.literal('layout'), goal: LayoutPlanGoalSchema }),
]);

/** The disk work that a move has planned; operations, times and places follow from the survey each time. */
export const DiskPlanSchema = z.strictObject({
  /** The disk's name in the survey, and its serial then. */
  disk: z.string().min(1).max(64),
  serial: z.string().max(128).nullable(),
  work: DiskWorkSchema,
  at: InstantSchema,
  by: z.string(),
});

/** So many capsules are kept with a move: there and back, some times over. */
export const maxCapsules = 8;

/** The old sectors of a disk before its table is rewritten, and what the other scheme cannot say. */
export const CapsuleSchema = z.strictObject({
  disk: z.string().min(1).max(64),
  target: z.enum(['gpt', 'mbr']),
  remembered: RememberedSchema,
  undo: WritesFileSchema,
  at: InstantSchema,
  by: z.string(),
});

export type DiskWork = z.infer<typeof DiskWorkSchema>;
export type DiskPlan = z.infer<typeof DiskPlanSchema>;
export type Capsule = z.infer<typeof CapsuleSchema>;
