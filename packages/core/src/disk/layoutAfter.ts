import type { Release } from '../catalogue/catalogue';
import { systemPartition, type Disk } from '../survey/disk';
import { alignmentSectors, segmentsOf, type Segment } from './segment';

export type LayoutGoal = 'whole-disk' | 'system-partition';

const purposeNames = { efi: 'EFI system', reserved: 'reserved', recovery: 'recovery', boot: 'boot' } as const;

/**
 * How the disk looks after an install: for `whole-disk` everything is laid out anew, for
 * `system-partition` only the system's place is, and all other partitions stay to the sector.
 * Starts and lengths of new partitions are whole MiB.
 * @returns segments in disk order, or undefined when the system partition is not known
 */
export function layoutAfter(disk: Disk, goal: LayoutGoal, release: Release): readonly Segment[] | undefined {
  if (goal === 'whole-disk') {
    const align = alignmentSectors(disk.sectorBytes);
    return fillGap(
      { startLba: 0, sectorCount: disk.sectorCount, firstUsable: align, tailSectors: align },
      disk,
      release,
      new Set(),
    );
  }
  const system = systemPartition(disk);
  if (!system) return undefined;
  const present = new Set<string>(
    disk.partitions.flatMap(({ role }) => (role && role !== 'system' ? [role] : [])),
  );
  return segmentsOf(disk, () => 'kept').flatMap((segment) =>
    segment.partitionNumber === system.number
      ? fillGap(
          { startLba: segment.startLba, sectorCount: segment.sectorCount, firstUsable: 0, tailSectors: 0 },
          disk,
          release,
          present,
        )
      : [segment],
  );
}

type Gap = {
  readonly startLba: number;
  readonly sectorCount: number;
  /** Sectors at the front kept for the table. */
  readonly firstUsable: number;
  /** Sectors at the end kept for the second table. */
  readonly tailSectors: number;
};

/** Lays the installer's own partitions and the new system into a gap; what is already there is not made again. */
function fillGap(gap: Gap, disk: Disk, release: Release, present: ReadonlySet<string>): Segment[] {
  const align = alignmentSectors(disk.sectorBytes);
  const up = (sectors: number) => Math.ceil(sectors / align) * align;
  const down = (sectors: number) => Math.floor(sectors / align) * align;
  const end = gap.startLba + gap.sectorCount;
  const first = up(gap.startLba + gap.firstUsable);
  const last = down(end - gap.tailSectors);
  const made = release.installerPartitions.filter(({ purpose }) => !present.has(purpose));
  const before = made.filter(({ purpose }) => purpose !== 'recovery');
  const after = made.filter(({ purpose }) => purpose === 'recovery');
  const sectorsOf = (sizeBytes: number) => up(Math.ceil(sizeBytes / disk.sectorBytes));
  const afterSectors = after.reduce((sum, { sizeBytes }) => sum + sectorsOf(sizeBytes), 0);

  const segments: Segment[] = [];
  let next = gap.startLba;
  const push = (kind: Segment['kind'], until: number, label: string, fate: Segment['fate']) => {
    if (until > next) segments.push({ kind, startLba: next, sectorCount: until - next, label, fate });
    next = Math.max(next, until);
  };
  push('free', first, 'free', 'kept');
  for (const { purpose, sizeBytes } of before)
    push('partition', next + sectorsOf(sizeBytes), purposeNames[purpose], 'new');
  push('partition', last - afterSectors, 'new system', 'new');
  for (const { purpose, sizeBytes } of after)
    push('partition', next + sectorsOf(sizeBytes), purposeNames[purpose], 'new');
  push('free', end, 'free', 'kept');
  return segments;
}
