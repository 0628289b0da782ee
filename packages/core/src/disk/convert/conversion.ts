import type { Problem } from '../../outcome/outcome';
import type { Random } from '../table/guid';
import type { PartitionTable, TablePartition } from '../table/partitionTable';
import type { SectorWrite } from '../sectors/sectorWrite';

/** What is done about an obstacle. Sectors count from the disk's start. */
export type Resolution =
  /** The end of a partition comes down; its file system was made smaller before, inside its own system. */
  | { readonly kind: 'shrink'; readonly partition: number; readonly bySectors: number }
  /** Logical partitions become entries like all others. */
  | { readonly kind: 'logical-to-entry' }
  /** Partitions become logical ones in an extended partition. */
  | { readonly kind: 'entry-to-logical'; readonly partitions: readonly number[] }
  | { readonly kind: 'set-type'; readonly partition: number; readonly typeCode: string }
  | { readonly kind: 'reuse-efi'; readonly partition: number }
  | { readonly kind: 'make-efi'; readonly startLba: number; readonly sectorCount: number }
  /** The disk starts no system: no EFI system partition is wanted. */
  | { readonly kind: 'no-efi' }
  /** The entry goes; its sectors stay as they are, and can be brought back with the undo capsule. */
  | { readonly kind: 'drop'; readonly partition: number };

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

/** What a table said of a partition and the other scheme cannot: kept so that going back restores it. */
export type Remembered = Pick<
  TablePartition,
  'startLba' | 'typeCode' | 'guid' | 'name' | 'attributes' | 'active' | 'number' | 'kind'
>;

export type ConversionOptions = {
  readonly random: Random;
  readonly resolutions?: readonly Resolution[];
  /** From an earlier conversion of the same disk: types, names and GUIDs come back by start sector. */
  readonly remembered?: { readonly diskId?: string; readonly partitions: readonly Remembered[] };
};

export type ConversionPlan = {
  readonly target: 'gpt' | 'mbr';
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  /** In the order in which they are written; empty when only a table was given and no sectors. */
  readonly writes: readonly SectorWrite[];
  /** What is done, a sentence each. */
  readonly operations: readonly string[];
  /** What the other scheme cannot say, kept in the record. */
  readonly remembered: { readonly diskId?: string; readonly partitions: readonly Remembered[] };
  readonly notes: readonly string[];
};

export type ConversionOutcome =
  | { readonly ok: true; readonly value: ConversionPlan }
  | { readonly ok: false; readonly problems: readonly Obstacle[] };

export function rememberedOf(table: PartitionTable): ConversionPlan['remembered'] {
  return {
    ...(table.diskId === undefined ? {} : { diskId: table.diskId }),
    partitions: table.partitions.map(
      ({ startLba, typeCode, guid, name, attributes, active, number, kind }) => ({
        startLba,
        typeCode,
        number,
        kind,
        ...(guid === undefined ? {} : { guid }),
        ...(name === undefined ? {} : { name }),
        ...(attributes === undefined ? {} : { attributes }),
        ...(active === undefined ? {} : { active }),
      }),
    ),
  };
}
