import type { ProblemCode } from '../../outcome/problemCodes';
import { crc32 } from '../sectors/crc32';
import { readPadded, type SectorSource } from '../sectors/sectorSource';
import { parseGptEntries, parseGptHeader, type GptHeader } from './gptHeader';
import { inDiskOrder, type Finding, type PartitionTable, type TablePartition } from './partitionTable';

/** Where the two copies of GPT are told apart in sentences. */
export type GptCopy = 'primary' | 'backup';

type Read = {
  readonly header: GptHeader;
  /** The entries as they stand there. */
  readonly entryBytes: Uint8Array;
  readonly partitions: readonly TablePartition[];
  readonly good: boolean;
};

/** More than this is no table: 1,024 entries, or 512 KiB of them. */
const maxEntries = 1024;
const maxEntryBytes = 512 * 1024;

type HeaderFault =
  'header-checksum' | 'header-place' | 'entries-absurd' | 'entries-outside' | 'entries-checksum';

/** The table of one header, checked: checksums, its own place, numbers that a disk can have. */
export function readCopy(
  source: SectorSource,
  lba: number,
  copy: GptCopy,
): { readonly read?: Read; readonly findings: readonly Finding[] } {
  const findings: Finding[] = [];
  const found = (code: HeaderFault, sentence: string, weight: Finding['weight'] = 'warning') =>
    findings.push({ code: `gpt-${copy}-${code}`, path: `/lba/${lba}`, sentence, weight });
  const header = parseGptHeader(readPadded(source, lba, 1).bytes);
  if (!header) return { findings };
  if (!header.crcRight)
    found(
      'header-checksum',
      `The ${copy} GPT header at sector ${lba} does not have the checksum that it states.`,
    );
  if (header.myLba !== lba)
    found(
      'header-place',
      `The ${copy} GPT header is at sector ${lba} and says that it belongs at ${header.myLba}.`,
    );
  const { entryCount, entrySizeBytes, entriesLba } = header;
  const sane =
    entryCount >= 1 &&
    entryCount <= maxEntries &&
    entrySizeBytes >= 128 &&
    entrySizeBytes % 8 === 0 &&
    entryCount * entrySizeBytes <= maxEntryBytes;
  if (!sane) {
    found(
      'entries-absurd',
      `The ${copy} GPT header speaks of ${entryCount} entries of ${entrySizeBytes} bytes: no table is like that, and it is not read.`,
    );
    return { findings };
  }
  const sectors = Math.ceil((entryCount * entrySizeBytes) / source.sectorSizeBytes);
  if (entriesLba < 2 || entriesLba + sectors > source.sectorCount) {
    found(
      'entries-outside',
      `The ${copy} GPT header says that its entries stand at sector ${entriesLba}, where this disk has no room for them.`,
    );
    return { findings };
  }
  const { bytes } = readPadded(source, entriesLba, sectors);
  const entryBytes = bytes.subarray(0, entryCount * entrySizeBytes);
  const entriesRight = crc32(entryBytes) === header.entriesCrc32;
  if (!entriesRight)
    found(
      'entries-checksum',
      `The entries of the ${copy} GPT at sector ${entriesLba} do not have the checksum that its header states.`,
    );
  const partitions = parseGptEntries(entryBytes, entryCount, entrySizeBytes).map(
    ({ firstLba, lastLba, ...entry }): TablePartition => ({
      ...entry,
      kind: 'entry',
      startLba: firstLba,
      // An end before the start gives a length of zero or less: the check of the entries refuses it.
      sectorCount: lastLba - firstLba + 1,
    }),
  );
  const good = header.crcRight && header.myLba === lba && entriesRight;
  return { read: { header, entryBytes, partitions, good }, findings };
}

/** GPT as it stands on the disk: which copy was used, and all that is wrong with either. */
export type GptReading = {
  /** A header with its signature stands at sector 1 or at the last sector. */
  readonly present: boolean;
  /** At least one copy has both its checksums right. */
  readonly trusted: boolean;
  readonly table?: Pick<PartitionTable, 'diskId' | 'partitions' | 'firstUsableLba' | 'lastUsableLba' | 'gpt'>;
  readonly findings: readonly Finding[];
};

