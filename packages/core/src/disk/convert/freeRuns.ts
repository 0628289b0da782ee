import { alignmentSectors } from '../segment';
import { endLba, inDiskOrder, type PartitionTable } from '../table/partitionTable';

type Run = { readonly startLba: number; readonly sectorCount: number };

/**
 * Runs of sectors that belong to no partition and to no table, in disk order, between two bounds
 * (both included).
 */
export function freeRuns(
  table: Pick<PartitionTable, 'partitions'>,
  firstLba: number,
  lastLba: number,
): readonly Run[] {
  const runs: Run[] = [];
  let next = firstLba;
  for (const partition of inDiskOrder(table.partitions)) {
    if (partition.startLba > next)
      runs.push({ startLba: next, sectorCount: Math.min(partition.startLba, lastLba + 1) - next });
    next = Math.max(next, endLba(partition));
  }
  if (next <= lastLba) runs.push({ startLba: next, sectorCount: lastLba + 1 - next });
  return runs.filter(({ sectorCount }) => sectorCount > 0);
}

/** The part of a run between whole mebibytes; nothing when there is none. */
export function alignedRun(run: Run, sectorSizeBytes: number): Run {
  const align = alignmentSectors(sectorSizeBytes);
  const startLba = Math.ceil(run.startLba / align) * align;
  const end = Math.floor((run.startLba + run.sectorCount) / align) * align;
  return { startLba, sectorCount: Math.max(0, end - startLba) };
}
