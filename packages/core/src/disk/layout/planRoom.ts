import type { Outcome, Problem } from '../../outcome/outcome';
import { printBothUnits, printBytes } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import { calledBy, inDiskOrder, type PartitionTable, inSentence } from '../table/partitionTable';
import { areasOf, type Area } from './areas';
import { arrange, maxRoom } from './arrange';
import { planSteps } from './choices';
import { carryOut } from './carryOut';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { finishPlan, refusePlan, withEntries, type LayoutPlan } from './layoutPlan';
import { entryFor } from './newEntry';
import { moveRisk } from './operation';

type RoomGoal = Extract<LayoutPlanGoal, { readonly sizeBytes: number }>;

/** A free run for a second system, or for a partition with the installer. */
export function planRoom(table: PartitionTable, goal: RoomGoal, options: LayoutOptions): Outcome<LayoutPlan> {
  const align = alignmentSectors(table.sectorSizeBytes);
  const windowSectors = Math.ceil(goal.sizeBytes / table.sectorSizeBytes / align) * align;
  const areas = areasOf(table, options, moveRisk);
  const budget = { left: planSteps };
  const searches = areas
    .filter(({ hasFreeEntry }) => hasFreeEntry)
    .map((area) => ({ area, search: arrange(area, windowSectors, budget) }));
  const proven = searches.every(({ search }) => search.proven);
  const found = searches
    .flatMap(({ area, search }) => (search.found ? [{ area, arrangement: search.found }] : []))
    .sort(
      (a, b) =>
        a.arrangement.risk - b.arrangement.risk || a.arrangement.movedSectors - b.arrangement.movedSectors,
    )[0];
  const window = found?.arrangement.window;
  if (!found || !window) return noRoom(table, areas, windowSectors, options);
  const { partitions, operations } = carryOut(found.area, found.arrangement, table);
  const changed = { ...table, partitions: inDiskOrder(partitions) };
  if (goal.kind === 'room')
    return finishPlan(table, goal, options, { after: changed, operations, room: window, proven });
  const entry = entryFor(
    changed,
    { ...window, purpose: 'installer', logical: found.area.name !== 'disk' },
    options.random,
  );
  const made = { partition: entry.number, ...window, purpose: 'installer' as const };
  return finishPlan(table, goal, options, {
    after: withEntries(changed, [entry]),
    operations: [
      ...operations,
      { kind: 'create', ...made },
      { kind: 'format', ...made, fileSystem: 'FAT32' },
    ],
    proven,
  });
}

/** Why there is no room, the most that could be had, and what stands between. */
function noRoom(
  table: PartitionTable,
  areas: readonly Area[],
  windowSectors: number,
  options: LayoutOptions,
): Outcome<LayoutPlan> {
  const { sectorSizeBytes } = table;
  const problems: Problem[] = [];
  const usable = areas.filter(({ hasFreeEntry }) => hasFreeEntry);
  if (usable.length === 0)
    return refusePlan(
      'no-free-entry',
      '',
      'All four entries of the MBR are taken: convert the disk to GPT first, or make one of them logical.',
    );
  const budget = { left: planSteps };
  const mosts = usable.map((area) => maxRoom(area, budget));
  const max = Math.max(...mosts.map(({ sectors }) => sectors));
  const proven = mosts.every((one) => one.proven);
  problems.push({
    code: 'no-room',
    path: '',
    sentence: `${printBothUnits(windowSectors * sectorSizeBytes)} in one run ${proven ? 'cannot be had; the most is' : 'were not found; what was found is'} ${printBothUnits(max * sectorSizeBytes)}${proven ? '' : ', and not every way among so many partitions was tried'}.`,
  });
  for (const partition of table.partitions) {
    const path = `/partitions/${partition.number}`;
    const lockedBy = options.locked?.get(partition.number);
    if (lockedBy !== undefined)
      problems.push({ code: 'locked', path, sentence: `${calledBy(partition)} stays as it is: ${lockedBy}` });
    else if (partition.encrypted)
      problems.push({
        code: 'encrypted',
        path,
        sentence: `${calledBy(partition)} is encrypted, so its free space cannot be told from outside.`,
      });
    else if (partition.usedBytes === undefined && partition.sectorCount >= windowSectors)
      problems.push({
        code: 'used-unknown',
        path,
        sentence: `How much of ${inSentence(partition)} is used is not known, so it is not shrunk: run the collector while it is mounted, or type it.`,
      });
    else if (partition.lastImmovableByte !== undefined && partition.sectorCount >= windowSectors)
      problems.push({
        code: 'immovable',
        path,
        sentence: `A block at ${printBytes(partition.lastImmovableByte, 'decimal')} of ${inSentence(partition)} cannot be moved: page file and hibernation off, restart, and read the disk again.`,
      });
  }
  if (options.allowMoves === false) {
    const moving = planRoom(
      table,
      { kind: 'room', sizeBytes: windowSectors * sectorSizeBytes },
      { ...options, allowMoves: true },
    );
    if (moving.ok)
      for (const operation of moving.value.operations) {
        if (operation.kind !== 'move') continue;
        const partition = table.partitions.find(({ number }) => number === operation.partition);
        problems.push({
          code: 'stands-between',
          path: `/partitions/${operation.partition}`,
          sentence: `${partition ? calledBy(partition) : `Partition ${operation.partition}`} is between; move ${printBytes(operation.sectorCount * sectorSizeBytes, 'decimal')}, and there would be room.`,
        });
      }
  }
  return { ok: false, problems };
}
