import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { checkSource, readPadded, type SectorSource } from './sectorSource';

/** Whole sectors to be written from `startLba` on. */
export type SectorWrite = {
  readonly startLba: number;
  /** A whole number of sectors. */
  readonly bytes: Uint8Array;
  /** What stands there: “primary GPT header”. */
  readonly about: string;
};

/** Refuses writes that are no whole sectors, reach outside the disk, or overlap one another. */
export function checkWrites(
  source: Pick<SectorSource, 'sectorSizeBytes' | 'sectorCount'>,
  writes: readonly SectorWrite[],
): Outcome<readonly SectorWrite[]> {
  const inOrder = [...writes].sort((a, b) => a.startLba - b.startLba);
  let next = 0;
  for (const { startLba, bytes, about } of inOrder) {
    const sectors = bytes.length / source.sectorSizeBytes;
    if (!Number.isInteger(sectors) || sectors < 1 || !Number.isSafeInteger(startLba))
      return fail(
        'write-not-whole',
        `/writes/${startLba}`,
        `${about}: what is written is not whole sectors.`,
      );
    if (startLba < 0 || startLba + sectors > source.sectorCount)
      return fail(
        'write-outside',
        `/writes/${startLba}`,
        `${about}: sectors ${startLba} to ${startLba + sectors - 1} are not on a disk of ${source.sectorCount}: it is another disk.`,
      );
    if (startLba < next)
      return fail(
        'writes-overlap',
        `/writes/${startLba}`,
        `${about}: two writes meet at sector ${startLba}.`,
      );
    next = startLba + sectors;
  }
  return succeed(inOrder);
}

/**
 * The source as it would read after the writes; the source itself is not touched.
 * Refused when the source is none or a write does not fit it.
 */
export function applyWrites(source: SectorSource, writes: readonly SectorWrite[]): Outcome<SectorSource> {
  const usable = checkSource(source);
  if (!usable.ok) return usable;
  const checked = checkWrites(source, writes);
  if (!checked.ok) return checked;
  const { sectorSizeBytes, sectorCount } = source;
  const inOrder = checked.value;
  return succeed({
    sectorSizeBytes,
    sectorCount,
    read: (lba, count) => {
      const under = source.read(lba, count);
      const touching = inOrder.filter(
        ({ startLba, bytes }) => startLba < lba + count && startLba + bytes.length / sectorSizeBytes > lba,
      );
      if (touching.length === 0) return under;
      const result = new Uint8Array(Math.max(under.length, reach(touching, lba, count, sectorSizeBytes)));
      result.set(under);
      for (const { startLba, bytes } of touching) {
        const offset = (startLba - lba) * sectorSizeBytes;
        const from = Math.max(0, -offset);
        const until = Math.min(bytes.length, count * sectorSizeBytes - offset);
        result.set(bytes.subarray(from, until), offset + from);
      }
      return result;
    },
  });
}

/** Bytes of the answer up to the last one that a write gives. */
function reach(
  touching: readonly SectorWrite[],
  lba: number,
  count: number,
  sectorSizeBytes: number,
): number {
  return touching.reduce(
    (max, { startLba, bytes }) =>
      Math.max(max, Math.min(count * sectorSizeBytes, (startLba - lba) * sectorSizeBytes + bytes.length)),
    0,
  );
}

/**
 * The same writes a sector each: a drive writes a sector whole or not at all, so whatever breaks off in between
 * leaves the state after one of them.
 */
export function inSectors(writes: readonly SectorWrite[], sectorSizeBytes: number): readonly SectorWrite[] {
  return writes.flatMap(({ startLba, bytes, about }) =>
    Array.from({ length: bytes.length / sectorSizeBytes }, (_none, index) => ({
      startLba: startLba + index,
      bytes: bytes.slice(index * sectorSizeBytes, (index + 1) * sectorSizeBytes),
      about,
    })),
  );
}

/** For a list that is read: neighbours of one name as one stretch, in whichever direction they are written. */
export function inStretches(
  writes: readonly SectorWrite[],
  sectorSizeBytes: number,
): readonly { readonly startLba: number; readonly sectorCount: number; readonly about: string }[] {
  const stretches: { startLba: number; sectorCount: number; about: string }[] = [];
  for (const { startLba, bytes, about } of writes) {
    const last = stretches.at(-1);
    const sectorCount = bytes.length / sectorSizeBytes;
    if (last?.about === about && last.startLba + last.sectorCount === startLba)
      last.sectorCount += sectorCount;
    else if (last?.about === about && startLba + sectorCount === last.startLba) {
      last.startLba = startLba;
      last.sectorCount += sectorCount;
    } else stretches.push({ startLba, sectorCount, about });
  }
  return stretches;
}

/** The same writes with what was there before: applying them brings the old bytes back. */
export function oldSectors(source: SectorSource, writes: readonly SectorWrite[]): readonly SectorWrite[] {
  return writes.map(({ startLba, bytes, about }) => ({
    startLba,
    bytes: readPadded(source, startLba, bytes.length / source.sectorSizeBytes).bytes.slice(),
    about: `before: ${about}`,
  }));
}
