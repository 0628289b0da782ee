import type { ProblemCode } from '../outcome/problemCodes';
import type { Problem } from '../outcome/outcome';
import { diskMark, type Disk } from '../survey/disk';
import { whyNotTold, type DiskMarks } from './marks';
import type { Operation } from './layout/operation';
import { calledBy, type TablePartition } from './table/partitionTable';

type GuardContext = {
  /** The disk that is to be changed, and the one that the route writes to. */
  readonly disk: Disk;
  readonly target: Disk | undefined;
  readonly marks: DiskMarks | null;
  readonly partitions: readonly TablePartition[];
  readonly operations: readonly Operation[];
  /** Numbers of the partitions that the route promised to keep. */
  readonly promised: ReadonlySet<number>;
  /** Data sets for which fewer copies are planned than the house asks for. */
  readonly short: readonly { readonly name: string; readonly planned: number; readonly needed: number }[];
};

/**
 * Why a plan for a disk cannot be made: another disk, a disk that is not identified by serial number and size, a partition
 * that is to be kept, data without the copies that the house asks for. Empty when it can.
 */
export function guardDisk(context: GuardContext): readonly Problem[] {
  const { disk, target, marks, operations, promised, short } = context;
  const problems: Problem[] = [];
  const add = (code: ProblemCode, path: string, sentence: string) => problems.push({ code, path, sentence });
  if (!target)
    add(
      'no-target',
      '',
      'Which disk is to be written cannot be told from the survey: mark the system partition among the disks.',
    );
  else if (target.name !== disk.name)
    add(
      'other-disk',
      '',
      `Disk ${diskMark(disk)} is not to be touched: this move writes to ${diskMark(target)}.`,
    );
  const told = whyNotTold(disk, marks);
  if (told !== undefined) add('not-told', '/preparation/diskMarks', told);
  for (const operation of operations) {
    // What is formatted was created just before, at a place of its own: only that place counts, never its number.
    if (operation.kind !== 'delete' && operation.kind !== 'format') continue;
    const partition = context.partitions.find(({ number, startLba }) =>
      operation.kind === 'delete' ? number === operation.partition : startLba === operation.startLba,
    );
    if (partition && promised.has(partition.number))
      add(
        'promised',
        `/partitions/${partition.number}`,
        `${calledBy(partition)} would be erased, and the route promised to keep it.`,
      );
  }
  for (const { name, planned, needed } of short)
    add(
      'not-copied',
      '/dataSets',
      `${name} goes to ${planned} of the ${needed} ${needed === 1 ? 'copy' : 'copies'} that the house asks for: choose a destination for it on Save.`,
    );
  return problems;
}
