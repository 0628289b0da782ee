import { endLba, type TablePartition } from '../table/partitionTable';

/** Partitions in disk order, and the first sector that they may take. */
export type Placed = { readonly partitions: readonly TablePartition[]; readonly firstLba: number };

/** Free sectors just before a partition: an EBR needs one of them. */
export function roomBefore({ partitions, firstLba }: Placed, partition: TablePartition): number {
  const before = partitions.filter(({ startLba }) => startLba < partition.startLba).map(endLba);
  return partition.startLba - Math.max(firstLba, ...before);
}

/**
 * Runs of neighbours that could become logical so that at most three others and the extended
 * partition stay: the shortest first, and of those the last on the disk.
 */
export function logicalGroups(placed: Placed): readonly (readonly TablePartition[])[] {
  const { partitions } = placed;
  const min = partitions.length - 3;
  const groups: (readonly TablePartition[])[] = [];
  for (let length = min; length <= partitions.length; length += 1)
    for (let first = partitions.length - length; first >= 0; first -= 1) {
      const group = partitions.slice(first, first + length);
      if (group.every((partition) => roomBefore(placed, partition) >= 1)) groups.push(group);
    }
  return groups;
}
