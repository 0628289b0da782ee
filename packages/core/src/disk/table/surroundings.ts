import { arrayPlaces, isArrayMember } from '../content/members';
import { readLatin, viewOf } from '../sectors/numbers';
import { readPadded, type SectorSource } from '../sectors/sectorSource';
import { alignmentSectors } from '../segment';
import {
  endLba,
  standardEntrySectors,
  type Finding,
  type OutsideUse,
  type PartitionTable,
} from './partitionTable';

type Around = {
  readonly startCode: boolean;
  readonly outsideUse: readonly OutsideUse[];
  readonly findings: readonly Finding[];
};

/** What stands in the first sector before its entries. */
const startCodeBytes = 440;
/** A member of a set that the disk controller keeps says so in the last sector (SNIA DDF 2.0, 5.5). */
const controllerSign = 0xde11de11;
/** Dynamic disks have a header of their own in this sector, and their table in the last MiB. */
const dynamicHeaderLba = 6;

/**
 * Looks at what belongs to no partition: code in the first sector, sectors in use before the first
 * partition and where GPT keeps its second copy, and signs that the disk as a whole is a member of something.
 * Reads no more than 1 MiB at the start and the last sectors.
 */
export function lookAround(source: SectorSource, table: PartitionTable): Around {
  const { sectorSizeBytes, sectorCount } = source;
  const first = readPadded(source, 0, 1).bytes;
  const startCode = first.subarray(0, startCodeBytes).some((byte) => byte !== 0);
  const findings = [...wholeDiskMember(source, table)];
  const align = alignmentSectors(sectorSizeBytes);
  const firstStart = Math.min(sectorCount, ...startsOf(table));
  const stale = table.findings.some(({ code }) => code === 'stale-gpt');
  const own = standardEntrySectors(sectorSizeBytes);
  // A GPT, even one from earlier use, is looked at where it is read.
  const gptSectors =
    table.scheme === 'gpt' || stale
      ? table.gpt
        ? table.gpt.entriesLba +
          Math.ceil((table.gpt.entryCount * table.gpt.entrySizeBytes) / sectorSizeBytes)
        : own + 2
      : 1;
  const gap = usedRun(source, gptSectors, Math.min(firstStart, align));
  const lastEnd = Math.max(1, ...table.partitions.map(endLba), containerEnd(table));
  const end =
    table.scheme === 'mbr' && !stale
      ? usedRun(source, Math.max(lastEnd, sectorCount - own - 1), sectorCount)
      : undefined;
  if (gap)
    findings.push({
      code: 'gap-in-use',
      path: `/lba/${gap.startLba}`,
      sentence: `${sectorsText(gap)} before the first partition are in use: most likely a boot loader keeps its code there.`,
      weight: 'note',
    });
  if (end)
    findings.push({
      code: 'end-in-use',
      path: `/lba/${end.startLba}`,
      sentence: `${sectorsText(end)} behind the last partition are in use, and no table says by what: remains, or something that counts on them.`,
      weight: 'note',
    });
  const outsideUse: OutsideUse[] = [
    ...(gap ? [{ what: 'gap' as const, ...gap }] : []),
    ...(end ? [{ what: 'end' as const, ...end }] : []),
  ];
  return { startCode, outsideUse, findings };
}

function startsOf({ partitions, extended }: PartitionTable): readonly number[] {
  return [...partitions.map(({ startLba }) => startLba), ...(extended ? [extended.startLba] : [])];
}

function containerEnd({ extended }: PartitionTable): number {
  return extended ? endLba(extended) : 0;
}

function sectorsText({ startLba, sectorCount }: Run): string {
  return sectorCount === 1 ? `Sector ${startLba}` : `Sectors ${startLba} to ${startLba + sectorCount - 1}`;
}

type Run = { readonly startLba: number; readonly sectorCount: number };

