import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { crc32 } from '../sectors/crc32';
import { readPadded, type SectorSource } from '../sectors/sectorSource';
import type { SectorWrite } from '../sectors/sectorWrite';
import { encodeGptEntries, encodeGptHeader } from './gptHeader';
import { nilGuid } from './guid';
import { encodeMbrSector, protectiveMbr, type MbrEntry } from './mbrSector';
import {
  calledBy,
  endLba,
  gptBounds,
  inDiskOrder,
  mbrLimitLba,
  type PartitionTable,
  type TablePartition,
} from './partitionTable';
import { typeByte } from './partitionTypes';

/**
 * The sectors that say what the table says, in the order in which they are safely written (decision
 * 0021), over what stands on the disk now: for GPT the protective MBR and both
 * copies of its entries; for MBR the first sector and an EBR for each logical partition.
 * Refused when the table cannot be written in its scheme; contents are never among the writes.
 */
export function encodeTable(table: PartitionTable, source: SectorSource): Outcome<readonly SectorWrite[]> {
  return table.scheme === 'gpt' ? encodeGpt(table, source) : encodeMbr(table, source);
}

const entrySizeBytes = 128;

function encodeGpt(table: PartitionTable, source: SectorSource): Outcome<readonly SectorWrite[]> {
  const { sectorSizeBytes, sectorCount } = source;
  // A table of another length than the usual 128 entries keeps it, and its own usable sectors.
  const entryCount = table.gpt?.entryCount ?? 128;
  const entriesLba = table.gpt?.entriesLba ?? 2;
  const entrySectors = Math.ceil((entryCount * entrySizeBytes) / sectorSizeBytes);
  const standard = gptBounds(sectorSizeBytes, sectorCount);
  const bounds =
    entryCount === 128 && entriesLba === 2
      ? standard
      : {
          firstUsableLba: Math.max(table.firstUsableLba, entriesLba + entrySectors),
          lastUsableLba: Math.min(table.lastUsableLba, sectorCount - entrySectors - 2),
        };
  const outside = table.partitions.find(
    (partition) =>
      partition.startLba < bounds.firstUsableLba ||
      endLba(partition) - 1 > bounds.lastUsableLba ||
      partition.number > entryCount,
  );
  if (outside || bounds.lastUsableLba < bounds.firstUsableLba)
    return fail(
      'gpt-no-room',
      outside ? `/partitions/${outside.number}` : '',
      `GPT keeps sectors 0 to ${bounds.firstUsableLba - 1} and ${bounds.lastUsableLba + 1} to ${sectorCount - 1} for itself${outside ? `, and ${calledBy(outside)} reaches into them` : ''}.`,
    );
  const entries = encodeGptEntries(table.partitions, entryCount, entrySizeBytes);
  const inSectors = new Uint8Array(entrySectors * sectorSizeBytes);
  inSectors.set(entries);
  const last = sectorCount - 1;
  const header = (myLba: number, alternateLba: number, entriesLba: number) =>
    encodeGptHeader(
      {
        myLba,
        alternateLba,
        ...bounds,
        diskGuid: table.diskId ?? nilGuid,
        entriesLba,
        entryCount,
        entrySizeBytes,
        entriesCrc32: crc32(entries),
      },
      sectorSizeBytes,
    );
  // Until the first sector is protective a reader takes the old table: so that one comes last.
  return succeed([
    { startLba: last - entrySectors, bytes: inSectors, about: 'backup GPT entries' },
    { startLba: last, bytes: header(last, 1, last - entrySectors), about: 'backup GPT header' },
    { startLba: entriesLba, bytes: inSectors, about: 'primary GPT entries' },
    { startLba: 1, bytes: header(1, last, entriesLba), about: 'primary GPT header' },
    {
      startLba: 0,
      bytes: protectiveMbr(readPadded(source, 0, 1).bytes, sectorCount),
      about: 'protective MBR',
    },
  ]);
}

const extendedByte = 0x0f;

function encodeMbr(table: PartitionTable, source: SectorSource): Outcome<readonly SectorWrite[]> {
  const far = table.partitions.find((partition) => endLba(partition) > mbrLimitLba);
  if (far)
    return fail(
      'beyond-2-tib',
      `/partitions/${far.number}`,
      `${calledBy(far)} ends behind sector ${mbrLimitLba - 1}, the last that MBR can name.`,
    );
  const primaries = table.partitions.filter(({ kind }) => kind === 'primary');
  const logicals = inDiskOrder(table.partitions.filter(({ kind }) => kind === 'logical'));
  const { extended } = table;
  const entries = new Array<MbrEntry | undefined>(4).fill(undefined);
  for (const partition of primaries) entries[partition.number - 1] = entryOf(partition, partition.startLba);
  if (extended)
    entries[extended.entry - 1] = {
      status: 0,
      type: extendedByte,
      startLba: extended.startLba,
      sectorCount: extended.sectorCount,
    };
  const signature = Number.parseInt(table.diskId ?? '0', 16);
  const writes: SectorWrite[] = [];
  // The chain of EBRs is seen by nobody until the first sector names it: so that one comes last.
  const first: SectorWrite = {
    startLba: 0,
    bytes: encodeMbrSector(readPadded(source, 0, 1).bytes, signature, entries),
    about: 'MBR with its four entries',
  };
  if (!extended) return succeed([first]);
  const blank = new Uint8Array(source.sectorSizeBytes);
  // The chain begins at the extended partition's first sector, whichever logical partition comes first.
  const chain = logicals.map((partition, index) => ({
    partition,
    ebrLba:
      index === 0
        ? extended.startLba
        : partition.ebrLba === undefined || partition.ebrLba === extended.startLba
          ? partition.startLba - 1
          : partition.ebrLba,
  }));
  chain.forEach(({ partition, ebrLba }, index) => {
    const next = chain[index + 1];
    const own = entryOf(partition, partition.startLba - ebrLba);
    const link: MbrEntry | undefined = next && {
      status: 0,
      type: 0x05,
      startLba: next.ebrLba - extended.startLba,
      sectorCount: endLba(next.partition) - next.ebrLba,
    };
    writes.push({
      startLba: ebrLba,
      bytes: encodeMbrSector(blank, undefined, [own, link], (entry) =>
        entry === own ? partition.startLba : entry.startLba + extended.startLba,
      ),
      about: `EBR of partition ${partition.number}`,
    });
  });
  if (chain.length === 0)
    writes.push({
      startLba: extended.startLba,
      bytes: encodeMbrSector(blank, undefined, []),
      about: 'EBR of the empty extended partition',
    });
  return succeed([...writes, first]);
}

function entryOf(partition: TablePartition, startLba: number): MbrEntry {
  return {
    status: partition.active === true ? 0x80 : 0,
    type: typeByte(partition.typeCode) ?? 0x83,
    startLba,
    sectorCount: partition.sectorCount,
  };
}
