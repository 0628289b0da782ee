import { fileTroubles, type FileEntry, type FileTrouble } from './entry';

const digestBytes = 32;
const digestKnown = 0x80;
const troubleMask = 0x7f;

/**
 * A file list in columns: a million rows take about 150 MB instead of the 700 MB that a million objects do.
 * Rows keep the order in which they were added.
 */
export type PackedList = {
  readonly count: number;
  /** UTF-8 of every path, one after the other; row i lies from `pathStarts[i]` to `pathStarts[i + 1]`. */
  readonly pathBytes: Uint8Array;
  readonly pathStarts: Uint32Array;
  /** Bytes; NaN where not known. */
  readonly sizes: Float64Array;
  /** Milliseconds since 1970; NaN where not known. */
  readonly times: Float64Array;
  /** 32 bytes a row; zero where not known. */
  readonly digests: Uint8Array;
  /** The same memory, eight words a row: checksums are compared by the word. */
  readonly digestWords: Uint32Array;
  /** Bit 7: the digest is known. Low bits: place in `fileTroubles` plus one. */
  readonly marks: Uint8Array;
  /** FNV-1a of every path's bytes, for tables of rows. */
  readonly hashes: Uint32Array;
};

const space = 0x20;
const slash = 0x2f;
const colon = 0x3a;

/** Value of a hexadecimal digit; 256 and more for any other byte, also when shifted. */
export const hexValue = new Uint16Array(256).fill(256);
for (let digit = 0; digit < 16; digit += 1) {
  hexValue[digit.toString(16).charCodeAt(0)] = digit;
  hexValue[digit.toString(16).toUpperCase().charCodeAt(0)] = digit;
}

const lookAt = 1;
const odd = 2;
const ends = 3;

/** What a byte of a path asks for: nothing, a look (slash and dot, after a slash), the slow way, the end. */
const plainBytes = new Uint8Array(256).fill(odd, 0x80);
plainBytes[0] = odd;
plainBytes[0x5c] = odd;
plainBytes[0x0d] = odd;
plainBytes[slash] = lookAt;
plainBytes[0x2e] = lookAt;
plainBytes[0x0a] = ends;

/** Longer paths are read the slow way. */
const longestPlainPath = 4096;

const encoder = new TextEncoder();
/** U+FEFF at the beginning of a name is a letter of it. */
const decoder = new TextDecoder('utf-8', { ignoreBOM: true });

/** FNV-1a, 32 bits; the caller folds byte by byte. */
const hashStart = 0x811c9dc5;
const hashPrime = 0x01000193;

function grown<T extends Uint8Array | Uint32Array | Float64Array>(
  from: T,
  make: (length: number) => T,
  length: number,
): T {
  const to = make(length);
  to.set(from);
  return to;
}

/** Collects rows and gives them packed. */
export class ListBuilder {
  private count = 0;
  private pathEnd = 0;
  private capacity: number;
  private pathBytes: Uint8Array;
  private pathStarts: Uint32Array;
  private sizes: Float64Array;
  private times: Float64Array;
  private digests: Uint8Array;
  private marks: Uint8Array;
  private hashes: Uint32Array;

  /** @param expected how many rows are likely; more is no harm */
  constructor(expected = 1024) {
    this.capacity = expected;
    this.pathBytes = new Uint8Array(expected * 64);
    this.pathStarts = new Uint32Array(expected + 1);
    this.sizes = new Float64Array(expected);
    this.times = new Float64Array(expected);
    this.digests = new Uint8Array(expected * digestBytes);
    this.marks = new Uint8Array(expected);
    this.hashes = new Uint32Array(expected);
  }

  get length(): number {
    return this.count;
  }

  /** Makes room at once for as many rows as are likely, with the paths as long as those so far. */
  reserve(rows: number): void {
    if (rows > this.capacity) this.growRows(rows);
    const pathBytes = Math.ceil((this.pathEnd / Math.max(1, this.count)) * rows * 1.05);
    if (pathBytes > this.pathBytes.length)
      this.pathBytes = grown(this.pathBytes, (length) => new Uint8Array(length), pathBytes);
  }

  private growRows(rows: number): void {
    this.capacity = rows;
    this.pathStarts = grown(this.pathStarts, (length) => new Uint32Array(length), rows + 1);
    this.sizes = grown(this.sizes, (length) => new Float64Array(length), rows);
    this.times = grown(this.times, (length) => new Float64Array(length), rows);
    this.digests = grown(this.digests, (length) => new Uint8Array(length), rows * digestBytes);
    this.marks = grown(this.marks, (length) => new Uint8Array(length), rows);
    this.hashes = grown(this.hashes, (length) => new Uint32Array(length), rows);
  }

