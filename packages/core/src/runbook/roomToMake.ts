import { largestFreeRunBytes, roomNeededBytes } from '../disk/room';
import { installerPartitionBytes } from '../route/installerMedia';
import { systemPartition, type Disk } from '../survey/disk';
import { ownDisk } from '../survey/emptyDevice';
import { valueOf } from '../survey/facts';
import type { StepInput } from './input';

type Given = Pick<StepInput, 'facts' | 'route' | 'release' | 'room' | 'installerMedium' | 'diskWork'>;

/** Bytes that the second system gets: those that were chosen, else what its release asks for. */
export function roomBesideBytes({ release, room }: Pick<StepInput, 'release' | 'room'>): number | undefined {
  return room?.bytes ?? (release && roomNeededBytes(release.systemBytes));
}

/** Bytes that the plan puts on the system's disk beside what is there: a second system, and the installer's partition. */
function neededBytes(input: Given): number {
  const { route, release, installerMedium, diskWork } = input;
  const beside = route.id === 'beside-same-disk' ? (roomBesideBytes(input) ?? 0) : 0;
  const isPlanned = diskWork?.work.kind === 'layout' && diskWork.work.goal.kind === 'installer-partition';
  const installer =
    installerMedium === 'disk-partition' && route.steps.includes('write-stick') && release && !isPlanned
      ? installerPartitionBytes(release)
      : 0;
  return beside + installer;
}

/** Whether a free run takes all that the plan puts on the disk, as it is: none is made then. */
export function hasRoom(disk: Disk, input: Given): boolean {
  const bytes = neededBytes(input);
  return bytes > 0 && input.room?.fromPartition == null && largestFreeRunBytes(disk) >= bytes;
}

/**
 * The one shrink that makes room for all that a plan puts on the system's disk; undefined where none is needed.
 * `partition` is the chosen one, else the system's; undefined where nobody has marked that.
 */
export function roomToMake(
  input: Given,
): { readonly bytes: number; readonly partition: number | undefined } | undefined {
  const bytes = neededBytes(input);
  const disk = ownDisk(input.facts);
  if (bytes === 0 || (disk && hasRoom(disk, input))) return undefined;
  return {
    bytes,
    // Where no disk is known yet, the one that is to be told has a partition with the system.
    partition:
      input.room?.fromPartition ??
      (valueOf(input.facts, 'disks') === undefined ? 1 : systemPartition(disk)?.number),
  };
}
