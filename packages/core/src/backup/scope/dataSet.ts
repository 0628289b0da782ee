import { z } from 'zod';
import { keepsakeKinds } from '../../catalogue/catalogue';
import { fileSystemIds } from '../../catalogue/fileSystems';
import { ShapeSchema } from '../destinations/allocation';
import { CopyCheckSchema } from '../copies/check';
import { InstantSchema } from '../../quantity/daySchema';

const id = z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/);

/** What a data set is of: the same kinds as the catalogue's keepsakes. */
export const dataSetKinds = keepsakeKinds;

/** A part of the owner's data that is backed up, restored and counted as one. */
export const DataSetSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(100),
  kind: z.enum(dataSetKinds),
  path: z.string().max(1024),
  sizeBytes: z.int().min(0),
  fileCount: z.int().min(0),
  largestFileBytes: z.int().min(0),
  /** Where it lies now: on the system partition, or on a partition or disk that is not the system's. */
  place: z.enum(['system-partition', 'data-partition', 'other-disk']),
  /** Set on a part of a data set that was split: the whole's id, and the folders and files of this part. */
  part: z
    .strictObject({ of: id, places: z.array(z.string().max(32_768)).min(1).max(20_000) })
    .exactOptional(),
  /** Counts that were typed or surveyed and that its list of files does not bear out. */
  typed: z.strictObject({ sizeBytes: z.int().min(0), fileCount: z.int().min(0) }).exactOptional(),
  /** From its list of files; absent where there is none, or where the counts were typed over it. */
  shape: ShapeSchema.exactOptional(),
  /** Files that are only names: their content is in a cloud. */
  placeholderFiles: z.int().min(0).exactOptional(),
  encrypted: z
    .strictObject({ files: z.int().positive(), keyWhere: z.string().trim().max(300) })
    .exactOptional(),
});

export const linkClasses = ['usb2', 'usb3', 'sata', 'gigabit', 'uplink'] as const;
export const mediumClasses = ['spinning', 'solid-state', 'stick', 'server'] as const;

/** Where copies go. Capacity and free bytes are as formatted, not as sold. */
export const DestinationSchema = z.strictObject({
  id,
  /** Set when it is one of the house's inventory. */
  driveId: z.uuid().exactOptional(),
  name: z.string().trim().min(1).max(100),
  kind: z.enum(['drive', 'stick', 'share', 'cloud']),
  serial: z.string().max(128),
  capacityBytes: z.int().min(0),
  freeBytes: z.int().min(0),
  fileSystem: z.enum(fileSystemIds),
  /** As it was formatted; absent where nobody has looked. */
  clusterBytes: z.int().positive().exactOptional(),
  link: z.enum(linkClasses),
  medium: z.enum(mediumClasses),
  /** Ids of the data sets that it takes. */
  takes: z.array(id).max(500),
});

/** One data set on one destination. It counts as a good copy once it has been verified. */
export const CopySchema = z.strictObject({
  dataSetId: id,
  destinationId: id,
  verifiedAt: InstantSchema,
  verifiedBy: z.string(),
  /** Absent: somebody said so. */
  check: CopyCheckSchema.exactOptional(),
});

export type DataSet = z.infer<typeof DataSetSchema>;
export type Destination = z.infer<typeof DestinationSchema>;
export type Copy = z.infer<typeof CopySchema>;
