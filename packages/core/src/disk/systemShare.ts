import { gigabyteBytes, printBytes } from '../quantity/bytes';

/** How much of a disk a system gets where data have a partition of their own, and whether that is worth it. */
export type SystemShare = {
  readonly systemBytes: number;
  readonly restBytes: number;
  readonly isWorthIt: boolean;
  /** Both, with the reason; made for whoever reads it. */
  readonly sentence: () => string;
};

/** A disk above this has room for a system that grows. */
const roomyDiskBytes = 500 * gigabyteBytes;
/** Less than this apart is sooner full than it is of use. */
const leastApartBytes = 100 * gigabyteBytes;

/**
 * How large a system should be, by the size of the disk: three times what it takes once installed, as updates keep the
 * version before beside the new one; on a roomy disk four times. Whole 10 GB, so that the size is recognised. A split
 * is worth it where the rest holds the data twice, and 100 GB at least: a partition that is nearly full from the start
 * is only in the way.
 * @param roomBytes what system and data share
 * @param systemBytes what the release takes
 * @param dataBytes what is to come back onto it
 */
export function systemShare({
  roomBytes,
  systemBytes,
  dataBytes,
}: {
  readonly roomBytes: number;
  readonly systemBytes: number;
  readonly dataBytes: number;
}): SystemShare {
  const times = roomBytes > roomyDiskBytes ? 4 : 3;
  const step = 10 * gigabyteBytes;
  const share = Math.ceil((systemBytes * times) / step) * step;
  const restBytes = roomBytes - share;
  const needed = Math.max(leastApartBytes, 2 * dataBytes);
  const isWorthIt = restBytes >= needed;
  return {
    systemBytes: share,
    restBytes,
    isWorthIt,
    sentence: () => {
      const shown = (bytes: number) => printBytes(bytes, 'decimal');
      const size = `A system of ${shown(systemBytes)} gets ${shown(share)}, ${times} times that`;
      return isWorthIt
        ? `${size}; ${shown(restBytes)} are left for data of ${shown(dataBytes)}: apart is worth it.`
        : `${size}; ${shown(Math.max(0, restBytes))} would be left for data of ${shown(dataBytes)}, and ${shown(needed)} are wanted: one partition.`;
    },
  };
}
