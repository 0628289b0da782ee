import { mebibyteBytes } from '../quantity/bytes';
import type { Partition } from '../survey/disk';

export type Fate = 'kept' | 'moved' | 'erased' | 'new' | 'unknown';

/** A run of sectors of a disk: a partition, or space that belongs to none. */
export type Segment = {
  readonly kind: 'partition' | 'free';
  readonly startLba: number;
  readonly sectorCount: number;
  readonly label: string;
  readonly fate: Fate;
  /** Number in the present table; absent for free space and for what is yet to be made. */
  readonly partitionNumber?: number;
};

/**
 * The whole disk as segments in disk order: partitions, and the free runs between them.
 * Sectors are conserved: the counts add up to the disk's.
 */
export function segmentsOf<
  P extends Pick<Partition, 'number' | 'startLba' | 'sectorCount' | 'label' | 'role'>,
>(
  disk: { readonly sectorCount: number; readonly partitions: readonly P[] },
  fateOf: (partition: P) => Fate,
): readonly Segment[] {
  const inOrder = [...disk.partitions].sort((a, b) => a.startLba - b.startLba);
  const segments: Segment[] = [];
  let next = 0;
  const free = (until: number) => {
    if (until > next)
      segments.push({ kind: 'free', startLba: next, sectorCount: until - next, label: 'free', fate: 'kept' });
    next = Math.max(next, until);
  };
  for (const partition of inOrder) {
    free(partition.startLba);
    segments.push({
      kind: 'partition',
      startLba: partition.startLba,
      sectorCount: partition.sectorCount,
      label: partitionName(partition),
      fate: fateOf(partition),
      partitionNumber: partition.number,
    });
    next = partition.startLba + partition.sectorCount;
  }
  free(disk.sectorCount);
  return segments;
}

/** @example partitionName({ number: 3, label: 'SYSTEM' }) // 'SYSTEM' */
function partitionName(partition: Pick<Partition, 'number' | 'label' | 'role'>): string {
  return partition.label ?? partition.role ?? `partition ${partition.number}`;
}

/** Sectors in 1 MiB: installers start partitions on these. */
export function alignmentSectors(sectorBytes: number): number {
  return mebibyteBytes / sectorBytes;
}
