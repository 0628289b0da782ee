import { diskBytes, partitionBytes, systemPartition, type Disk } from '../survey/disk';
import { reserveFactor } from './layout/goal';
import { minPartitionBytes } from './minPartitionBytes';
import { segmentsOf } from './segment';

/** The most used bytes that still let a partition give so many bytes. @example shrinkableFloor(110, 0) // 100 */
export function shrinkableFloor(partitionBytes: number, wantedBytes: number): number {
  return Math.floor((partitionBytes - wantedBytes) / reserveFactor);
}

/**
 * Bytes that shrinking a partition can give; undefined where it does not tell what it holds. Default: the system's.
 * @example shrinkableBytes(disk, partition) // 60_000_000_000
 */
export function shrinkableBytes(
  disk: Disk,
  partition: Disk['partitions'][number] | undefined = systemPartition(disk),
): number | undefined {
  if (partition?.usedBytes === undefined) return undefined;
  return Math.max(
    0,
    partitionBytes(disk, partition) - minPartitionBytes(partition.usedBytes, partition.lastImmovableByte),
  );
}

/** What a second system gets beside the installed one: room for updates and a few files. */
const roomForWorkBytes = 20_000_000_000;

/** Bytes that a second system asks for. */
export function roomNeededBytes(systemBytes: number): number {
  return systemBytes + roomForWorkBytes;
}

/** A disk of a survey never changes, and every option asks about the same few. */
const longestRuns = new WeakMap<Disk, number>();

/** The longest run of sectors that belong to no partition, in bytes; the tables' own megabytes are left out. */
export function largestFreeRunBytes(disk: Disk): number {
  const known = longestRuns.get(disk);
  if (known !== undefined) return known;
  const bytes = longestRunOf(disk);
  longestRuns.set(disk, bytes);
  return bytes;
}

function longestRunOf(disk: Disk): number {
  const edge = 1024 ** 2;
  const runs = segmentsOf(disk, () => 'kept')
    .filter(({ kind }) => kind === 'free')
    .map(({ startLba, sectorCount }) => {
      const start = Math.max(startLba * disk.sectorBytes, edge);
      const end = Math.min((startLba + sectorCount) * disk.sectorBytes, diskBytes(disk) - edge);
      return Math.max(0, end - start);
    });
  return runs.reduce((max, run) => Math.max(max, run), 0);
}
