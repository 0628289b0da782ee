import { readLatin, readU64 } from '../sectors/numbers';
import type { Reach } from './reach';

/** An attribute of a record: its value where it stands inside, else the runs of clusters that hold it. */
export type Attribute = {
  readonly type: number;
  readonly value?: DataView;
  readonly runs?: readonly Run[];
};

/** `cluster` is absent where nothing is stored and zeros are meant. */
type Run = { readonly cluster: number | undefined; readonly clusters: number };

export type FileTable = {
  /** A record by its number, its sectors’ ends restored; undefined where it is none. */
  readonly record: (number: number) => DataView | undefined;
  /** Bytes of an attribute’s content that stands in clusters. */
  readonly bytesOf: (attribute: Attribute, offsetBytes: number, lengthBytes: number) => DataView | undefined;
  /** Puts back what each sector’s last two bytes stood for; false when the block is torn. */
  readonly restore: (block: DataView) => boolean;
};

const dataType = 0x80;
const maxRuns = 256;

/** The file table of an NTFS volume: record length at 64 of the boot record, its first cluster at 48. */
export function fileTable({ head, at }: Reach, sectorBytes: number): FileTable | undefined {
  const clusterBytes = sectorBytes * clusterSectors(head.getUint8(13));
  const perRecord = head.getInt8(64);
  const recordBytes = perRecord > 0 ? perRecord * clusterBytes : 2 ** -perRecord;
  if (recordBytes < 512 || recordBytes > 4096 || clusterBytes < 512) return undefined;
  const restore = (block: DataView) => restoreEnds(block, sectorBytes);
  const recordAt = (offset: number | undefined) => {
    const record = offset === undefined ? undefined : at(offset, recordBytes);
    if (!record || readLatin(record, 0, 4) !== 'FILE') return undefined;
    const copy = new DataView(record.buffer.slice(record.byteOffset, record.byteOffset + record.byteLength));
    return restore(copy) ? copy : undefined;
  };
  const start = readU64(head, 48) * clusterBytes;
  const own = attributesOf(recordAt(start)).find(({ type }) => type === dataType);
  const bytesOf = ({ runs = [] }: Attribute, offset: number, length: number) => {
    const from = placeIn(runs, clusterBytes, offset, length);
    return from === undefined ? undefined : at(from, length);
  };
  return {
    // The first records stand where the boot record says, even when its runs cannot be read.
    record: (number) =>
      recordAt(
        own?.runs
          ? placeIn(own.runs, clusterBytes, number * recordBytes, recordBytes)
          : start + number * recordBytes,
      ),
    bytesOf: (attribute, offset, length) => {
      const bytes = bytesOf(attribute, offset, length);
      return bytes && new DataView(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
    },
    restore,
  };
}

/** Above 128 the byte is a power of two, negative. */
function clusterSectors(byte: number): number {
  return byte <= 128 ? byte : 2 ** (256 - byte);
}

/** Where bytes of a content stand in the volume, when they stand in one run. */
function placeIn(
  runs: readonly Run[],
  clusterBytes: number,
  offset: number,
  length: number,
): number | undefined {
  let before = 0;
  for (const { cluster, clusters } of runs) {
    const bytes = clusters * clusterBytes;
    if (offset < before + bytes)
      return cluster === undefined || offset + length > before + bytes
        ? undefined
        : cluster * clusterBytes + offset - before;
    before += bytes;
  }
  return undefined;
}

/** The last two bytes of each sector carry a number; what stood there is kept in the block’s head. */
function restoreEnds(block: DataView, sectorBytes: number): boolean {
  const stride = Math.min(512, sectorBytes);
  const from = block.getUint16(4, true);
  const count = block.getUint16(6, true);
  if (count < 1 || (count - 1) * stride > block.byteLength || from + count * 2 > block.byteLength)
    return false;
  const sign = block.getUint16(from, true);
  for (let index = 1; index < count; index += 1) {
    const end = index * stride - 2;
    if (block.getUint16(end, true) !== sign) return false;
    block.setUint16(end, block.getUint16(from + index * 2, true), true);
  }
  return true;
}

/** Walks the attributes of a record; those without a name only, since those with one are something else’s. */
export function attributesOf(record: DataView | undefined): readonly Attribute[] {
  if (!record) return [];
  const attributes: Attribute[] = [];
  let at = record.getUint16(20, true);
  while (at + 24 <= record.byteLength) {
    const type = record.getUint32(at, true);
    const length = record.getUint32(at + 4, true);
    if (type === 0xffffffff || length < 24 || at + length > record.byteLength) break;
    if (record.getUint8(at + 8) === 0) {
      const valueBytes = record.getUint32(at + 16, true);
      const value = at + record.getUint16(at + 20, true);
      if (value + valueBytes <= at + length)
        attributes.push({ type, value: new DataView(record.buffer, record.byteOffset + value, valueBytes) });
    } else if (length >= 64)
      attributes.push({ type, runs: runsOf(record, at + record.getUint16(at + 32, true), at + length) });
    at += length;
  }
  return attributes;
}

/** A run is a byte with two lengths, then its clusters, then its distance from the run before. */
function runsOf(record: DataView, from: number, end: number): readonly Run[] {
  const runs: Run[] = [];
  let at = from;
  let cluster = 0;
  while (at < end && runs.length < maxRuns) {
    const header = record.getUint8(at);
    const lengthBytes = header & 0xf;
    const distanceBytes = header >> 4;
    if (header === 0 || lengthBytes === 0 || lengthBytes > 6 || distanceBytes > 6) break;
    if (at + 1 + lengthBytes + distanceBytes > end) break;
    const clusters = numberAt(record, at + 1, lengthBytes, false);
    cluster += numberAt(record, at + 1 + lengthBytes, distanceBytes, true);
    runs.push({ cluster: distanceBytes === 0 ? undefined : cluster, clusters });
    at += 1 + lengthBytes + distanceBytes;
  }
  return runs;
}

function numberAt(view: DataView, at: number, bytes: number, signed: boolean): number {
  let value = 0;
  for (let index = 0; index < bytes; index += 1) value += view.getUint8(at + index) * 2 ** (8 * index);
  return signed && bytes > 0 && value >= 2 ** (8 * bytes - 1) ? value - 2 ** (8 * bytes) : value;
}
