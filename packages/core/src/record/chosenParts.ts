import { findRelease } from '../catalogue/find';
import { largestFreeRunBytes, roomNeededBytes, shrinkableBytes } from '../disk/room';
import type { Candidate } from '../decide/candidates';
import type { DecideInput } from '../decide/input';
import { printBothUnits } from '../quantity/bytes';
import type { RouteDefinition } from '../route/definition';
import type { ChosenDisk, ChosenRoom } from '../runbook/chosen';
import { disksToWrite, diskToWrite } from '../runbook/diskToWrite';
import { diskMark, systemDisk } from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';

type Unfit = { readonly path: string; readonly sentence: string };

/** The disk that a route writes to, as a decision keeps it; null where nothing is written, or it cannot be told. */
export function diskGoingBy(facts: Facts, route: RouteDefinition): ChosenDisk | null {
  const disk = route.writesOver === 'nothing' ? undefined : diskToWrite({ facts, route });
  return disk ? { name: disk.name, serial: disk.serial ?? null } : null;
}

/** Why a disk cannot be the one that the route writes to; undefined when it can, or none is chosen. */
export function whyDiskUnfit(
  facts: Facts,
  route: RouteDefinition,
  disk: ChosenDisk | null,
): Unfit | undefined {
  if (disk === null) return undefined;
  const among = route.writesOver === 'nothing' ? [] : disksToWrite({ facts, route });
  if (among.some(({ name, serial }) => name === disk.name && (serial ?? null) === disk.serial))
    return undefined;
  const which = among.length === 0 ? 'none' : among.map(diskMark).join(', ');
  return { path: '/disk', sentence: `This route cannot write to that disk: it can write to ${which}.` };
}

/** Why that room cannot be given to a second system; undefined when it can, or none is chosen. */
export function whyRoomUnfit(
  { facts, catalogue }: DecideInput,
  { routeId, releaseId }: Pick<Candidate, 'routeId' | 'releaseId'>,
  room: ChosenRoom | null,
): Unfit | undefined {
  if (room === null) return undefined;
  if (routeId !== 'beside-same-disk')
    return {
      path: '/room',
      sentence: 'Only a second system on the same disk gets room beside the present one.',
    };
  const release = findRelease(catalogue, releaseId ?? undefined);
  const needed = release ? roomNeededBytes(release.systemBytes) : 0;
  if (room.bytes < needed)
    return {
      path: '/room/bytes',
      sentence: `The system needs ${printBothUnits(needed)}, and ${printBothUnits(room.bytes)} are wanted.`,
    };
  const disk = systemDisk(valueOf(facts, 'disks'));
  if (!disk)
    return { path: '/room', sentence: 'Which disk carries the system is not known: mark it on Survey.' };
  const { fromPartition } = room;
  const partition = disk.partitions.find(({ number }) => number === fromPartition);
  if (fromPartition !== null && !partition)
    return { path: '/room/fromPartition', sentence: `The disk has no partition ${fromPartition}.` };
  const gives = partition ? shrinkableBytes(disk, partition) : largestFreeRunBytes(disk);
  if (gives === undefined)
    return {
      path: '/room/fromPartition',
      sentence: `How much of partition ${fromPartition ?? 0} is used is not known: type it on Survey.`,
    };
  const source = partition ? `Partition ${partition.number}` : 'The free run';
  return gives >= room.bytes
    ? undefined
    : {
        path: '/room/bytes',
        sentence: `${source} can give ${printBothUnits(gives)}, and ${printBothUnits(room.bytes)} are wanted.`,
      };
}
