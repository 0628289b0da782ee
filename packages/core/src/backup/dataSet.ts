import { z } from 'zod';
import { fileSystemIds } from '../catalogue/fileSystems';

const id = z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/);

export const dataSetKinds = [
  'folder',
  'browser',
  'mail',
  'passwords',
  'keys',
  'settings',
  'application-list',
  'other-account',
] as const;

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
});

export const linkClasses = ['usb2', 'usb3', 'sata', 'gigabit', 'uplink'] as const;
export const mediumClasses = ['spinning', 'solid-state', 'stick', 'server'] as const;

/** Where copies go. Capacity and free bytes are as formatted, not as sold. */
export const DestinationSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(100),
  kind: z.enum(['drive', 'stick', 'share', 'cloud']),
  serial: z.string().max(128),
  capacityBytes: z.int().min(0),
  freeBytes: z.int().min(0),
  fileSystem: z.enum(fileSystemIds),
  link: z.enum(linkClasses),
  medium: z.enum(mediumClasses),
  /** Ids of the data sets that it takes. */
  takes: z.array(id).max(500),
});

/** One data set on one destination. It counts as a good copy once it has been verified. */
export const CopySchema = z.strictObject({
  dataSetId: id,
  destinationId: id,
  verifiedAt: z.iso.datetime(),
  verifiedBy: z.string(),
});

export type DataSet = z.infer<typeof DataSetSchema>;
export type Destination = z.infer<typeof DestinationSchema>;
export type Copy = z.infer<typeof CopySchema>;
