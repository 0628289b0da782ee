import { readLatin, readU64, readUtf16 } from '../sectors/numbers';
import { contentOf, type RecognisedContent } from './content';
import type { Reach } from './reach';

/** Record 3 of the file table describes the volume. */
const volumeRecord = 3;
const nameAttribute = 0x60;

/** NTFS: name at 3, sectors at 40; its label is an attribute of a record of the file table. */
export function recogniseNtfs({ head, at }: Reach): RecognisedContent | undefined {
  if (readLatin(head, 3, 8) !== 'NTFS') return undefined;
  const sectorBytes = head.getUint16(11, true);
  if (![512, 1024, 2048, 4096].includes(sectorBytes)) return undefined;
  const clusterBytes = sectorBytes * head.getUint8(13);
  const perRecord = head.getInt8(64);
  const recordBytes = perRecord > 0 ? perRecord * clusterBytes : 2 ** -perRecord;
  // The boot record stands once more behind the last sector that it counts.
  const spansBytes = (readU64(head, 40) + 1) * sectorBytes;
  const record =
    recordBytes >= 512 && recordBytes <= 4096
      ? at(readU64(head, 48) * clusterBytes + volumeRecord * recordBytes, recordBytes)
      : undefined;
  return contentOf('ntfs', record && volumeName(record), spansBytes);
}

/** Walks the attributes of a record, each with type, length and, when small, its value inside. */
function volumeName(record: DataView): string | undefined {
  if (readLatin(record, 0, 4) !== 'FILE') return undefined;
  let at = record.getUint16(20, true);
  while (at + 24 <= record.byteLength) {
    const type = record.getUint32(at, true);
    const length = record.getUint32(at + 4, true);
    if (type === 0xffffffff || length < 24) return undefined;
    if (type === nameAttribute) {
      const valueBytes = record.getUint32(at + 16, true);
      const value = at + record.getUint16(at + 20, true);
      return valueBytes <= 256 && value + valueBytes <= record.byteLength
        ? readUtf16(record, value, Math.floor(valueBytes / 2))
        : undefined;
    }
    at += length;
  }
  return undefined;
}
