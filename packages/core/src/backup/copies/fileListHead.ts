import { z } from 'zod';
import { ShapeSchema } from '../destinations/allocation';
import { InstantSchema } from '../../quantity/daySchema';

export const fileListRoles = ['before', 'copy', 'after'] as const;
export type FileListRole = (typeof fileListRoles)[number];

export const fileListSources = ['hashed', 'checksum-list', 'bag', 'csv'] as const;

/**
 * What is known of a list of files; its lines lie elsewhere. `before`: as the data set lay on the
 * device; `copy`: as it lies on a destination; `after`: as it came back.
 */
export const FileListHeadSchema = z.strictObject({
  id: z.uuid(),
  dataSetId: z.string(),
  role: z.enum(fileListRoles),
  /** The destination that a copy lies on. */
  destinationId: z.string().nullable(),
  source: z.enum(fileListSources),
  /** Set when only some of the files were drawn: out of how many. */
  sampledFrom: z.int().positive().nullable(),
  fileCount: z.int().min(0),
  /** Sum of the known sizes. */
  sizeBytes: z.int().min(0),
  largestFileBytes: z.int().min(0),
  withoutSize: z.int().min(0),
  withoutDigest: z.int().min(0),
  /** Files that could not be read, changed while they were read, or are links. */
  troubled: z.int().min(0),
  /** What decides how much room they take. */
  shape: ShapeSchema.exactOptional(),
  /**
   * Paths, sizes and checksums of all files as one number, in whichever order they stand; absent where a checksum is
   * missing. Two lists with one digest are of one content.
   */
  contentDigest: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .exactOptional(),
  at: InstantSchema,
  by: z.string(),
});

export type FileListHead = z.infer<typeof FileListHeadSchema>;

/** The list of a role that a data set has; a part of a split data set has that of the whole. */
export function listOf(
  lists: readonly FileListHead[],
  dataSet: { readonly id: string; readonly part?: { readonly of: string } | undefined },
  role: FileListRole,
  destinationId: string | null = null,
): FileListHead | undefined {
  const wanted = role === 'before' ? [dataSet.id, dataSet.part?.of] : [dataSet.id];
  return lists.find(
    (list) => list.role === role && list.destinationId === destinationId && wanted.includes(list.dataSetId),
  );
}
