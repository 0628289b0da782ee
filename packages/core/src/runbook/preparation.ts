import { z } from 'zod';
import { MediumContentSchema } from '../backup/destinations/mediumContent';
import { activationKinds } from '../catalogue/catalogue';
import { mebibyteBytes } from '../quantity/bytes';
import { isolationIds } from './isolation';
import { DaySchema, InstantSchema } from '../quantity/daySchema';

const mark = { at: InstantSchema, by: z.string().min(1) };

const line = z.string().trim().min(1).max(100);
const consent = z.strictObject({ signer: line, keptWhere: z.string().trim().min(1).max(300), ...mark });

/**
 * What has been got ready and confirmed. Keys themselves are never kept here: only where they are.
 */
export const PreparationSchema = z.strictObject({
  stick: z
    .strictObject({
      name: z.string().trim().min(1).max(60),
      serial: z.string().trim().max(128),
      /** Set when it was taken from the media shelf, with the installer on it as it was then. */
      holds: MediumContentSchema.exactOptional(),
    })
    .nullable(),
  /** The image of the release that is at hand, where it lies, and that its checksum is the published one. */
  image: z
    .strictObject({ releaseId: line, keptWhere: z.string().trim().min(1).max(300), ...mark })
    .nullable()
    .default(null),
  licence: z
    .strictObject({ kind: z.enum(activationKinds), keptWhere: z.string().trim().min(1).max(300), ...mark })
    .nullable(),
  recoveryKey: z.strictObject({ keptWhere: z.string().trim().min(1).max(300), ...mark }).nullable(),
  /** Of the encryption that this move switches on. */
  passphrase: z
    .strictObject({ keptWhere: z.string().trim().min(1).max(300), ...mark })
    .nullable()
    .default(null),
  /** The two marks, as read off the disk itself or the installer's list. */
  diskMarks: z
    .strictObject({
      serialEnd: z.string().trim().min(4).max(128),
      sizeGigabytes: z.number().positive(),
      ...mark,
    })
    .nullable(),
  power: z.strictObject(mark).nullable(),
  networkDriver: z.strictObject({ how: z.string().trim().min(1).max(300), ...mark }).nullable(),
  nothingToSave: z.strictObject({ statement: z.string().trim().min(1).max(500), ...mark }).nullable(),
  wantedSystemBytes: z.int().positive().nullable(),
  /** Partitions for data beside the system's, in disk order; the last may take the rest, and has no size then. */
  dataParts: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1).max(30),
        sizeBytes: z.int().min(mebibyteBytes).nullable(),
      }),
    )
    .max(6)
    .refine((parts) => parts.slice(0, -1).every(({ sizeBytes }) => sizeBytes !== null), {
      message: 'Only the last partition can take the rest: give the others a size.',
    })
    .refine((parts) => new Set(parts.map(({ name }) => name.toLowerCase())).size === parts.length, {
      message: 'Two partitions have the same name: each is found by its own.',
    })
    .default([]),
  holdUntil: DaySchema.nullable(),
  /** Written consent, and where the paper is kept. */
  ownerConsent: consent.nullable().default(null),
  organisationConsent: consent.nullable().default(null),
  /** What of the isolation list has been done. */
  isolation: z
    .strictObject({ done: z.array(z.enum(isolationIds)), ...mark })
    .nullable()
    .default(null),
  /** The device that takes this one's place. */
  replacement: z
    .strictObject({ maker: line, model: line, serial: z.string().trim().min(1).max(128), ...mark })
    .nullable()
    .default(null),
  dataMoved: z
    .strictObject({ statement: z.string().trim().min(1).max(500), ...mark })
    .nullable()
    .default(null),
  wipe: z
    .strictObject({ method: z.string().trim().min(1).max(300), ...mark })
    .nullable()
    .default(null),
  disposal: z
    .strictObject({ how: z.string().trim().min(1).max(300), ...mark })
    .nullable()
    .default(null),
});

export type Preparation = z.infer<typeof PreparationSchema>;

export const nothingPrepared: Preparation = {
  stick: null,
  image: null,
  licence: null,
  recoveryKey: null,
  passphrase: null,
  diskMarks: null,
  power: null,
  networkDriver: null,
  nothingToSave: null,
  wantedSystemBytes: null,
  dataParts: [],
  holdUntil: null,
  ownerConsent: null,
  organisationConsent: null,
  isolation: null,
  replacement: null,
  dataMoved: null,
  wipe: null,
  disposal: null,
};
