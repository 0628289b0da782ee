import { printCount } from '../../quantity/count';
import { printBytes } from '../../quantity/bytes';
import { contentNames } from '../content/content';
import { minSectors } from '../layout/areas';
import { whyNeverShrunk } from '../neverShrunk';
import { calledBy, inSentence, type PartitionTable, type TablePartition } from '../table/partitionTable';

/**
 * Why a partition cannot end so many sectors earlier; undefined when it can. Its file system must already
 * be small enough: an entry that cuts a file system off loses what stands behind the cut.
 */
export function whyNotShrunk(
  partition: TablePartition,
  bySectors: number,
  { sectorSizeBytes, surveyed }: Pick<PartitionTable, 'sectorSizeBytes' | 'surveyed'>,
): string | undefined {
  const left = (partition.sectorCount - bySectors) * sectorSizeBytes;
  const name = calledBy(partition);
  const never = whyNeverShrunk(partition);
  if (never !== undefined) return never;
  if (left <= 0) return `${name} is smaller than what would be taken away.`;
  const { content, lastImmovableByte } = partition;
  if (lastImmovableByte !== undefined && lastImmovableByte >= left)
    return `${name} has a block that cannot be moved ${printBytes(lastImmovableByte, 'binary')} from its start: page file and hibernation off, restart, and read the disk again.`;
  if (surveyed) {
    // Nothing was read: it is planned as a shrink inside the running system, as far as the survey knows.
    if (partition.usedBytes === undefined)
      return `How much of ${name} is used is not known: run the collector while it is mounted, or type it.`;
    return minSectors(partition, sectorSizeBytes) > partition.sectorCount - bySectors
      ? `${name} is too full to be shrunk by ${printBytes(bySectors * sectorSizeBytes, 'binary')}.`
      : undefined;
  }
  if (content === undefined)
    return `What ${name} holds is not recognised, so nobody can say whether its end is free: make it smaller with its own system, or give it a type and leave it.`;
  if (content.spansBytes === undefined)
    return `How far the ${contentNames[content.kind]} in ${name} reaches cannot be told from outside: make it smaller with its own system.`;
  return content.spansBytes > left
    ? `The ${contentNames[content.kind]} in ${name} still reaches to its end: shrink it there by ${printCount(bySectors, 'sector')} (${printBytes(bySectors * sectorSizeBytes, 'binary')}) or more, inside its own system, then read the disk again.`
    : undefined;
}

/** A shrink as a remedy: the file system is small enough already, or is made so first in its own system. */
export function shrinkAction(
  partition: TablePartition,
  bySectors: number,
  { sectorSizeBytes, surveyed }: Pick<PartitionTable, 'sectorSizeBytes' | 'surveyed'>,
): string {
  const amount = `${bySectors} sectors (${printBytes(bySectors * sectorSizeBytes, 'binary')})`;
  return surveyed
    ? `Shrink ${inSentence(partition)} by ${amount}, inside its own system.`
    : `Let ${inSentence(partition)} end ${amount} earlier: its file system does not reach there.`;
}
