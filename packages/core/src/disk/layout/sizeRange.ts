import type { Outcome } from '../../outcome/outcome';
import { printBothUnits } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import {
  calledBy,
  endLba,
  inSentence,
  type PartitionTable,
  type TablePartition,
} from '../table/partitionTable';
import { areasOf, minSectors } from './areas';
import { maxRoom } from './arrange';
import { planSteps } from './choices';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { refusePlan } from './layoutPlan';
import { moveRisk } from './operation';
import { placeForData } from './planSplit';

/** The sizes that a goal can have on a disk, with the reasons for both ends. Bytes, whole MiB. */
export type SizeRange = {
  readonly minBytes: number;
  readonly maxBytes: number;
  /** False where more may be possible and was not found. */
  readonly proven: boolean;
  readonly minBecause: string;
  readonly maxBecause: string;
};

/**
 * What can be asked for: the room that can be had at most, or what a system can come down to. Refused for goals
 * without a size, and where nothing can be planned at all.
 */
export function sizeRange(
  table: PartitionTable,
  goal: Pick<LayoutPlanGoal, 'kind'> & { readonly partition?: number | undefined },
  options: LayoutOptions = {},
): Outcome<SizeRange> {
  const { sectorSizeBytes } = table;
  const align = alignmentSectors(sectorSizeBytes);
  if (goal.kind === 'split') {
    const system = table.partitions.find(({ role, number }) =>
      goal.partition === undefined ? role === 'system' : number === goal.partition,
    );
    if (!system) return refusePlan('no-system', '', 'Say which partition carries the system.');
    const min = minSectors(system, sectorSizeBytes);
    const area = areasOf(table, options, moveRisk).find(({ pieces }) =>
      pieces.some(({ partition }) => partition === system),
    );
    // A MiB less at a time, until one is left for data behind the new end.
    let max = system.sectorCount - align;
    while (area && max > min && placeForData(area, system, system.startLba + max).sectorCount < align)
      max -= align;
    return {
      ok: true,
      value: {
        minBytes: min * sectorSizeBytes,
        maxBytes: Math.max(min, max) * sectorSizeBytes,
        proven: true,
        minBecause: whyNotLess(system, sectorSizeBytes),
        maxBecause: 'Less than 1 MiB would be left for data.',
      },
    };
  }
  if (goal.kind !== 'room' && goal.kind !== 'installer-partition')
    return refusePlan('no-size', '', 'This goal takes what there is.');
  const budget = { left: planSteps };
  const rooms = areasOf(table, options, moveRisk)
    .filter(({ hasFreeEntry }) => hasFreeEntry)
    .map((area) => maxRoom(area, budget));
  const max = Math.max(0, ...rooms.map(({ sectors }) => sectors));
  const proven = rooms.every((one) => one.proven);
  return {
    ok: true,
    value: {
      minBytes: align * sectorSizeBytes,
      maxBytes: max * sectorSizeBytes,
      proven,
      minBecause: 'Partitions are whole MiB.',
      maxBecause: proven
        ? 'More is not free, and what may be shrunk and moved does not give it.'
        : 'More was not found; not every way among so many partitions was tried.',
    },
  };
}

function whyNotLess(partition: TablePartition, sectorSizeBytes: number): string {
  const name = calledBy(partition);
  if (partition.encrypted) return `${name} is encrypted: its free space cannot be told from outside.`;
  if (partition.usedBytes === undefined)
    return `How much of ${inSentence(partition)} is used is not known, so it keeps its ${printBothUnits(partition.sectorCount * sectorSizeBytes)}.`;
  const min = minSectors(partition, sectorSizeBytes) * sectorSizeBytes;
  return partition.lastImmovableByte !== undefined && partition.lastImmovableByte >= min - 2 * 1024 ** 2
    ? `A block that cannot be moved is at ${printBothUnits(partition.lastImmovableByte)} of ${inSentence(partition)}.`
    : `${name} has ${printBothUnits(partition.usedBytes)} in use; with a tenth to spare it keeps ${printBothUnits(min)}, to sector ${endLba({ ...partition, sectorCount: min / sectorSizeBytes }) - 1}.`;
}
