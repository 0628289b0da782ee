import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { crc32 } from '../sectors/crc32';
import { readPadded, type SectorSource } from '../sectors/sectorSource';
import { applyWrites, inSectors, type SectorWrite } from '../sectors/sectorWrite';
import { encodeGptHeader } from './gptHeader';
import { parseMbrSector, protectiveMbr } from './mbrSector';
import type { PartitionTable } from './partitionTable';
import { protectiveByte } from './partitionTypes';
import { readCopy, type GptCopy } from './readGpt';
import { readPartitionTable } from './readPartitionTable';

/** A copy of a GPT written anew from the other one. */
export type TableFix = {
  /** The copy that counts. */
  readonly from: GptCopy;
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  /** A sector each, in the order in which they are written; the copy that counts stays whole throughout. */
  readonly writes: readonly SectorWrite[];
  readonly sentence: string;
};

/**
 * Writes the missing or damaged copy of a GPT anew, from the one that was chosen: the way on where both are whole
 * and say different things, too. A backup that stands elsewhere comes to the last sector.
 * @returns refused when the chosen copy is not whole, or nothing is to be fixed
 */
export function planTableFix(source: SectorSource, from: GptCopy): Outcome<TableFix> {
  const before = readPartitionTable(source);
  if (!before.ok) return before;
  const last = source.sectorCount - 1;
  const chosen = readCopy(source, placeOf(source, from), from).read;
  if (!chosen?.good)
    return fail(
      'copy-not-whole',
      '/lba/1',
      `The ${from} GPT is not whole, so nothing is written from it: take the other copy, or have the table restored by someone who does that for a living.`,
    );
  const { header, entryBytes } = chosen;
  const { entryCount, entrySizeBytes, diskGuid } = header;
  const entrySectors = Math.ceil(entryBytes.length / source.sectorSizeBytes);
  const entries = new Uint8Array(entrySectors * source.sectorSizeBytes);
  entries.set(entryBytes);
  const headerAt = (myLba: number, alternateLba: number, entriesLba: number) =>
    encodeGptHeader(
      {
        myLba,
        alternateLba,
        firstUsableLba: header.firstUsableLba,
        lastUsableLba: last - entrySectors - 1,
        diskGuid,
        entriesLba,
        entryCount,
        entrySizeBytes,
        entriesCrc32: crc32(entryBytes),
      },
      source.sectorSizeBytes,
    );
  const primaryEntries = from === 'primary' ? header.entriesLba : 2;
  const backup: readonly SectorWrite[] = [
    { startLba: last - entrySectors, bytes: entries, about: 'backup GPT entries' },
    { startLba: last, bytes: headerAt(last, 1, last - entrySectors), about: 'backup GPT header' },
  ];
  const primary: readonly SectorWrite[] = [
    { startLba: primaryEntries, bytes: entries, about: 'primary GPT entries' },
    { startLba: 1, bytes: headerAt(1, last, primaryEntries), about: 'primary GPT header' },
  ];
  const protective: readonly SectorWrite[] = hasProtective(source)
    ? []
    : [
        {
          startLba: 0,
          bytes: protectiveMbr(readPadded(source, 0, 1).bytes, source.sectorCount),
          about: 'protective MBR',
        },
      ];
  // The other copy first: until it is whole the chosen one is not touched.
  const all = [...(from === 'primary' ? [...backup, ...primary] : [...primary, ...backup]), ...protective];
  const writes = inSectors(all, source.sectorSizeBytes).filter(
    ({ startLba, bytes }) => !sameBytes(readPadded(source, startLba, 1).bytes, bytes),
  );
  if (writes.length === 0)
    return fail(
      'nothing-to-fix',
      '',
      'Both copies of the GPT are whole and say the same: nothing is to be fixed.',
    );
  const hit = before.value.partitions.find((partition) =>
    writes.some(
      ({ startLba }) =>
        startLba >= partition.startLba && startLba < partition.startLba + partition.sectorCount,
    ),
  );
  if (hit)
    return fail(
      'would-touch-contents',
      `/partitions/${hit.number}`,
      `Writing the copy anew would touch partition ${hit.number}: it is not done. Make that partition smaller inside its own system first.`,
    );
  const written = applyWrites(source, writes);
  if (!written.ok) return written;
  const after = readPartitionTable(written.value);
  if (!after.ok) return after;
  const damage = after.value.findings.find(({ weight }) => weight === 'damage');
  if (damage) return fail('still-damaged', damage.path, `The plan is not made: ${damage.sentence}`);
  return succeed({
    from,
    before: before.value,
    after: after.value,
    writes,
    sentence: `The ${from === 'primary' ? 'backup' : 'primary'} GPT is written anew from the ${from}: ${writes.length} ${writes.length === 1 ? 'sector' : 'sectors'}, no partition touched.`,
  });
}

/** A backup is in the last sector, or where a whole primary says. */
function placeOf(source: SectorSource, copy: GptCopy): number {
  if (copy === 'primary') return 1;
  const last = source.sectorCount - 1;
  if (readCopy(source, last, 'backup').read) return last;
  const primary = readCopy(source, 1, 'primary').read;
  return primary?.header.crcRight === true && primary.header.alternateLba < last
    ? primary.header.alternateLba
    : last;
}

function hasProtective(source: SectorSource): boolean {
  const { signed, entries } = parseMbrSector(readPadded(source, 0, 1).bytes);
  return signed && entries.some(({ type }) => type === protectiveByte);
}

function sameBytes(one: Uint8Array, other: Uint8Array): boolean {
  return one.length === other.length && one.every((byte, index) => byte === other[index]);
}
