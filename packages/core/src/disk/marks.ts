import { gigabyteBytes, printBytes } from '../quantity/bytes';
import { diskBytes, diskMark, type Disk } from '../survey/disk';

export type DiskMarks = { readonly serialEnd: string; readonly sizeGigabytes: number };

/** Sizes on labels are rounded: so far apart they may be. */
const labelTolerance = 0.01;

/**
 * Why a disk is not yet told by its two marks, serial and size as read off its label; undefined when it is.
 */
export function whyNotTold(disk: Disk, marks: DiskMarks | null): string | undefined {
  if (disk.serial === undefined)
    return `The serial of disk ${disk.name} is unknown: read it off its label and type it among the disks on Survey.`;
  if (!marks) return 'Read serial and size off the disk’s label, and type both on Prepare.';
  if (!disk.serial.toLowerCase().endsWith(marks.serialEnd.toLowerCase()))
    return `The serial typed ends in ${marks.serialEnd}; the survey says ${diskMark(disk)}. Is it the right disk?`;
  const size = diskBytes(disk) / gigabyteBytes;
  return Math.abs(marks.sizeGigabytes - size) > size * labelTolerance
    ? `The size typed is ${marks.sizeGigabytes} GB; the survey says ${printBytes(diskBytes(disk), 'decimal')}. Is it the right disk?`
    : undefined;
}
