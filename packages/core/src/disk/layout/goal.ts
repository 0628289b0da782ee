import { z } from 'zod';

/** What a partition is made for. */
export const newPurposes = [
  'efi',
  'reserved',
  'recovery',
  'boot',
  'loader',
  'system',
  'data',
  'installer',
] as const;
export type NewPurpose = (typeof newPurposes)[number];

const sizeBytes = z.int().positive();
const number = z.int().min(1).max(128);
const wanted = z.array(z.strictObject({ purpose: z.enum(newPurposes), sizeBytes })).max(16);

/** What the disk is to be like afterwards. */
export const LayoutPlanGoalSchema = z.discriminatedUnion('kind', [
  /** One run of free space for a second system. */
  z.strictObject({ kind: z.literal('room'), sizeBytes }),
  /** The system partition comes down to a size, and data get the rest behind it. */
  z.strictObject({
    kind: z.literal('split'),
    systemBytes: z.int().positive(),
    /** Where it is not known which one carries the system. */
    partition: number.exactOptional(),
  }),
  /** A FAT32 partition that holds the installer. */
  z.strictObject({ kind: z.literal('installer-partition'), sizeBytes }),
  /** A release's own partitions in the place of the present system; all others stay. */
  z.strictObject({ kind: z.literal('standard'), installer: wanted }),
  /** Everything goes, and a release's partitions take the whole disk. */
  z.strictObject({ kind: z.literal('wipe'), scheme: z.enum(['gpt', 'mbr']), installer: wanted }),
  /** A second system goes, and a partition gets its room back. */
  z.strictObject({ kind: z.literal('grow-back'), partition: number, remove: z.array(number).max(128) }),
]);

export type LayoutPlanGoal = z.infer<typeof LayoutPlanGoalSchema>;
export type WantedPartition = z.infer<typeof wanted>[number];

export type LayoutOptions = {
  /** Partitions that no plan may shrink, move, delete or format, with the reason. */
  readonly locked?: ReadonlyMap<number, string>;
  /** Partitions that may be shrunk or moved but not deleted or formatted: the route promised to keep them. */
  readonly promised?: ReadonlySet<number>;
  /** Without moves a plan is quicker and safer, and sometimes there is none. Default: allowed. */
  readonly allowMoves?: boolean;
  /** What the disk reads and writes in one go; a spinning disk where it is not known. */
  readonly bytesPerSecond?: number;
  /** Only for new GPT entries; without it they get no GUID of their own yet. */
  readonly random?: (byteCount: number) => Uint8Array;
};

/** Used bytes times this is the least that a partition is shrunk to: a tenth stays free for updates. */
export const reserveFactor = 1.1;
