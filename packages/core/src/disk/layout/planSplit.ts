import type { Outcome } from '../../outcome/outcome';
import { mebibyteBytes, printBothUnits, printBytes } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import { calledBy, inSentence, type PartitionTable, type TablePartition } from '../table/partitionTable';
import { areasOf, minSectors, type Area } from './areas';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { finishPlan, refusePlan, withEntries, type LayoutPlan } from './layoutPlan';
import { entryFor } from './newEntry';
import { moveRisk } from './operation';

/** The system comes down to a size, and data get what is free behind it. */
export function planSplit(
  table: PartitionTable,
  goal: Extract<LayoutPlanGoal, { readonly kind: 'split' }>,
  options: LayoutOptions,
): Outcome<LayoutPlan> {
  const system = table.partitions.find(({ role, number }) =>
    goal.partition === undefined ? role === 'system' : number === goal.partition,
  );
  if (!system)
    return refusePlan(
      'no-system',
      '',
      'Which partition carries the system is not known: mark it among the disks on Survey.',
    );
  const path = `/partitions/${system.number}`;
  const lockedBy = options.locked?.get(system.number);
  if (lockedBy !== undefined) return refusePlan('locked', path, lockedBy);
  const { sectorSizeBytes } = table;
  const align = alignmentSectors(sectorSizeBytes);
  // Whole MiB are taken away, as a shrink dialog asks for them, and no less is left than was promised.
  const away = Math.floor((system.sectorCount * sectorSizeBytes - goal.systemBytes) / mebibyteBytes);
  const toSectors = system.sectorCount - away * align;
  const end = system.startLba + toSectors;
  const min = minSectors(system, sectorSizeBytes);
  if (system.usedBytes === undefined)
    return refusePlan(
      'used-unknown',
      path,
      `How much of ${inSentence(system)} is used is not known, so it is not shrunk: run the collector while it is mounted, or type it.`,
    );
  if (toSectors < min)
    return refusePlan(
      'below-used',
      path,
      `${calledBy(system)} cannot come down to ${printBothUnits(goal.systemBytes)}: ${printBothUnits(system.usedBytes)} are used${system.lastImmovableByte === undefined ? '' : ` and a block that cannot be moved is at ${printBytes(system.lastImmovableByte, 'decimal')}`}, so with a tenth to spare it needs ${printBothUnits(min * sectorSizeBytes)}.`,
    );
  if (toSectors >= system.sectorCount)
    return refusePlan(
      'nothing-to-split',
      path,
      `${calledBy(system)} has ${printBothUnits(system.sectorCount * sectorSizeBytes)}: nothing would be left for data.`,
    );
  const [area] = areasOf(table, options, moveRisk).filter(({ pieces }) =>
    pieces.some(({ partition }) => partition === system),
  );
  if (!area?.hasFreeEntry)
    return refusePlan(
      'no-free-entry',
      '',
      'The table has no entry left for a data partition: convert it to GPT first, or make one of them logical.',
    );
  const { startLba, sectorCount } = placeForData(area, system, end);
  if (sectorCount < align)
    return refusePlan('nothing-to-split', path, 'Less than 1 MiB would be left for data.');
  const shrunk = {
    ...table,
    partitions: table.partitions.map((one) => (one === system ? { ...one, sectorCount: toSectors } : one)),
  };
  const entry = entryFor(
    shrunk,
    { startLba, sectorCount, purpose: 'data', logical: area.name !== 'disk' },
    options.random,
  );
  return finishPlan(table, goal, options, {
    after: withEntries(shrunk, [entry]),
    operations: [
      { kind: 'shrink', partition: system.number, fromSectors: system.sectorCount, toSectors },
      { kind: 'create', partition: entry.number, startLba, sectorCount, purpose: 'data' },
      {
        kind: 'format',
        partition: entry.number,
        startLba,
        sectorCount,
        purpose: 'data',
        fileSystem: 'the file system that the system reads',
      },
    ],
  });
}

/** The whole MiB between a new end of the system and what stands behind it; of no length where there is no room. */
export function placeForData(
  area: Area,
  { startLba: systemLba }: TablePartition,
  end: number,
): { readonly startLba: number; readonly sectorCount: number } {
  const { alignSectors } = area;
  const next = area.pieces.find(({ startLba }) => startLba > systemLba)?.takenFromLba ?? area.endLba;
  const startLba = Math.ceil((end + area.leadSectors) / alignSectors) * alignSectors;
  return { startLba, sectorCount: Math.max(0, Math.floor(next / alignSectors) * alignSectors - startLba) };
}