  /** Room for one row more; gives where its path begins. */
  private room(pathLength: number): void {
    if (this.count === this.capacity) this.growRows(this.capacity * 2);
    if (this.pathEnd + pathLength > this.pathBytes.length)
      this.pathBytes = grown(
        this.pathBytes,
        (length) => new Uint8Array(length),
        Math.max(this.pathBytes.length * 2, this.pathEnd + pathLength),
      );
  }

  /** Adds a row whose path lies in `path` from `start` to `end`; `digest` has 32 bytes or is null. */
  addBytes(
    path: Uint8Array,
    start: number,
    end: number,
    digest: Uint8Array | null,
    sizeBytes: number,
    modifiedMs: number,
    mark: number,
  ): void {
    this.room(end - start);
    const { pathBytes, count } = this;
    let at = this.pathEnd;
    let hash = hashStart;
    for (let index = start; index < end; index += 1) {
      const byte = path[index] ?? 0;
      pathBytes[at] = byte;
      at += 1;
      hash = Math.imul(hash ^ byte, hashPrime);
    }
    this.pathEnd = at;
    if (digest) {
      const place = count * digestBytes;
      for (let index = 0; index < digestBytes; index += 1) this.digests[place + index] = digest[index] ?? 0;
    }
    this.hashes[count] = hash;
    this.sizes[count] = sizeBytes;
    this.times[count] = modifiedMs;
    this.marks[count] = mark;
    this.count = count + 1;
    this.pathStarts[count + 1] = at;
  }

  /**
   * Adds a row out of a line of a checksum list that begins at `start`: 64 hexadecimal digits, two
   * spaces, a plain path (`plainBytes`) and a line feed, read in one pass over the bytes.
   * @returns where the next line begins; -1, and nothing is added, when the line is of another kind
   */
  addLine(bytes: Uint8Array, start: number): number {
    const pathStart = start + 66;
    if (pathStart >= bytes.length || bytes[start + 64] !== space || bytes[start + 65] !== space) return -1;
    // A plain path is no longer than what is left, and is looked at only as far as this.
    const limit = Math.min(bytes.length, pathStart + longestPlainPath);
    this.room(longestPlainPath);
    const { pathBytes, digests, count } = this;
    const place = count * digestBytes;
    let bad = 0;
    for (let index = 0; index < digestBytes; index += 1) {
      const at = start + index * 2;
      const value = ((hexValue[bytes[at] ?? 0] ?? 0) << 4) | (hexValue[bytes[at + 1] ?? 0] ?? 0);
      bad |= value;
      digests[place + index] = value;
    }
    if (bad > 255) return -1;
    let at = this.pathEnd;
    let hash = hashStart;
    let before = slash;
    let index = pathStart;
    for (; index < limit; index += 1) {
      const byte = bytes[index] ?? 0;
      const kind = plainBytes[byte] ?? 0;
      if (kind !== 0) {
        if (kind === ends) break;
        // A slash or a dot after a slash may be an empty name, `.` or `..`.
        if (kind === odd || before === slash) return -1;
      }
      before = byte;
      pathBytes[at] = byte;
      at += 1;
      hash = Math.imul(hash ^ byte, hashPrime);
    }
    if (index === limit || before === slash || bytes[pathStart + 1] === colon) return -1;
    this.pathEnd = at;
    this.hashes[count] = hash;
    this.sizes[count] = Number.NaN;
    this.times[count] = Number.NaN;
    this.marks[count] = digestKnown;
    this.count = count + 1;
    this.pathStarts[count + 1] = at;
    return index + 1;
  }

  add({ path, sha256, sizeBytes, modifiedMs, trouble }: FileEntry): void {
    const bytes = encoder.encode(path);
    const digest = sha256 === null ? null : digestOfHex(sha256);
    this.addBytes(
      bytes,
      0,
      bytes.length,
      digest,
      sizeBytes ?? Number.NaN,
      modifiedMs ?? Number.NaN,
      markOf(digest !== null, trouble),
    );
  }