/** From the first sector that is not all zero to the last, within bounds; `endLba` is not read. */
function usedRun(source: SectorSource, startLba: number, end: number): Run | undefined {
  if (end <= startLba) return undefined;
  const { bytes } = readPadded(source, startLba, end - startLba);
  const from = firstUsed(bytes);
  if (from < 0) return undefined;
  const until = lastUsed(bytes);
  const first = startLba + Math.floor(from / source.sectorSizeBytes);
  return {
    startLba: first,
    sectorCount: startLba + Math.floor(until / source.sectorSizeBytes) + 1 - first,
  };
}

/** Loops by number: a MiB is looked through with every disk that is read. */
function firstUsed(bytes: Uint8Array): number {
  for (let index = 0; index < bytes.length; index += 1) if (bytes[index] !== 0) return index;
  return -1;
}

function lastUsed(bytes: Uint8Array): number {
  for (let index = bytes.length - 1; index >= 0; index -= 1) if (bytes[index] !== 0) return index;
  return -1;
}

/** Signs of a set or of dynamic volumes outside of every partition: changing the table would not move them along. */
function wholeDiskMember(source: SectorSource, table: PartitionTable): readonly Finding[] {
  const { sectorSizeBytes, sectorCount } = source;
  const inPartition = (lba: number) =>
    table.partitions.some((one) => lba >= one.startLba && lba < endLba(one));
  const array = arrayPlaces(sectorCount * sectorSizeBytes)
    .filter((byte) => !inPartition(Math.floor(byte / sectorSizeBytes)))
    .find((byte) => isArrayMember(source, byte));
  const last = sectorCount - 1;
  const controller =
    !inPartition(last) && viewOf(readPadded(source, last, 1).bytes).getUint32(0, false) === controllerSign;
  const dynamic =
    !inPartition(dynamicHeaderLba) &&
    sectorSizeBytes === 512 &&
    readLatin(viewOf(readPadded(source, dynamicHeaderLba, 1).bytes), 0, 8) === 'PRIVHEAD';
  const found = (lba: number, what: string): Finding => ({
    code: 'disk-in-set',
    path: `/lba/${lba}`,
    sentence: `Sector ${lba} says that the whole disk ${what}: its place and length are counted on, so nothing is planned on it.`,
    weight: 'warning',
  });
  return [
    ...(array === undefined
      ? []
      : [found(Math.floor(array / sectorSizeBytes), 'is a member of a disk array')]),
    ...(controller ? [found(last, 'is a member of a set that a disk controller keeps')] : []),
    ...(dynamic ? [found(dynamicHeaderLba, 'carries dynamic volumes')] : []),
  ];
}

/** Starts off whole MiB, more than one partition to start from: seen, and kept as they are. */
export function habitFindings(table: PartitionTable): readonly Finding[] {
  const align = alignmentSectors(table.sectorSizeBytes);
  const off = table.partitions.filter(({ startLba }) => startLba % align !== 0);
  const active = table.partitions.filter((one) => one.active === true);
  return [
    ...(off.length > 0
      ? [
          {
            code: 'start-off-mib' as const,
            path: '',
            sentence: `${numbersText(off)} ${off.length === 1 ? 'begins' : 'begin'} between two whole MiB, as older installers did: kept there, and slower on some disks.`,
            weight: 'note' as const,
          },
        ]
      : []),
    ...(active.length > 1
      ? [
          {
            code: 'two-active' as const,
            path: '/lba/0',
            sentence: `${numbersText(active)} are both marked as the one to start from; one may be. The marks are kept as they are: leave one, in the system that starts from it.`,
            weight: 'warning' as const,
          },
        ]
      : []),
  ];
}

function numbersText(partitions: PartitionTable['partitions']): string {
  const numbers = partitions.map(({ number }) => String(number));
  return numbers.length === 1
    ? `Partition ${numbers[0] ?? ''}`
    : `Partitions ${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1) ?? ''}`;
}
