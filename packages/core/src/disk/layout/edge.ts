import { printBothUnits } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import { calledBy, endLba, inSentence, type TablePartition } from '../table/partitionTable';
import { leastSectors } from './areas';
import type { LayoutPlanGoal } from './goal';
import type { LayoutPlan } from './layoutPlan';

/** The edge of a plan that can be drawn: between what shrinks and what gets the room. */
export type PlanEdge = {
  readonly partition: number;
  readonly atLba: number;
  readonly leastLba: number;
  readonly mostLba: number;
  readonly stepLba: number;
  /** Why it goes no further that way. */
  readonly leastBecause: string;
  readonly mostBecause: string;
  /** The goal with the edge at another sector. */
  readonly goalAt: (lba: number) => LayoutPlanGoal;
};

/**
 * The edge that a plan may be changed by with the pointer or the arrow keys, with its limits and their reasons;
 * undefined where nothing stands behind a shrunk partition. Sectors, whole MiB.
 */
export function edgeOf({ goal, before, after, operations, room }: LayoutPlan): PlanEdge | undefined {
  const { sectorSizeBytes } = before;
  const stepLba = alignmentSectors(sectorSizeBytes);
  const created = operations.find(({ kind }) => kind === 'create');
  const behind = room ?? (created?.kind === 'create' ? created : undefined);
  if (!behind || (goal.kind !== 'split' && goal.kind !== 'room' && goal.kind !== 'installer-partition'))
    return undefined;
  if (operations.some(({ kind }) => kind === 'move')) return undefined;
  const partition = after.partitions
    .filter(
      (one) =>
        one.startLba !== (created?.kind === 'create' ? created.startLba : -1) &&
        one.startLba < behind.startLba,
    )
    .at(-1);
  const old = before.partitions.find(({ startLba }) => startLba === partition?.startLba);
  if (!partition || !old) return undefined;
  const endOfRoom = behind.startLba + behind.sectorCount;
  const least = Math.ceil((old.startLba + leastSectors(old, sectorSizeBytes)) / stepLba) * stepLba;
  return {
    partition: old.number,
    atLba: behind.startLba,
    leastLba: least,
    mostLba: endOfRoom - stepLba,
    stepLba,
    leastBecause: whyNotLess(old, sectorSizeBytes),
    mostBecause:
      goal.kind === 'split'
        ? 'Less than 1 MiB would be left for data.'
        : 'Less than 1 MiB would be left behind it.',
    goalAt: (lba) =>
      goal.kind === 'split'
        ? { ...goal, systemBytes: (lba - old.startLba) * sectorSizeBytes }
        : { ...goal, sizeBytes: (endOfRoom - lba) * sectorSizeBytes },
  };
}

function whyNotLess(partition: TablePartition, sectorSizeBytes: number): string {
  const name = calledBy(partition);
  if (partition.encrypted) return `${name} is encrypted: its free space cannot be told from outside.`;
  if (partition.usedBytes === undefined)
    return `How much of ${inSentence(partition)} is used is not known, so it keeps its ${printBothUnits(partition.sectorCount * sectorSizeBytes)}.`;
  const least = leastSectors(partition, sectorSizeBytes) * sectorSizeBytes;
  return partition.lastImmovableByte !== undefined && partition.lastImmovableByte >= least - 2 * 1024 ** 2
    ? `A block that cannot be moved stands at ${printBothUnits(partition.lastImmovableByte)} of ${inSentence(partition)}.`
    : `${name} has ${printBothUnits(partition.usedBytes)} in use; with a tenth to spare it keeps ${printBothUnits(least)}, to sector ${endLba({ ...partition, sectorCount: least / sectorSizeBytes }) - 1}.`;
}