/**
 * Reads both copies of a GPT (UEFI 2.10, 5.3) and prefers the primary; the backup steps in when the primary
 * is damaged. A backup that is not in the last sector, as after a copy to a larger disk, is looked for
 * where the primary header says.
 */
export function readGpt(source: SectorSource): GptReading {
  const last = source.sectorCount - 1;
  const primary = readCopy(source, 1, 'primary');
  const saysBackupAt = primary.read?.good === true ? primary.read.header.alternateLba : last;
  const elsewhere = saysBackupAt !== last;
  const backupAt = elsewhere && saysBackupAt > 1 && saysBackupAt < last ? saysBackupAt : last;
  const backup = last > 1 ? readCopy(source, backupAt, 'backup') : { findings: [] };
  const findings: Finding[] = [...primary.findings, ...backup.findings];
  const add = (code: ProblemCode, path: string, sentence: string, weight: Finding['weight'] = 'warning') =>
    findings.push({ code, path, sentence, weight });

  if (elsewhere)
    add(
      'gpt-backup-elsewhere',
      `/lba/${last}`,
      saysBackupAt < last
        ? `The backup GPT is at sector ${saysBackupAt} and the disk goes on to ${last}: it was probably copied from a smaller disk. Have the table written anew before the room behind is used.`
        : `The GPT speaks of a backup at sector ${saysBackupAt} and this disk ends at ${last}: it was copied from a larger disk, or the image is cut short.`,
    );
  const present = primary.read !== undefined || backup.read !== undefined || findings.length > 0;
  if (!present) return { present, trusted: false, findings: [] };
  if (!primary.read?.good && backup.read?.good)
    add(
      'gpt-primary-bad',
      '/lba/1',
      'The primary GPT is missing or damaged; the backup at the end of the disk is whole and was read instead.',
    );
  if (primary.read?.good && !backup.read?.good)
    add(
      'gpt-backup-bad',
      `/lba/${backupAt}`,
      'The backup GPT is missing or damaged; the primary is whole. Nothing would save the table if it were lost, too.',
    );
  if (
    primary.read?.good &&
    backup.read?.good &&
    primary.read.header.entriesCrc32 !== backup.read.header.entriesCrc32
  )
    add(
      'gpt-copies-differ',
      `/lba/${backupAt}`,
      'Both copies of the GPT are whole and say different things: which one is true cannot be told, so nothing is planned. The primary was read; have the right one written over the other, and read the disk again.',
      'damage',
    );
  const used = primary.read?.good
    ? primary.read
    : backup.read?.good
      ? backup.read
      : (primary.read ?? backup.read);
  if (used && (used.header.entryCount !== 128 || used.header.entrySizeBytes !== 128))
    add(
      'gpt-entry-count',
      '/lba/1',
      `The GPT has ${used.header.entryCount} entries of ${used.header.entrySizeBytes} bytes, where 128 of 128 are usual: kept as they are.`,
      'note',
    );
  const trusted = used?.good === true;
  if (!trusted)
    add(
      'gpt-both-bad',
      '/lba/1',
      'Neither copy of the GPT can be trusted: nothing is planned on it. Copy the data off, or have the table restored by someone who does that for a living.',
      'damage',
    );
  return {
    present,
    trusted,
    findings,
    ...(used
      ? {
          table: {
            diskId: used.header.diskGuid,
            partitions: inDiskOrder(used.partitions),
            // What a header says of its usable sectors never reaches into the table's own, or off the disk.
            firstUsableLba: Math.max(used.header.firstUsableLba, 2),
            lastUsableLba: Math.min(used.header.lastUsableLba, last - 1),
            gpt: {
              entryCount: used.header.entryCount,
              entrySizeBytes: used.header.entrySizeBytes,
              entriesLba: used === primary.read ? used.header.entriesLba : 2,
              backupLba: backupAt,
              hybrid: false,
            },
          },
        }
      : {}),
  };
}
