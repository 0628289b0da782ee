import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { crc32 } from './crc32';
import { checkSource, readPadded, type SectorSource } from './sectorSource';
import { checkWrites, oldSectors, type SectorWrite } from './sectorWrite';

/**
 * The old sectors of what is about to be written: applying `writes` brings the very bytes back. They are
 * in the opposite order: what was written last, the sector that switches, is brought back first.
 */
export type UndoCapsule = {
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  readonly writes: readonly SectorWrite[];
  /** CRC-32 of what was written over each, in the same order: undoing is refused where it is not there. */
  readonly writtenCrc32: readonly number[];
};

/**
 * Keeps the sectors that the writes will replace (law of safety 3).
 * @returns refused when a write does not fit the disk or its old sectors cannot be read whole
 */
export function undoCapsule(source: SectorSource, writes: readonly SectorWrite[]): Outcome<UndoCapsule> {
  const usable = checkSource(source);
  if (!usable.ok) return usable;
  const checked = checkWrites(source, writes);
  if (!checked.ok) return checked;
  const short = writes.find(
    ({ startLba, bytes }) =>
      readPadded(source, startLba, bytes.length / source.sectorSizeBytes).missingBytes > 0,
  );
  if (short)
    return fail(
      'source-short',
      `/lba/${short.startLba}`,
      `The sectors of ${short.about} cannot be read whole, so they could not be brought back: nothing is planned over them.`,
    );
  const back = [...writes].reverse();
  return succeed({
    sectorSizeBytes: source.sectorSizeBytes,
    sectorCount: source.sectorCount,
    writes: oldSectors(source, back),
    writtenCrc32: back.map(({ bytes }) => crc32(bytes)),
  });
}
