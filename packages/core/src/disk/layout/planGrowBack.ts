import type { Outcome, Problem } from '../../outcome/outcome';
import { printBothUnits } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import { calledBy, inDiskOrder, type PartitionTable } from '../table/partitionTable';
import { areasOf, type Area } from './areas';
import { arrange } from './arrange';
import { planSteps } from './choices';
import { carryOut } from './carryOut';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { finishPlan, refusePlan, type LayoutPlan } from './layoutPlan';
import { moveRisk, type Operation } from './operation';

/** Partitions are deleted, and another one gets their room, past what stands between. */
export function planGrowBack(
  table: PartitionTable,
  goal: Extract<LayoutPlanGoal, { readonly kind: 'grow-back' }>,
  options: LayoutOptions,
): Outcome<LayoutPlan> {
  const removed = table.partitions.filter(({ number }) => goal.remove.includes(number));
  const stops = removed.flatMap((partition): readonly Problem[] => {
    const why =
      partition.number === goal.partition
        ? 'It is to grow and to go at once.'
        : (options.locked?.get(partition.number) ??
          (options.promised?.has(partition.number) ? 'The route promised to keep it.' : undefined));
    return why === undefined
      ? []
      : [
          {
            code: 'promised',
            path: `/partitions/${partition.number}`,
            sentence: `${calledBy(partition)} cannot be deleted. ${why}`,
          },
        ];
  });
  if (stops.length > 0) return { ok: false, problems: stops };
  const left = { ...table, partitions: table.partitions.filter((partition) => !removed.includes(partition)) };
  const align = alignmentSectors(table.sectorSizeBytes);
  const areas = areasOf(left, options, moveRisk);
  const area = areas.find(({ pieces }) =>
    pieces.some(({ partition }) => partition.number === goal.partition),
  );
  const grown = left.partitions.find(({ number }) => number === goal.partition);
  if (!area || !grown)
    return refusePlan(
      'no-such-partition',
      `/partitions/${goal.partition}`,
      'The partition to grow is not there.',
    );
  const lockedBy = options.locked?.get(grown.number);
  if (lockedBy !== undefined) return refusePlan('locked', `/partitions/${grown.number}`, lockedBy);
  // What the removed ones held in whole units, and whatever is free beside the partition already.
  const gained = removed.reduce((sum, { sectorCount }) => sum + Math.floor(sectorCount / align) * align, 0);
  const wanted = grown.sectorCount + gained;
  const withWish: Area = {
    ...area,
    pieces: area.pieces.map((piece) =>
      piece.partition.number === grown.number ? { ...piece, wantedSectors: wanted } : piece,
    ),
  };
  const search = gained > 0 ? arrange(withWish, 0, { left: planSteps }) : undefined;
  const arrangement = search?.found;
  if (!arrangement)
    return refusePlan(
      'cannot-grow',
      `/partitions/${grown.number}`,
      gained === 0
        ? 'Nothing is deleted, so nothing comes back.'
        : `${calledBy(grown)} cannot get the ${printBothUnits(gained * table.sectorSizeBytes)}: what is between cannot be moved out of the way${options.allowMoves === false ? ', and moves are not allowed here' : ''}.`,
    );
  const { partitions, operations } = carryOut(withWish, arrangement, left);
  return finishPlan(table, goal, options, {
    after: { ...left, partitions: inDiskOrder(partitions) },
    operations: [
      ...removed.map(({ number }): Operation => ({ kind: 'delete', partition: number })),
      ...operations,
    ],
    proven: search?.proven === true,
  });
}
