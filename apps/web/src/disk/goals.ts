import { gibibyteBytes, type LayoutPlanGoal, type PartitionTable, type Release } from '@ulvane/core';

export type GoalKind = LayoutPlanGoal['kind'];

export const goalTitles: Readonly<Record<GoalKind, string>> = {
  room: 'Make room for a second system',
  split: 'Split into system and data',
  'installer-partition': 'Add a partition with the installer (no stick)',
  standard: 'Lay the release out in the system’s place',
  wipe: 'Wipe, and lay the whole disk out',
  'grow-back': 'Grow back after a second system is removed',
};

/** What is asked for besides the kind of goal. */
export type GoalWish = {
  readonly kind: GoalKind;
  readonly sizeBytes: number;
  readonly partition: number | null;
  readonly remove: readonly number[];
};

/** A first wish for a table: the system split in two thirds, a room of 40 GiB. */
export function firstWish(table: PartitionTable): GoalWish {
  const system = table.partitions.find(({ role }) => role === 'system') ?? largest(table);
  return { kind: 'room', sizeBytes: 40 * gibibyteBytes, partition: system?.number ?? null, remove: [] };
}

function largest({ partitions }: PartitionTable) {
  return [...partitions].sort((a, b) => b.sectorCount - a.sectorCount)[0];
}

/** The wish as a goal for the planner; undefined while something is still to be chosen. */
export function goalOf(
  wish: GoalWish,
  table: PartitionTable,
  release: Release | undefined,
): LayoutPlanGoal | undefined {
  const { kind, sizeBytes, partition, remove } = wish;
  switch (kind) {
    case 'room':
    case 'installer-partition':
      return { kind, sizeBytes };
    case 'split':
      return { kind, systemBytes: sizeBytes, ...(partition === null ? {} : { partition }) };
    case 'standard':
      return { kind, installer: release?.installerPartitions ?? [] };
    case 'wipe':
      return {
        kind,
        scheme:
          release && !release.firmwareModes.includes('uefi')
            ? 'mbr'
            : table.scheme === 'mbr' && !release
              ? 'mbr'
              : 'gpt',
        installer: release?.installerPartitions ?? [],
      };
    case 'grow-back':
      return partition === null || remove.length === 0 ? undefined : { kind, partition, remove: [...remove] };
  }
}
