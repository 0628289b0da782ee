import { gibibyteBytes, gigabyteBytes, printBothUnits, printBytes } from '../quantity/bytes';
import { diskBytes, diskMark, type Disk } from '../survey/disk';

export type DiskMarks = { readonly serialEnd: string; readonly sizeGigabytes: number };

/** Sizes on labels are rounded: so far apart they may be. */
const labelTolerance = 0.01;

/**
 * What a page means by a size that it shows without saying so: GB of 1000³ or of 1024³, whichever agrees with the disk;
 * undefined where neither does.
 * @example meantBy(256_060_514_304, 238.5) // 'GiB'
 */
export function meantBy(sizeBytes: number, shown: number): 'GB' | 'GiB' | undefined {
  const agrees = (unitBytes: number) => Math.abs(shown * unitBytes - sizeBytes) <= sizeBytes * labelTolerance;
  if (agrees(gigabyteBytes)) return 'GB';
  return agrees(gibibyteBytes) ? 'GiB' : undefined;
}

/**
 * Why what an installer's page shows of a disk is not this disk; undefined when it is.
 * @param shown the end of the serial and the size, as that page writes them, in whichever GB
 */
export function whyAnotherDisk(
  disk: Disk,
  shown: { readonly serialEnd: string; readonly sizeShown: number },
): string | undefined {
  const told = whyNotTold(disk, {
    serialEnd: shown.serialEnd,
    sizeGigabytes: diskBytes(disk) / gigabyteBytes,
  });
  if (told !== undefined) return told;
  return meantBy(diskBytes(disk), shown.sizeShown) === undefined
    ? `The page shows ${shown.sizeShown}; the survey says ${printBothUnits(diskBytes(disk))}. Is it the other disk?`
    : undefined;
}

/**
 * Why a disk is not yet told by its two marks, serial and size as read off its label; undefined when it is.
 */
export function whyNotTold(disk: Disk, marks: DiskMarks | null): string | undefined {
  if (disk.serial === undefined)
    return `The serial of disk ${disk.name} is unknown: read it from its label, and enter it among the disks on Survey.`;
  if (!marks) return 'Read the serial number and the size from the disk’s label, and enter both on Prepare.';
  if (!disk.serial.toLowerCase().endsWith(marks.serialEnd.toLowerCase()))
    return `The serial typed ends in ${marks.serialEnd}; the survey says ${diskMark(disk)}. Is it the right disk?`;
  const size = diskBytes(disk) / gigabyteBytes;
  return Math.abs(marks.sizeGigabytes - size) > size * labelTolerance
    ? `The size typed is ${marks.sizeGigabytes} GB; the survey says ${printBytes(diskBytes(disk), 'decimal')}. Is it the right disk?`
    : undefined;
}
