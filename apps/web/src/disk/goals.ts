import type { Release } from '@ulvane/core/catalogue';
import type { LayoutPlanGoal, PartitionTable, SizeRange } from '@ulvane/core/disk';
import { gibibyteBytes, mebibyteBytes } from '@ulvane/core/quantity';

export type GoalKind = LayoutPlanGoal['kind'];

export const goalTitles: Readonly<Record<GoalKind, string>> = {
  room: 'Make room for a second system',
  split: 'Split into system and data',
  'installer-partition': 'Add a partition with the installer (no stick)',
  standard: 'Lay out the release in place of the system',
  wipe: 'Wipe and lay out the whole disk',
  'grow-back': 'Grow back after a second system is removed',
};

/** What is asked for besides the kind of goal. */
export type GoalWish = {
  readonly kind: GoalKind;
  /** Undefined until somebody asks for one. */
  readonly sizeBytes: number | undefined;
  readonly partition: number | null;
  readonly remove: readonly number[];
};

/** Goals that ask for a size; the others take what there is. */
export function isSized(kind: GoalKind): boolean {
  return kind === 'room' || kind === 'split' || kind === 'installer-partition';
}

/** A size to begin with that the disk can have: 40 GiB of room, two thirds of it for the system, 16 GiB for an installer. */
export function suggestedBytes(
  kind: GoalKind,
  { minBytes: minBytes, maxBytes: maxBytes }: SizeRange,
): number {
  const wanted =
    kind === 'split'
      ? (maxBytes * 2) / 3
      : kind === 'installer-partition'
        ? 16 * gibibyteBytes
        : 40 * gibibyteBytes;
  const within = Math.min(maxBytes, Math.max(minBytes, wanted));
  // Whole GiB where there are some, so that the number can be said.
  const unit = within >= 2 * gibibyteBytes ? gibibyteBytes : mebibyteBytes;
  return Math.max(minBytes, Math.floor(within / unit) * unit);
}

/** A first wish for a table: room for a second system. */
export function firstWish(table: PartitionTable): GoalWish {
  const system = table.partitions.find(({ role }) => role === 'system') ?? largest(table);
  return { kind: 'room', sizeBytes: undefined, partition: system?.number ?? null, remove: [] };
}

function largest({ partitions }: PartitionTable) {
  return [...partitions].sort((a, b) => b.sectorCount - a.sectorCount)[0];
}

/** The wish as a goal for the planner; undefined while something is still to be chosen. */
export function goalOf(
  wish: GoalWish,
  sizeBytes: number | undefined,
  table: PartitionTable,
  release: Release | undefined,
): LayoutPlanGoal | undefined {
  const { kind, partition, remove } = wish;
  switch (kind) {
    case 'room':
    case 'installer-partition':
      return sizeBytes === undefined ? undefined : { kind, sizeBytes };
    case 'split':
      return sizeBytes === undefined
        ? undefined
        : { kind, systemBytes: sizeBytes, ...(partition === null ? {} : { partition }) };
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
