import type { SectorSource } from '../sectors/sectorSource';
import type { RecognisedContent } from './content';
import { recogniseExt } from './ext';
import { recogniseExfat, recogniseFat } from './fat';
import { recogniseArray, recognisePool, recogniseVolumes } from './members';
import { recogniseNtfs } from './ntfs';
import {
  recogniseApfs,
  recogniseBtrfs,
  recogniseEncrypted,
  recogniseLuks,
  recogniseSwap,
  recogniseXfs,
} from './others';
import { reachOf } from './reach';

/** In order: a container is asked before what it might look like inside; FAT last, its marks are the weakest. */
const recognisers = [
  recogniseArray,
  recogniseVolumes,
  recognisePool,
  recogniseLuks,
  recogniseEncrypted,
  recogniseNtfs,
  recogniseExfat,
  recogniseXfs,
  recogniseApfs,
  recogniseExt,
  recogniseBtrfs,
  recogniseSwap,
  recogniseFat,
] as const;

/**
 * What stands in a run of sectors, by its magic numbers; undefined when nothing is recognised.
 * Reads no more than some 500 KiB, whatever the numbers in it say.
 */
export function recogniseContent(
  source: SectorSource,
  startLba: number,
  sectorCount: number,
): RecognisedContent | undefined {
  const reach = reachOf(source, startLba, sectorCount);
  for (const recognise of recognisers) {
    const content = recognise(reach);
    if (content) return content;
  }
  return undefined;
}
