import { isFixed, systemDisk, type Disk } from './disk';
import { isEmptyDevice, noSystem, valueOf, type Facts } from './facts';

/**
 * What a survey proposes for the present system where none was running: none, when no fixed disk has a partition. A disk
 * whose table could not be read may have some.
 */
export function proposedSystem(disks: readonly Disk[] | undefined): typeof noSystem | undefined {
  const fixed = disks?.filter(isFixed) ?? [];
  return fixed.length > 0 &&
    fixed.every(({ scheme, partitions }) => scheme !== undefined && partitions.length === 0)
    ? noSystem
    : undefined;
}

/** What follows where no system is on a device: nothing is encrypted by it, and none lies asleep. */
export function withImplied(facts: Facts): Facts {
  if (!isEmptyDevice(facts) || !facts.presentRelease) return facts;
  const { source, at } = facts.presentRelease;
  const off = { value: 'off' as const, source, at };
  return { ...facts, diskEncryption: facts.diskEncryption ?? off, fastStart: facts.fastStart ?? off };
}

/**
 * The disk that a system lies on, or is to lie on where there is none: the only fixed disk, else the only one without a
 * partition. Undefined when it cannot be told.
 */
export function ownDisk(facts: Facts): Disk | undefined {
  const disks = valueOf(facts, 'disks');
  const own = systemDisk(disks);
  if (own || !isEmptyDevice(facts)) return own;
  const blank = disks?.filter((disk) => isFixed(disk) && disk.partitions.length === 0) ?? [];
  return blank.length === 1 ? blank[0] : undefined;
}
