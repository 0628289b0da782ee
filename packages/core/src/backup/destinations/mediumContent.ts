import { z } from 'zod';
import { requirementKinds } from '../../catalogue/requirement';
import { DaySchema, InstantSchema } from '../../quantity/daySchema';

/** Modes in which a medium can be started. */
export const mediumModes = ['uefi', 'legacy', 'both'] as const;

/** How what was written was checked: read back whole, a part of it, or found to differ. */
export const mediumChecks = ['compared', 'sampled', 'differs'] as const;

/** One installer on a stick, a disc or a volume of a disk. */
export const MediumContentSchema = z.strictObject({
  /** The release in the catalogue. */
  releaseId: z.string().trim().min(1).max(100),
  /** As it was called when it was written: the catalogue may have lost it since. */
  title: z.string().trim().min(1).max(120),
  mode: z.enum(mediumModes),
  /** `none`: an optical disc has no partition table. */
  scheme: z.enum(['gpt', 'mbr', 'none']),
  bytes: z.int().positive(),
  /** The checks that this installer was made to skip. */
  skips: z.array(z.enum(requirementKinds)).default([]),
  writtenOn: DaySchema,
  by: z.string().trim().min(1).max(100),
  /** Null: nobody has read it back. */
  check: z
    .strictObject({ result: z.enum(mediumChecks), at: InstantSchema, by: z.string().trim().min(1).max(100) })
    .nullable(),
});

export type MediumContent = z.infer<typeof MediumContentSchema>;
