import { readBytes, type SectorSource } from '../sectors/sectorSource';

/** A partition as recognisers read it: bytes from its start, never beyond its end. */
export type Reach = {
  readonly lengthBytes: number;
  /** Its first 4 KiB. */
  readonly head: DataView;
  /** Bytes from an offset; undefined where they are not inside the partition. */
  readonly at: (offsetBytes: number, lengthBytes: number) => DataView | undefined;
};

const headBytes = 4096;

export function reachOf(source: SectorSource, startLba: number, sectorCount: number): Reach {
  const start = startLba * source.sectorSizeBytes;
  const lengthBytes = sectorCount * source.sectorSizeBytes;
  return {
    lengthBytes,
    head: readBytes(source, start, headBytes),
    at: (offset, length) =>
      Number.isSafeInteger(offset) && offset >= 0 && offset + length <= lengthBytes
        ? readBytes(source, start + offset, length)
        : undefined,
  };
}
