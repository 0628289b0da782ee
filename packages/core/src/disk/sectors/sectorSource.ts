import { fail, succeed, type Outcome } from '../../outcome/outcome';

/**
 * Anything that sectors can be read from: an image read by slices, a practice disk, a buffer.
 * `read` gives `count × sectorSizeBytes` bytes, fewer where the source ends early; it never writes.
 */
export type SectorSource = {
  /** 512 or 4096. */
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  readonly read: (lba: number, count: number) => Uint8Array;
};

/** The logical sector sizes that are read: all others are refused. */
export const sectorSizes = [512, 4096] as const;

/**
 * A source over bytes that are held in memory; a rest shorter than a sector is cut off.
 * @example bufferSource(new Uint8Array(1024), 512).sectorCount // 2
 */
export function bufferSource(bytes: Uint8Array, sectorSizeBytes: number): SectorSource {
  return {
    sectorSizeBytes,
    sectorCount: Math.floor(bytes.length / sectorSizeBytes),
    read: (lba, count) => bytes.slice(lba * sectorSizeBytes, (lba + count) * sectorSizeBytes),
  };
}

/** Refuses sources that no disk can be: another sector size, no sector, more than can be counted. */
export function checkSource(source: SectorSource): Outcome<SectorSource> {
  if (!sectorSizes.some((size) => size === source.sectorSizeBytes))
    return fail(
      'sector-size',
      '/sectorSizeBytes',
      `Sectors of ${source.sectorSizeBytes} bytes are not read: give 512 or 4096, as the disk’s label or the survey says.`,
    );
  if (
    !Number.isSafeInteger(source.sectorCount) ||
    source.sectorCount < 1 ||
    !Number.isSafeInteger(source.sectorCount * source.sectorSizeBytes)
  )
    return fail(
      'sector-count',
      '/sectorCount',
      'The disk has no whole sector, or more than can be counted: check the file and the sector size.',
    );
  return succeed(source);
}

/**
 * Reads exactly so many sectors; what the source does not have is zero, and `missingBytes` says how much.
 * `count` is the caller's to bound: nothing here reads a number from the disk.
 */
export function readPadded(
  source: SectorSource,
  lba: number,
  count: number,
): { readonly bytes: Uint8Array; readonly missingBytes: number } {
  const wanted = count * source.sectorSizeBytes;
  const within = Math.max(0, Math.min(count, source.sectorCount - lba));
  const got = lba < 0 || within === 0 ? new Uint8Array(0) : source.read(lba, within);
  if (got.length === wanted) return { bytes: got, missingBytes: 0 };
  const bytes = new Uint8Array(wanted);
  bytes.set(got.subarray(0, wanted));
  return { bytes, missingBytes: wanted - Math.min(got.length, wanted) };
}

/** Bytes from a byte offset, as a view for reading numbers; zero where the source has none. */
export function readBytes(source: SectorSource, offsetBytes: number, lengthBytes: number): DataView {
  const first = Math.floor(offsetBytes / source.sectorSizeBytes);
  const last = Math.ceil((offsetBytes + lengthBytes) / source.sectorSizeBytes);
  const { bytes } = readPadded(source, first, last - first);
  return new DataView(
    bytes.buffer,
    bytes.byteOffset + offsetBytes - first * source.sectorSizeBytes,
    lengthBytes,
  );
}