  /** The rows so far. The builder must not be used afterwards. */
  finish(): PackedList {
    const digests = this.digests.subarray(0, this.count * digestBytes);
    return {
      count: this.count,
      pathBytes: this.pathBytes.subarray(0, this.pathEnd),
      pathStarts: this.pathStarts.subarray(0, this.count + 1),
      sizes: this.sizes.subarray(0, this.count),
      times: this.times.subarray(0, this.count),
      digests,
      digestWords: wordsOf(digests),
      marks: this.marks.subarray(0, this.count),
      hashes: this.hashes.subarray(0, this.count),
    };
  }
}

/** The memory of checksums as words. */
export function wordsOf(digests: Uint8Array): Uint32Array {
  return new Uint32Array(digests.buffer, digests.byteOffset, digests.length / 4);
}

/** What `marks` holds for a row. */
export function markOf(hasItsDigest: boolean, trouble: FileTrouble | null): number {
  return (hasItsDigest ? digestKnown : 0) | (trouble ? fileTroubles.indexOf(trouble) + 1 : 0);
}

/** @example packList([{ path: 'a', sizeBytes: 1, sha256: null, modifiedMs: null, trouble: null }]).count // 1 */
export function packList(entries: Iterable<FileEntry>): PackedList {
  const builder = new ListBuilder();
  for (const entry of entries) builder.add(entry);
  return builder.finish();
}

function digestOfHex(hex: string): Uint8Array {
  const bytes = new Uint8Array(digestBytes);
  for (let index = 0; index < digestBytes; index += 1)
    bytes[index] = Number.parseInt(hex.slice(index * 2, index * 2 + 2), 16);
  return bytes;
}

const hexOfByte = Array.from({ length: 256 }, (_none, byte) => byte.toString(16).padStart(2, '0'));

function pathBytesAt(list: PackedList, row: number): Uint8Array {
  return list.pathBytes.subarray(list.pathStarts[row], list.pathStarts[row + 1]);
}

export function pathAt(list: PackedList, row: number): string {
  return decoder.decode(pathBytesAt(list, row));
}

export function hasDigest(list: PackedList, row: number): boolean {
  return ((list.marks[row] ?? 0) & digestKnown) !== 0;
}

/** 64 hexadecimal digits, or null where the checksum is not known. */
export function sha256At(list: PackedList, row: number): string | null {
  if (!hasDigest(list, row)) return null;
  let hex = '';
  for (let index = row * digestBytes; index < (row + 1) * digestBytes; index += 1)
    hex += hexOfByte[list.digests[index] ?? 0] ?? '';
  return hex;
}

export function sizeAt(list: PackedList, row: number): number | null {
  const sizeBytes = list.sizes[row] ?? Number.NaN;
  return Number.isNaN(sizeBytes) ? null : sizeBytes;
}

export function troubleAt(list: PackedList, row: number): FileTrouble | null {
  return fileTroubles[((list.marks[row] ?? 0) & troubleMask) - 1] ?? null;
}

/** One row as an object. */
export function entryAt(list: PackedList, row: number): FileEntry {
  const modifiedMs = list.times[row] ?? Number.NaN;
  return {
    path: pathAt(list, row),
    sizeBytes: sizeAt(list, row),
    sha256: sha256At(list, row),
    modifiedMs: Number.isNaN(modifiedMs) ? null : modifiedMs,
    trouble: troubleAt(list, row),
  };
}

export function* entriesOf(list: PackedList): Generator<FileEntry> {
  for (let row = 0; row < list.count; row += 1) yield entryAt(list, row);
}

export type ListSummary = {
  readonly fileCount: number;
  /** Sum of the known sizes. */
  readonly sizeBytes: number;
  readonly largestFileBytes: number;
  readonly withoutSize: number;
  readonly withoutDigest: number;
  readonly troubled: number;
};

/** Counts and sums over a list. */
export function summarise(list: PackedList): ListSummary {
  let sizeBytes = 0;
  let largestFileBytes = 0;
  let withoutSize = 0;
  let withoutDigest = 0;
  let troubled = 0;
  for (let row = 0; row < list.count; row += 1) {
    const size = list.sizes[row] ?? Number.NaN;
    if (Number.isNaN(size)) withoutSize += 1;
    else {
      sizeBytes += size;
      if (size > largestFileBytes) largestFileBytes = size;
    }
    const mark = list.marks[row] ?? 0;
    if ((mark & digestKnown) === 0) withoutDigest += 1;
    if ((mark & troubleMask) !== 0) troubled += 1;
  }
  return { fileCount: list.count, sizeBytes, largestFileBytes, withoutSize, withoutDigest, troubled };
}
