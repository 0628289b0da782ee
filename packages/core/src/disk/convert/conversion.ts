import { z } from 'zod';
import type { Problem } from '../../outcome/outcome';
import type { Random } from '../table/guid';
import type { PartitionTable } from '../table/partitionTable';
import type { SectorWrite } from '../sectors/sectorWrite';

const number = z.int().min(1).max(128);
const sectors = z.int().positive();

/** What is done about an obstacle. Sectors count from the disk's start. */
export const ResolutionSchema = z.discriminatedUnion('kind', [
  /** The end of a partition comes down; its file system was made smaller before, inside its own system. */
  z.strictObject({ kind: z.literal('shrink'), partition: number, bySectors: sectors }),
  /** Logical partitions become entries like all others. */
  z.strictObject({ kind: z.literal('logical-to-entry') }),
  /** Partitions become logical ones in an extended partition. */
  z.strictObject({ kind: z.literal('entry-to-logical'), partitions: z.array(number).max(128) }),
  z.strictObject({ kind: z.literal('set-type'), partition: number, typeCode: z.string().max(64) }),
  z.strictObject({ kind: z.literal('reuse-efi'), partition: number }),
  z.strictObject({ kind: z.literal('make-efi'), startLba: sectors, sectorCount: sectors }),
  /** A partition for the loader that starts the disk in legacy mode from GPT; it is not formatted. */
  z.strictObject({ kind: z.literal('make-boot'), startLba: sectors, sectorCount: sectors }),
  /** Sectors outside of every partition that are in use may be written over; the undo capsule keeps them. */
  z.strictObject({ kind: z.literal('write-over'), startLba: sectors, sectorCount: sectors }),
  /** The volume has been checked and its system shut down in full. */
  z.strictObject({ kind: z.literal('closed'), partition: number }),
  /** The encryption has been suspended, and the recovery key is kept apart. */
  z.strictObject({ kind: z.literal('suspended'), partition: number }),
  /** The disk starts no system: no EFI system partition is wanted. */
  z.strictObject({ kind: z.literal('no-efi') }),
  /** The entry goes; its sectors stay as they are, and can be brought back with the undo capsule. */
  z.strictObject({ kind: z.literal('drop'), partition: number }),
]);

export type Resolution = z.infer<typeof ResolutionSchema>;

export type Remedy = {
  readonly resolution: Resolution;
  readonly action: string;
};

/** Why a conversion cannot be made as things are, and what would change that. No remedy: it is refused. */
export type Obstacle = Problem & {
  readonly remedies: readonly Remedy[];
  /** What has to be done elsewhere, when nothing here resolves it. */
  readonly otherwise?: string;
};

/** What a table said and the other scheme cannot: kept so that going back restores it. */
export const RememberedSchema = z.strictObject({
  diskId: z.string().max(36).exactOptional(),
  partitions: z
    .array(
      z.strictObject({
        startLba: z.int().min(0),
        number,
        kind: z.enum(['primary', 'logical', 'entry']),
        typeCode: z.string().max(64),
        guid: z.string().max(36).exactOptional(),
        name: z.string().max(72).exactOptional(),
        attributes: z
          .string()
          .regex(/^[0-9a-f]{16}$/)
          .exactOptional(),
        active: z.boolean().exactOptional(),
        ebrLba: z.int().min(1).exactOptional(),
      }),
    )
    .max(1024),
  /** The container of logical partitions, with its borders. */
  extended: z
    .strictObject({ startLba: z.int().min(1), sectorCount: sectors, entry: z.int().min(1).max(4) })
    .exactOptional(),
});

export type RememberedTable = z.infer<typeof RememberedSchema>;
export type Remembered = RememberedTable['partitions'][number];

export type ConversionOptions = {
  readonly random: Random;
  readonly resolutions?: readonly Resolution[];
  /** From an earlier conversion of the same disk: types, names and GUIDs come back by start sector. */
  readonly remembered?: RememberedTable;
};

export type ConversionPlan = {
  readonly target: 'gpt' | 'mbr';
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  /**
   * A sector each, in the order in which they are written: after every single one a reader sees the old
   * table or the new one. Empty when only a table was given and no sectors.
   */
  readonly writes: readonly SectorWrite[];
  /** What is done, a sentence each. */
  readonly operations: readonly string[];
  /** What the other scheme cannot say, kept in the record. */
  readonly remembered: RememberedTable;
  readonly notes: readonly string[];
};

/** The table afterwards, or every obstacle: what each direction plans before sectors are looked at. */
export type PlannedTable =
  | {
      readonly ok: true;
      readonly after: PartitionTable;
      readonly operations: readonly string[];
      readonly notes: readonly string[];
    }
  | { readonly ok: false; readonly problems: readonly Obstacle[] };

export type ConversionOutcome =
  | { readonly ok: true; readonly value: ConversionPlan }
  | { readonly ok: false; readonly problems: readonly Obstacle[] };

export function rememberedOf(table: PartitionTable): RememberedTable {
  return {
    ...(table.diskId === undefined ? {} : { diskId: table.diskId }),
    partitions: table.partitions.map(
      ({ startLba, typeCode, guid, name, attributes, active, ebrLba, number, kind }) => ({
        startLba,
        typeCode,
        number,
        kind,
        ...(guid === undefined ? {} : { guid }),
        ...(name === undefined ? {} : { name }),
        ...(attributes === undefined ? {} : { attributes }),
        ...(active === undefined ? {} : { active }),
        ...(ebrLba === undefined ? {} : { ebrLba }),
      }),
    ),
    ...(table.extended ? { extended: table.extended } : {}),
  };
}
