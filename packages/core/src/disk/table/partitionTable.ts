import type { ProblemCode } from '../../outcome/problemCodes';
import type { RecognisedContent } from '../content/content';

/** How grave a finding is: `damage` stops every plan, `warning` is to be read, `note` explains. */
export type FindingWeight = 'note' | 'warning' | 'damage';

/** Something that was seen while a table was read. */
export type Finding = {
  /** Stable, kebab-case. */
  readonly code: ProblemCode;
  /** Where: `/lba/1`, `/partitions/3`, `` for the disk. */
  readonly path: string;
  readonly sentence: string;
  readonly weight: FindingWeight;
};

/** `primary` and `logical` stand in MBR, `entry` in GPT. */
export type PartitionKind = 'primary' | 'logical' | 'entry';

export type TablePartition = {
  /** As the systems count: 1–4 primaries, logical from 5; the place in the table for GPT. */
  readonly number: number;
  readonly kind: PartitionKind;
  readonly startLba: number;
  readonly sectorCount: number;
  /** Upper-case GUID (GPT) or a byte like `0x07` (MBR). */
  readonly typeCode: string;
  /** Its own GUID; GPT only. */
  readonly guid?: string;
  /** Its name in the table; GPT only. */
  readonly name?: string;
  /** Attribute bits, as 16 hexadecimal digits; GPT only, absent when all zero. */
  readonly attributes?: string;
  /** Marked as the one to start from; MBR only. */
  readonly active?: boolean;
  /** Where the EBR stands that tells of it; logical ones only. */
  readonly ebrLba?: number;
  /** What is in it, by its own magic numbers; absent when it was not recognised. */
  readonly content?: RecognisedContent;
  readonly label?: string;
  readonly usedBytes?: number;
  /** Where the last block lies that cannot be moved, from the partition's start. */
  readonly lastImmovableByte?: number;
  /** What the survey says it is for. */
  readonly role?: 'efi' | 'reserved' | 'system' | 'data' | 'recovery' | 'boot' | 'swap';
  readonly encrypted?: boolean;
};

/** Sectors outside of every partition that are not empty. */
export type OutsideUse = {
  /** Before the first partition, or where GPT keeps its second copy. */
  readonly what: 'gap' | 'end';
  readonly startLba: number;
  readonly sectorCount: number;
};

export type PartitionTable = {
  /** Set when it was put together from a survey: no sector of it was read. */
  readonly surveyed?: true;
  readonly scheme: 'gpt' | 'mbr' | 'none';
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  /** The disk's GUID (GPT) or its signature as eight hexadecimal digits (MBR). */
  readonly diskId?: string;
  /** In disk order. */
  readonly partitions: readonly TablePartition[];
  /** The container of logical partitions, MBR only. */
  readonly extended?: { readonly startLba: number; readonly sectorCount: number; readonly entry: number };
  /** Sectors that partitions may take, both included. */
  readonly firstUsableLba: number;
  readonly lastUsableLba: number;
  /** Where GPT's structures stand; absent in MBR. */
  readonly gpt?: {
    readonly entryCount: number;
    readonly entrySizeBytes: number;
    readonly entriesLba: number;
    readonly backupLba: number;
    /** Ordinary partitions in the first sector beside the protective one. */
    readonly hybrid: boolean;
  };
  /** The first sector holds code before its entries; set when sectors were read. */
  readonly startCode?: true;
  readonly outsideUse?: readonly OutsideUse[];
  /** What the disk as a whole is, where it has no table. */
  readonly wholeDisk?: RecognisedContent;
  readonly findings: readonly Finding[];
};

/** The first sector behind a partition. */
export function endLba(partition: Pick<TablePartition, 'startLba' | 'sectorCount'>): number {
  return partition.startLba + partition.sectorCount;
}

/** @example tableBytes({ sectorSizeBytes: 512, sectorCount: 4 }) // 2048 */
export function tableBytes(table: Pick<PartitionTable, 'sectorSizeBytes' | 'sectorCount'>): number {
  return table.sectorSizeBytes * table.sectorCount;
}

export function inDiskOrder<T extends { readonly startLba: number }>(partitions: readonly T[]): readonly T[] {
  return [...partitions].sort((a, b) => a.startLba - b.startLba);
}

/** What a partition is called on screen: its label, its name in the table, or its number. */
export function nameOf(partition: TablePartition): string {
  return partition.label ?? partition.content?.label ?? partition.name ?? `partition ${partition.number}`;
}

/** “Partition 3 (DATA)”, or “Partition 3” when it has no name. */
export function calledBy(partition: TablePartition): string {
  return `P${inSentence(partition).slice(1)}`;
}

/** “partition 3 (DATA)”, inside a sentence. */
export function inSentence(partition: TablePartition): string {
  const name = partition.label ?? partition.content?.label ?? partition.name;
  return name === undefined || name === ''
    ? `partition ${partition.number}`
    : `partition ${partition.number} (${name})`;
}

/** Sectors that a GPT of 128 entries of 128 bytes takes for its entries. */
export function standardEntrySectors(sectorSizeBytes: number): number {
  return (128 * 128) / sectorSizeBytes;
}

/**
 * What a GPT of the standard size leaves for partitions, both ends included (UEFI 2.10, 5.3).
 * @example gptBounds(512, 1000) // { firstUsableLba: 34, lastUsableLba: 966 }
 */
export function gptBounds(
  sectorSizeBytes: number,
  sectorCount: number,
): { readonly firstUsableLba: number; readonly lastUsableLba: number } {
  const entries = standardEntrySectors(sectorSizeBytes);
  return { firstUsableLba: 2 + entries, lastUsableLba: sectorCount - entries - 2 };
}

/** MBR's numbers have 32 bits: no sector from here on can be named (2 TiB with 512-byte sectors). */
export const mbrLimitLba = 2 ** 32;
