import { DriveSchema } from '@ulvane/core/backup';
import { differenceKinds, FileEntrySchema } from '@ulvane/core/manifest';
import { secretKinds } from '@ulvane/core/record';
import { z } from 'zod';

const count = z.int().min(0);

/** A stretch of a list of files. */
export const FilesSchema = z.object({
  files: z.array(FileEntrySchema.extend({ ordinal: count })),
  /** Files of the whole list. */
  total: count,
});

export const DifferenceSchema = z.object({
  ordinal: count,
  kind: z.enum(differenceKinds),
  pathBefore: z.string().nullable(),
  pathAfter: z.string().nullable(),
  sizeBefore: count.nullable(),
  sizeAfter: count.nullable(),
  noise: z.string().nullable(),
  trouble: z.string().nullable(),
  reason: z.string().nullable(),
  reasonBy: z.string().nullable(),
});

/** Differences of one kind in one folder. */
export const DifferenceGroupSchema = z.object({
  kind: z.enum(differenceKinds),
  folder: z.string(),
  count,
  sizeBytes: count,
  open: count,
  noise: count,
});

export const listFormats = [
  'checksum-list',
  'bag-manifest',
  'bag-info',
  'bag-declaration',
  'bag-tag-manifest',
  'csv',
  'lines',
] as const;

export const DriveViewSchema = DriveSchema.extend({
  version: z.int().min(1),
  freeBytes: count,
  contents: z.array(
    z.object({
      reference: z.string(),
      label: z.string(),
      sizeBytes: count,
      dataSets: count,
      grades: z.string(),
      keepUntil: z.string().nullable(),
    }),
  ),
});

/** A secret without what it says. */
export const SecretHeadSchema = z.object({
  id: z.uuid(),
  kind: z.enum(secretKinds),
  label: z.string(),
  at: z.string(),
  by: z.string(),
  /** How often it has been shown, and to whom last. */
  showings: count,
  lastShownTo: z.string().nullable(),
});

/** What is encrypted with a passphrase is a JSON Web Encryption (RFC 7516), PBES2-HS512+A256KW and A256GCM. */
export const SealedSchema = z.object({
  format: z.literal('ulvane-secrets'),
  version: z.literal(1),
  jwe: z.string(),
});

export type Files = z.infer<typeof FilesSchema>;
export type DifferenceLine = z.infer<typeof DifferenceSchema>;
export type DifferenceGroup = z.infer<typeof DifferenceGroupSchema>;
export type ListFormat = (typeof listFormats)[number];
export type DriveView = z.infer<typeof DriveViewSchema>;
export type SecretHead = z.infer<typeof SecretHeadSchema>;
export type Sealed = z.infer<typeof SealedSchema>;
