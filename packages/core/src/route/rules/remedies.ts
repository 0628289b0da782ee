import { printBytes } from '../../quantity/bytes';
import { partitionBytes, systemDisk, systemPartition, type Disk } from '../../survey/disk';
import { valueOf, type Facts } from '../../survey/facts';
import type { Remedy, RouteContext } from '../definition';

/** The disks with the one that carries the system changed. */
export function withSystemDisk(facts: Facts, change: (disk: Disk) => Disk): Disk[] {
  const disks = valueOf(facts, 'disks') ?? [];
  const system = systemDisk(disks);
  return disks.map((disk) => (disk === system ? change(disk) : disk));
}

/** Deleting and moving away files until so many bytes are free on the system partition. */
export function freeSpace({ facts }: RouteContext, wantedBytes: number): readonly Remedy[] {
  const disk = systemDisk(valueOf(facts, 'disks'));
  const system = systemPartition(disk);
  if (!disk || system?.usedBytes === undefined) return [];
  const usedBytes = partitionBytes(disk, system) - wantedBytes;
  if (usedBytes < 0) return [];
  return [
    {
      id: 'free-space',
      action: `Free ${printBytes(system.usedBytes - usedBytes, 'decimal')} on the system partition`,
      handsOnMinutes: 25,
      cost: 0,
      gives: (now) => ({
        disks: withSystemDisk(now, (one) => ({
          ...one,
          partitions: one.partitions.map((partition) =>
            partition.number === system.number ? { ...partition, usedBytes } : partition,
          ),
        })),
      }),
    },
  ];
}

export function convertToGpt(): readonly Remedy[] {
  return [
    {
      id: 'convert-to-gpt',
      action: 'Convert the system disk from MBR to GPT',
      handsOnMinutes: 25,
      cost: 0,
      gives: (now) => ({ disks: withSystemDisk(now, (disk) => ({ ...disk, scheme: 'gpt' })) }),
    },
  ];
}
