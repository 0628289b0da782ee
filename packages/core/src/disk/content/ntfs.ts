import { readLatin, readU64, readUtf16 } from '../sectors/numbers';
import { contentOf, type LeftState, type RecognisedContent } from './content';
import { attributesOf, fileTable, type Attribute, type FileTable } from './ntfsRecords';
import type { Reach } from './reach';

/** Record 3 of the file table describes the volume, record 5 is its root folder. */
const volumeRecord = 3;
const rootRecord = 5;
const nameType = 0x60;
const informationType = 0x70;
const dataType = 0x80;
const indexRootType = 0x90;
const indexType = 0xa0;
const dirty = 0x1;

/** NTFS: name at 3, sectors at 40; label and state are attributes of a record of the file table. */
export function recogniseNtfs(reach: Reach): RecognisedContent | undefined {
  const { head } = reach;
  if (readLatin(head, 3, 8) !== 'NTFS') return undefined;
  const sectorBytes = head.getUint16(11, true);
  if (![512, 1024, 2048, 4096].includes(sectorBytes)) return undefined;
  const table = fileTable(reach, sectorBytes);
  const volume = attributesOf(table?.record(volumeRecord));
  // The boot record stands once more behind the last sector that it counts.
  const spansBytes = (readU64(head, 40) + 1) * sectorBytes;
  return contentOf('ntfs', volumeName(volume), spansBytes, undefined, table && leftState(table, volume));
}

function volumeName(attributes: readonly Attribute[]): string | undefined {
  const value = attributes.find(({ type }) => type === nameType)?.value;
  return value && value.byteLength <= 256 ? readUtf16(value, 0, Math.floor(value.byteLength / 2)) : undefined;
}

/** Asleep when the file that a system sleeps in begins with its sign; unclean when the volume’s own bit says so. */
function leftState(table: FileTable, volume: readonly Attribute[]): LeftState | undefined {
  const asleep = fileInRoot(table, 'hiberfil.sys');
  const content = attributesOf(asleep === undefined ? undefined : table.record(asleep)).find(
    ({ type }) => type === dataType,
  );
  const start = content?.value ?? (content && table.bytesOf(content, 0, 4));
  if (start && start.byteLength >= 4 && readLatin(start, 0, 4).toLowerCase() === 'hibr') return 'hibernated';
  const information = volume.find(({ type }) => type === informationType)?.value;
  return information && information.byteLength >= 12 && (information.getUint16(10, true) & dirty) !== 0
    ? 'unclean'
    : undefined;
}

/** No more blocks of the root folder are looked through. */
const maxBlocks = 32;

/** The record of a file in the root folder, by its name; capitals do not count. */
function fileInRoot(table: FileTable, name: string): number | undefined {
  const root = attributesOf(table.record(rootRecord));
  const inside = root.find(({ type }) => type === indexRootType)?.value;
  if (!inside || inside.byteLength < 32) return undefined;
  const found = entryIn(inside, 16, name);
  if (found !== undefined) return found;
  const index = root.find(({ type }) => type === indexType);
  const blockBytes = inside.getUint32(8, true);
  if (!index || blockBytes < 512 || blockBytes > 65536) return undefined;
  for (let block = 0; block < maxBlocks; block += 1) {
    const bytes = table.bytesOf(index, block * blockBytes, blockBytes);
    if (!bytes) return undefined;
    if (readLatin(bytes, 0, 4) !== 'INDX' || !table.restore(bytes)) continue;
    const entry = entryIn(bytes, 24, name);
    if (entry !== undefined) return entry;
  }
  return undefined;
}

/** Looks through the entries behind an index header: record number, length, name. */
function entryIn(block: DataView, headerAt: number, name: string): number | undefined {
  let at = headerAt + block.getUint32(headerAt, true);
  while (at + 16 <= block.byteLength) {
    const length = block.getUint16(at + 8, true);
    const last = (block.getUint16(at + 12, true) & 2) !== 0;
    if (length < 16 || last) return undefined;
    const units = at + 82 <= block.byteLength ? block.getUint8(at + 80) : 0;
    if (units === name.length && at + 82 + units * 2 <= block.byteLength)
      if (readUtf16(block, at + 82, units).toLowerCase() === name)
        return block.getUint32(at, true) + block.getUint16(at + 4, true) * 2 ** 32;
    at += length;
  }
  return undefined;
}
