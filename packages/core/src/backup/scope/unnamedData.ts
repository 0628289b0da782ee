import { printBytes } from '../../quantity/bytes';
import { diskMark, isFixed, partitionBytes, systemDisk, type Disk, type Partition } from '../../survey/disk';
import { valueOf, type Facts } from '../../survey/facts';
import type { DataSet } from './dataSet';
import { placeOfPath, slugOf } from './proposals';

type UnnamedData = {
  /** A line of the checklist, and the data set that it becomes, are known by it. */
  readonly id: string;
  readonly name: string;
  readonly place: DataSet['place'];
  readonly path: string;
  readonly sizeBytes: number;
};

/** What is on a disk for itself and for systems: no data of the owner's. */
const ofTheSystem: ReadonlySet<Partition['role']> = new Set([
  'system',
  'efi',
  'reserved',
  'recovery',
  'boot',
  'swap',
]);

/**
 * Partitions beside the system's with something in them that no data set names. Where it is known at which path a
 * partition is opened, a data set names it by its path; else by saying that it lies beside the system, or on another disk.
 */
export function unnamedData(facts: Facts, dataSets: readonly DataSet[]): readonly UnnamedData[] {
  const disks = valueOf(facts, 'disks') ?? [];
  const system = systemDisk(disks);
  if (!system) return [];
  return disks.filter(isFixed).flatMap((disk) =>
    disk.partitions
      .filter(({ role, usedBytes }) => !ofTheSystem.has(role) && usedBytes !== undefined && usedBytes > 0)
      .flatMap((partition): readonly UnnamedData[] => {
        const place = disk === system ? 'data-partition' : 'other-disk';
        const id = idOf(disk, partition);
        return dataSets.some((one) => one.id !== id && isNamedBy(one, disk, partition, place, disks, system))
          ? []
          : [
              {
                id,
                name: `${partition.label ?? `Partition ${partition.number}`} on ${diskMark(disk)}, ${printBytes(Math.min(partition.usedBytes ?? 0, partitionBytes(disk, partition)), 'decimal')}`,
                place,
                path: partition.mountedAt ?? '',
                sizeBytes: partition.usedBytes ?? 0,
              },
            ];
      }),
  );
}

/** By the disk’s serial number: its name may be another disk’s after a restart, and an answer is kept by this. */
function idOf({ serial, name }: Disk, { number }: Partition): string {
  return slugOf(`partition ${number} ${(serial ?? name).slice(-16)}`, new Set());
}

function isNamedBy(
  dataSet: DataSet,
  disk: Disk,
  partition: Partition,
  place: DataSet['place'],
  disks: readonly Disk[],
  system: Disk,
): boolean {
  if (partition.mountedAt === undefined || dataSet.path === '') return dataSet.place === place;
  const found = placeOfPath(dataSet.path, disks, system);
  return found.disk === disk && found.partition === partition;
}
