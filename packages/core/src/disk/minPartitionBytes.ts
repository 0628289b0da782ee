import { reserveFactor } from './layout/goal';

/**
 * The fewest bytes that a partition may be shrunk to: its used bytes with a reserve, and past its last block that cannot
 * be moved. The one rule for routes, boxes and plans.
 * @example minPartitionBytes(100, undefined) // 110
 */
export function minPartitionBytes(usedBytes: number, lastImmovableByte: number | undefined): number {
  return Math.max(Math.ceil(usedBytes * reserveFactor), (lastImmovableByte ?? -1) + 1, 1);
}
