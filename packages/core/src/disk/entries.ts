import type { Disk } from '../survey/disk';

/** An MBR has so many entries; one of them may hold a chain of logical partitions. */
const mbrEntries = 4;

/**
 * Whether the table takes one more partition: a GPT has 128 entries, an MBR four, or any number of logical ones where
 * there is an extended partition.
 * @param converting the scheme that the disk has by then, where it is converted first
 */
export function hasFreeEntry(
  { scheme, partitions }: Pick<Disk, 'scheme' | 'partitions'>,
  converting?: 'gpt' | 'mbr',
): boolean {
  if ((converting ?? scheme) !== 'mbr') return true;
  return partitions.some(({ number }) => number > mbrEntries) || partitions.length < mbrEntries;
}
