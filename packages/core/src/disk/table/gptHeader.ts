import { crc32 } from '../sectors/crc32';
import { readLatin, readU64, readUtf16, viewOf, writeU64 } from '../sectors/numbers';
import { guidBytes, nilGuid, printGuid } from './guid';
import type { TablePartition } from './partitionTable';

/** The fields of a GPT header (UEFI 2.10, table 5.5). */
export type GptHeader = {
  readonly revision: number;
  readonly headerSizeBytes: number;
  readonly headerCrc32: number;
  readonly crcRight: boolean;
  readonly myLba: number;
  readonly alternateLba: number;
  readonly firstUsableLba: number;
  readonly lastUsableLba: number;
  readonly diskGuid: string;
  readonly entriesLba: number;
  readonly entryCount: number;
  readonly entrySizeBytes: number;
  readonly entriesCrc32: number;
};

const signature = 'EFI PART';
const revision1 = 0x00010000;
const headerBytes = 92;

/** Reads a header; undefined when its signature is not there. */
export function parseGptHeader(sector: Uint8Array): GptHeader | undefined {
  const view = viewOf(sector);
  if (readLatin(view, 0, 8) !== signature) return undefined;
  const headerSizeBytes = view.getUint32(12, true);
  const headerCrc32 = view.getUint32(16, true);
  return {
    revision: view.getUint32(8, true),
    headerSizeBytes,
    headerCrc32,
    crcRight:
      headerSizeBytes >= headerBytes &&
      headerSizeBytes <= sector.length &&
      headerCrcOf(sector, headerSizeBytes) === headerCrc32,
    myLba: readU64(view, 24),
    alternateLba: readU64(view, 32),
    firstUsableLba: readU64(view, 40),
    lastUsableLba: readU64(view, 48),
    diskGuid: printGuid(view, 56),
    entriesLba: readU64(view, 72),
    entryCount: view.getUint32(80, true),
    entrySizeBytes: view.getUint32(84, true),
    entriesCrc32: view.getUint32(88, true),
  };
}

/** The header's checksum is calculated with its own field zero. */
function headerCrcOf(sector: Uint8Array, headerSizeBytes: number): number {
  const bytes = sector.slice(0, headerSizeBytes);
  bytes.fill(0, 16, 20);
  return crc32(bytes);
}

/** Writes a header into a sector of its own, its checksum included. */
export function encodeGptHeader(
  header: Pick<
    GptHeader,
    | 'myLba'
    | 'alternateLba'
    | 'firstUsableLba'
    | 'lastUsableLba'
    | 'diskGuid'
    | 'entriesLba'
    | 'entryCount'
    | 'entrySizeBytes'
    | 'entriesCrc32'
  >,
  sectorSizeBytes: number,
): Uint8Array {
  const sector = new Uint8Array(sectorSizeBytes);
  const view = viewOf(sector);
  for (let index = 0; index < signature.length; index += 1) view.setUint8(index, signature.charCodeAt(index));
  view.setUint32(8, revision1, true);
  view.setUint32(12, headerBytes, true);
  writeU64(view, 24, header.myLba);
  writeU64(view, 32, header.alternateLba);
  writeU64(view, 40, header.firstUsableLba);
  writeU64(view, 48, header.lastUsableLba);
  sector.set(guidBytes(header.diskGuid), 56);
  writeU64(view, 72, header.entriesLba);
  view.setUint32(80, header.entryCount, true);
  view.setUint32(84, header.entrySizeBytes, true);
  view.setUint32(88, header.entriesCrc32, true);
  view.setUint32(16, headerCrcOf(sector, headerBytes), true);
  return sector;
}

type GptEntry = Pick<TablePartition, 'number' | 'typeCode' | 'guid' | 'name' | 'attributes'> & {
  readonly firstLba: number;
  readonly lastLba: number;
};

/** Reads the used entries (UEFI 2.10, table 5.6): type, own GUID, first and last sector, attributes, name. */
export function parseGptEntries(
  bytes: Uint8Array,
  entryCount: number,
  entrySizeBytes: number,
): readonly GptEntry[] {
  const view = viewOf(bytes);
  const entries: GptEntry[] = [];
  for (let index = 0; index < entryCount; index += 1) {
    const at = index * entrySizeBytes;
    if (view.getBigUint64(at) === 0n && view.getBigUint64(at + 8) === 0n) continue;
    const typeCode = printGuid(view, at);
    const name = readUtf16(view, at + 56, 36);
    const attributes = view
      .getBigUint64(at + 48, true)
      .toString(16)
      .padStart(16, '0');
    entries.push({
      number: index + 1,
      typeCode,
      guid: printGuid(view, at + 16),
      firstLba: readU64(view, at + 32),
      lastLba: readU64(view, at + 40),
      ...(attributes === '0'.repeat(16) ? {} : { attributes }),
      ...(name === '' ? {} : { name }),
    });
  }
  return entries;
}

/** Writes entries at their numbers' places; names are cut at 36 UTF-16 units. */
export function encodeGptEntries(
  partitions: readonly TablePartition[],
  entryCount: number,
  entrySizeBytes: number,
): Uint8Array {
  const bytes = new Uint8Array(entryCount * entrySizeBytes);
  const view = viewOf(bytes);
  for (const partition of partitions) {
    const at = (partition.number - 1) * entrySizeBytes;
    bytes.set(guidBytes(partition.typeCode), at);
    bytes.set(guidBytes(partition.guid ?? nilGuid), at + 16);
    writeU64(view, at + 32, partition.startLba);
    writeU64(view, at + 40, partition.startLba + partition.sectorCount - 1);
    view.setBigUint64(at + 48, BigInt(`0x${partition.attributes ?? '0'}`), true);
    const name = (partition.name ?? '').slice(0, 36);
    for (let index = 0; index < name.length; index += 1)
      view.setUint16(at + 56 + index * 2, name.charCodeAt(index), true);
  }
  return bytes;
}
