import { dequal } from 'dequal';
import { describeDisk, describeFact, factTexts } from './describe';
import { partitionBytes, type Disk } from './disk';
import { factKeys, valueOf, type FactKey, type Facts } from './facts';
import { printBothUnits } from '../quantity/bytes';

type FactChange = {
  readonly key: FactKey;
  readonly label: string;
  /** Reading form of the value before; null when it was unknown. */
  readonly before: string | null;
  readonly after: string;
};

/**
 * What taking a new survey would change, fact by fact; a disk is compared part by part.
 * Facts that the new survey does not carry keep their value and are not listed.
 */
export function compareFacts(known: Facts, taken: Facts): readonly FactChange[] {
  return factKeys.flatMap((key): FactChange[] => {
    const after = valueOf(taken, key);
    if (after === undefined) return [];
    const before = valueOf(known, key);
    if (dequal(before, after)) return [];
    if (key === 'disks') return compareDisks(valueOf(known, 'disks') ?? [], valueOf(taken, 'disks') ?? []);
    return [
      {
        key,
        label: factTexts[key].label,
        before: before === undefined ? null : describeFact(key, before),
        after: describeFact(key, after),
      },
    ];
  });
}

function nameOf(disk: Disk): string {
  return disk.serial ?? disk.name;
}

function compareDisks(before: readonly Disk[], after: readonly Disk[]): FactChange[] {
  const changes: FactChange[] = [];
  const change = (label: string, was: string | null, is: string) =>
    changes.push({ key: 'disks', label, before: was, after: is });
  for (const disk of after) {
    const old = before.find((other) => nameOf(other) === nameOf(disk));
    const label = `Disk ${nameOf(disk)}`;
    if (!old) {
      change(label, null, describeDisk(disk));
      continue;
    }
    if (describeDisk(old) !== describeDisk(disk) || old.health !== disk.health)
      change(label, withHealth(old), withHealth(disk));
    for (const partition of disk.partitions) {
      const was = old.partitions.find(({ number }) => number === partition.number);
      const is = describePartition(disk, partition);
      const wasText = was ? describePartition(old, was) : null;
      if (wasText !== is) change(`${label}, partition ${partition.number}`, wasText, is);
    }
    for (const gone of old.partitions.filter(
      ({ number }) => !disk.partitions.some((other) => other.number === number),
    ))
      change(`${label}, partition ${gone.number}`, describePartition(old, gone), 'gone');
  }
  for (const gone of before.filter((disk) => !after.some((other) => nameOf(other) === nameOf(disk))))
    change(`Disk ${nameOf(gone)}`, describeDisk(gone), 'gone');
  return changes;
}

function withHealth(disk: Disk): string {
  return disk.health ? `${describeDisk(disk)}, health ${disk.health}` : describeDisk(disk);
}

function describePartition(disk: Disk, partition: Disk['partitions'][number]): string {
  const used = partition.usedBytes === undefined ? '' : `, ${printBothUnits(partition.usedBytes)} used`;
  const names = [partition.label, partition.fileSystem, partition.role].filter(Boolean).join(' ');
  return `${printBothUnits(partitionBytes(disk, partition))} from sector ${partition.startLba}${names ? `, ${names}` : ''}${used}`;
}
