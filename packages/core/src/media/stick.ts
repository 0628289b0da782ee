import type { Release } from '../catalogue/catalogue';
import { fileSystemLimit } from '../catalogue/fileSystems';
import { gigabyteBytes, printBothUnits } from '../quantity/bytes';
import type { HouseRules } from '../rules/houseRules';
import { startingMode, type StartOn } from './startingMode';

/** Sizes that sticks are sold in, decimal gigabytes; as formatted a little less. */
const soldGigabytes = [4, 8, 16, 32, 64, 128, 256] as const;

/** File tables and the loader beside the image. */
const overhead = 1.06;
const marginFactor = 1.25;
/** What is left of the sold size after formatting. */
const formattedShare = 0.95;

type StickPlan = {
  readonly bytesNeeded: number;
  /** The smallest size sold that holds it; null when none does. */
  readonly soldGigabytes: number | null;
  readonly mode: ReturnType<typeof startingMode>;
  readonly scheme: 'gpt' | 'mbr' | 'unknown';
  /** A file of the image is more than FAT32 takes, and firmware starts from nothing else. */
  readonly hasLargeFile: boolean;
  /** Made for whoever reads them. */
  readonly sentences: () => readonly string[];
};

/**
 * The installer stick for a release on a device: bytes, scheme and mode by the firmware that is to
 * start it. UEFI goes with GPT, legacy with MBR.
 */
export function stickPlan(
  on: StartOn & { readonly release: Release },
  houseRules: Pick<HouseRules, 'stick'>,
): StickPlan {
  const { release } = on;
  const bytesNeeded = Math.ceil(
    release.imageBytes * overhead * (houseRules.stick === 'with-margin' ? marginFactor : 1),
  );
  const sold = soldGigabytes.find((size) => size * gigabyteBytes * formattedShare >= bytesNeeded) ?? null;
  const mode = startingMode(on);
  const scheme = mode === 'uefi' ? 'gpt' : mode === 'legacy' ? 'mbr' : 'unknown';
  const fat32Limit = fileSystemLimit('fat32').largestFileBytes ?? 0;
  const hasLargeFile = release.largestImageFileBytes > fat32Limit;
  const sentences = () => {
    const said = [
      `The image has ${printBothUnits(release.imageBytes)}; the stick must hold ${printBothUnits(bytesNeeded)}${houseRules.stick === 'with-margin' ? ', with the house’s margin' : ''}.`,
      sold === null
        ? 'No stick that is sold holds it: use an optical disc or a partition.'
        : `A stick sold as ${sold} GB holds it.`,
      mode === 'unknown'
        ? 'The firmware mode is unknown, so the stick’s scheme cannot be told: read the boot page of the firmware set-up first.'
        : `Written with ${scheme.toUpperCase()}, to be started in ${mode === 'uefi' ? 'UEFI' : 'legacy'} mode.`,
    ];
    if (hasLargeFile)
      said.push(
        `The image holds a file of ${printBothUnits(release.largestImageFileBytes)}, more than FAT32 takes: split it, or put it on a second partition. The partition that starts stays FAT32: firmware reads nothing else.`,
      );
    return said;
  };
  return { bytesNeeded, soldGigabytes: sold, mode, scheme, hasLargeFile, sentences };
}
