import type { Outcome, Problem } from '../../outcome/outcome';
import { printBothUnits, printBytes } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import {
  inDiskOrder,
  tableBytes,
  calledBy,
  type PartitionTable,
  type TablePartition,
} from '../table/partitionTable';
import { areasOf, leastSectors, type Area } from './areas';
import { arrange, mostRoom, type Arrangement } from './arrange';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { layOutNew } from './layOutNew';
import { entryFor } from './newEntry';
import { describeOperation, moveRisk, riskPoints, type Operation, type PlannedOperation } from './operation';

export type LayoutPlan = {
  readonly goal: LayoutPlanGoal;
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  /** In the order in which they are done; empty when the disk is like that already. */
  readonly operations: readonly PlannedOperation[];
  readonly risk: number;
  readonly movedBytes: number;
  readonly minutes: number;
  /** The free run that was asked for. */
  readonly room?: { readonly startLba: number; readonly sectorCount: number };
  readonly sentence: string;
};

/** A spinning disk that reads and writes at once, where nothing better is known. */
const slowBytesPerSecond = 60_000_000;

/**
 * Plans the operations that bring a disk to a goal, with the least risk and then the fewest bytes moved
 * (decision 0016 says how, and why it is right).
 * @returns the plan, or what stands in the way and what would change that
 */
export function planLayout(
  table: PartitionTable,
  goal: LayoutPlanGoal,
  options: LayoutOptions = {},
): Outcome<LayoutPlan> {
  const damage = table.findings.filter(({ weight }) => weight === 'damage');
  if (damage.length > 0 && goal.kind !== 'wipe')
    return { ok: false, problems: damage.map(({ code, path, sentence }) => ({ code, path, sentence })) };
  if (table.scheme === 'none' && goal.kind !== 'wipe')
    return refuse('no-table', '', 'There is no partition table on this disk: lay it out new.');
  const wrong = wrongNumber(table, goal);
  if (wrong) return { ok: false, problems: [wrong] };
  switch (goal.kind) {
    case 'wipe':
    case 'standard': {
      const laid = layOutNew(table, goal, options);
      return laid.ok ? finish(table, goal, options, laid.value.after, laid.value.operations) : laid;
    }
    case 'split':
      return planSplit(table, goal, options);
    case 'grow-back':
      return planGrowBack(table, goal, options);
    case 'room':
    case 'installer-partition':
      return planRoom(table, goal, options);
  }
}

const refuse = (
  code: string,
  path: string,
  sentence: string,
): { readonly ok: false; readonly problems: readonly Problem[] } => ({
  ok: false,
  problems: [{ code, path, sentence }],
});

/** Sizes are whole bytes, 1 MiB or more; partitions that are named are there. */
function wrongNumber(table: PartitionTable, goal: LayoutPlanGoal): Problem | undefined {
  const bytes = goal.kind === 'split' ? goal.systemBytes : 'sizeBytes' in goal ? goal.sizeBytes : undefined;
  if (bytes !== undefined && (!Number.isSafeInteger(bytes) || bytes < 1024 ** 2))
    return { code: 'size-too-small', path: '/goal', sentence: 'Give a size of 1 MiB or more.' };
  if (bytes !== undefined && bytes > tableBytes(table))
    return {
      code: 'larger-than-disk',
      path: '/goal',
      sentence: `${printBothUnits(bytes)} are asked for, and the whole disk has ${printBothUnits(tableBytes(table))}.`,
    };
  const named = goal.kind === 'grow-back' ? [goal.partition, ...goal.remove] : [];
  const missing = named.find((number) => !table.partitions.some((partition) => partition.number === number));
  return missing === undefined
    ? undefined
    : {
        code: 'no-such-partition',
        path: `/partitions/${missing}`,
        sentence: `There is no partition ${missing} on this disk.`,
      };
}

type RoomGoal = Extract<LayoutPlanGoal, { readonly sizeBytes: number }>;

function planRoom(table: PartitionTable, goal: RoomGoal, options: LayoutOptions): Outcome<LayoutPlan> {
  const align = alignmentSectors(table.sectorSizeBytes);
  const windowSectors = Math.ceil(goal.sizeBytes / table.sectorSizeBytes / align) * align;
  const areas = areasOf(table, options, moveRisk);
  const found = areas
    .filter(({ hasFreeEntry }) => hasFreeEntry)
    .flatMap((area) => {
      const arrangement = arrange(area, windowSectors);
      return arrangement ? [{ area, arrangement }] : [];
    })
    .sort(
      (a, b) =>
        a.arrangement.risk - b.arrangement.risk || a.arrangement.movedSectors - b.arrangement.movedSectors,
    )[0];
  const window = found?.arrangement.window;
  if (!found || !window) return noRoom(table, areas, windowSectors, options);
  const { partitions, operations } = carryOut(found.area, found.arrangement, table);
  const changed = { ...table, partitions: inDiskOrder(partitions) };
  if (goal.kind === 'room') return finish(table, goal, options, changed, operations, window);
  const entry = entryFor(
    changed,
    { ...window, purpose: 'installer', logical: found.area.name !== 'disk' },
    options.random,
  );
  return finish(table, goal, options, withEntries(changed, [entry]), [
    ...operations,
    { kind: 'create', partition: entry.number, ...window, purpose: 'installer' },
    { kind: 'format', partition: entry.number, fileSystem: 'FAT32' },
  ]);
}

/** An arrangement as operations, shrinks first, then moves, then growth; and the partitions after them. */
function carryOut(
  area: Area,
  arrangement: Arrangement,
  table: PartitionTable,
): { readonly partitions: readonly TablePartition[]; readonly operations: readonly Operation[] } {
  const shrinks: Operation[] = [];
  const grows: Operation[] = [];
  const changed = new Map<number, TablePartition>();
  area.pieces.forEach((piece, index) => {
    const at = arrangement.placed[index];
    if (!at || (at.startLba === piece.startLba && at.sectorCount === piece.sectorCount)) return;
    const step = {
      partition: piece.partition.number,
      fromSectors: piece.sectorCount,
      toSectors: at.sectorCount,
    };
    if (at.sectorCount < piece.sectorCount) shrinks.push({ kind: 'shrink', ...step });
    if (at.sectorCount > piece.sectorCount) grows.push({ kind: 'grow', ...step });
    const moved = at.startLba !== piece.startLba && piece.partition.kind === 'logical';
    changed.set(piece.partition.number, {
      ...piece.partition,
      ...at,
      ...(moved ? { ebrLba: at.startLba - 1 } : {}),
    });
  });
  const moves = arrangement.moves.flatMap((index): readonly Operation[] => {
    const piece = area.pieces[index];
    const at = arrangement.placed[index];
    return piece && at && at.startLba !== piece.startLba
      ? [
          {
            kind: 'move',
            partition: piece.partition.number,
            fromLba: piece.startLba,
            toLba: at.startLba,
            sectorCount: Math.min(piece.sectorCount, at.sectorCount),
          },
        ]
      : [];
  });
  return {
    partitions: table.partitions.map((partition) => changed.get(partition.number) ?? partition),
    operations: [...shrinks, ...moves, ...grows],
  };
}

export function withEntries(table: PartitionTable, entries: readonly TablePartition[]): PartitionTable {
  return { ...table, partitions: inDiskOrder([...table.partitions, ...entries]) };
}

function planSplit(
  table: PartitionTable,
  goal: Extract<LayoutPlanGoal, { readonly kind: 'split' }>,
  options: LayoutOptions,
): Outcome<LayoutPlan> {
  const system = table.partitions.find(({ role }) => role === 'system');
  if (!system)
    return refuse(
      'no-system',
      '',
      'Which partition carries the system is not known: mark it among the disks on Survey.',
    );
  const path = `/partitions/${system.number}`;
  const lockedBy = options.locked?.get(system.number);
  if (lockedBy !== undefined) return refuse('locked', path, lockedBy);
  const { sectorSizeBytes } = table;
  const align = alignmentSectors(sectorSizeBytes);
  const end = Math.ceil((system.startLba + goal.systemBytes / sectorSizeBytes) / align) * align;
  const toSectors = end - system.startLba;
  const least = leastSectors(system, sectorSizeBytes);
  if (system.usedBytes === undefined)
    return refuse(
      'used-unknown',
      path,
      `How much of ${calledBy(system).toLowerCase()} is used is not known, so it is not shrunk: run the collector while it is mounted, or type it.`,
    );
  if (toSectors < least)
    return refuse(
      'below-used',
      path,
      `${calledBy(system)} cannot come down to ${printBothUnits(goal.systemBytes)}: ${printBothUnits(system.usedBytes)} are used${system.lastImmovableByte === undefined ? '' : ` and a block that cannot be moved stands at ${printBytes(system.lastImmovableByte, 'decimal')}`}, so with a tenth to spare it needs ${printBothUnits(least * sectorSizeBytes)}.`,
    );
  if (toSectors >= system.sectorCount)
    return refuse(
      'nothing-to-split',
      path,
      `${calledBy(system)} has ${printBothUnits(system.sectorCount * sectorSizeBytes)}: nothing would be left for data.`,
    );
  const [area] = areasOf(table, options, moveRisk).filter(({ pieces }) =>
    pieces.some(({ partition }) => partition === system),
  );
  if (!area?.hasFreeEntry)
    return refuse(
      'no-free-entry',
      '',
      'The table has no entry left for a data partition: convert it to GPT first, or make one of them logical.',
    );
  const next = area.pieces.find(({ startLba }) => startLba > system.startLba)?.takenFromLba ?? area.endLba;
  const startLba = Math.ceil((end + area.leadSectors) / align) * align;
  const sectorCount = Math.floor(next / align) * align - startLba;
  if (sectorCount < align) return refuse('nothing-to-split', path, 'Less than 1 MiB would be left for data.');
  const shrunk = {
    ...table,
    partitions: table.partitions.map((one) => (one === system ? { ...one, sectorCount: toSectors } : one)),
  };
  const entry = entryFor(
    shrunk,
    { startLba, sectorCount, purpose: 'data', logical: area.name !== 'disk' },
    options.random,
  );
  return finish(table, goal, options, withEntries(shrunk, [entry]), [
    { kind: 'shrink', partition: system.number, fromSectors: system.sectorCount, toSectors },
    { kind: 'create', partition: entry.number, startLba, sectorCount, purpose: 'data' },
    { kind: 'format', partition: entry.number, fileSystem: 'the file system that the system reads' },
  ]);
}

function planGrowBack(
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
    return refuse(
      'no-such-partition',
      `/partitions/${goal.partition}`,
      'The partition to grow is not there.',
    );
  const lockedBy = options.locked?.get(grown.number);
  if (lockedBy !== undefined) return refuse('locked', `/partitions/${grown.number}`, lockedBy);
  // What the removed ones held in whole units, and whatever is free beside the partition already.
  const gained = removed.reduce((sum, { sectorCount }) => sum + Math.floor(sectorCount / align) * align, 0);
  const wanted = grown.sectorCount + gained;
  const withWish: Area = {
    ...area,
    pieces: area.pieces.map((piece) =>
      piece.partition.number === grown.number ? { ...piece, wantedSectors: wanted } : piece,
    ),
  };
  const arrangement = gained > 0 ? arrange(withWish, 0) : undefined;
  if (!arrangement)
    return refuse(
      'cannot-grow',
      `/partitions/${grown.number}`,
      gained === 0
        ? 'Nothing is deleted, so nothing comes back.'
        : `${calledBy(grown)} cannot get the ${printBothUnits(gained * table.sectorSizeBytes)}: what stands between cannot be moved out of the way${options.allowMoves === false ? ', and moves are not allowed here' : ''}.`,
    );
  const { partitions, operations } = carryOut(withWish, arrangement, left);
  return finish(table, goal, options, { ...left, partitions: inDiskOrder(partitions) }, [
    ...removed.map(({ number }): Operation => ({ kind: 'delete', partition: number })),
    ...operations,
  ]);
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
    return refuse(
      'no-free-entry',
      '',
      'All four entries of the MBR are taken: convert the disk to GPT first, or make one of them logical.',
    );
  const most = usable.reduce((best, area) => Math.max(best, mostRoom(area)), 0);
  problems.push({
    code: 'no-room',
    path: '',
    sentence: `${printBothUnits(windowSectors * sectorSizeBytes)} in one run cannot be had; the most is ${printBothUnits(most * sectorSizeBytes)}.`,
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
        sentence: `How much of ${calledBy(partition).toLowerCase()} is used is not known, so it is not shrunk: run the collector while it is mounted, or type it.`,
      });
    else if (partition.lastImmovableByte !== undefined && partition.sectorCount >= windowSectors)
      problems.push({
        code: 'immovable',
        path,
        sentence: `A block at ${printBytes(partition.lastImmovableByte, 'decimal')} of ${calledBy(partition).toLowerCase()} cannot be moved: page file and hibernation off, restart, and read the disk again.`,
      });
  }
  if (options.allowMoves === false) {
    const moving = planLayout(
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
          sentence: `${partition ? calledBy(partition) : `Partition ${operation.partition}`} stands between; move ${printBytes(operation.sectorCount * sectorSizeBytes, 'decimal')}, and there would be room.`,
        });
      }
  }
  return { ok: false, problems };
}

function finish(
  before: PartitionTable,
  goal: LayoutPlanGoal,
  options: LayoutOptions,
  after: PartitionTable,
  operations: readonly Operation[],
  room?: { readonly startLba: number; readonly sectorCount: number },
): Outcome<LayoutPlan> {
  const speed = {
    sectorSizeBytes: before.sectorSizeBytes,
    bytesPerSecond: options.bytesPerSecond ?? slowBytesPerSecond,
  };
  const partitionOf = (operation: Operation) =>
    'partition' in operation
      ? before.partitions.find(({ number }) => number === operation.partition)
      : undefined;
  const planned = operations.map((operation) => describeOperation(operation, partitionOf(operation), speed));
  const movedBytes = operations.reduce(
    (sum, operation) =>
      sum + (operation.kind === 'move' ? operation.sectorCount * before.sectorSizeBytes : 0),
    0,
  );
  const minutes = planned.reduce((sum, operation) => sum + operation.minutes, 0);
  const risk = planned.reduce((sum, operation) => sum + operation.risk, 0);
  const between = planned.flatMap((operation) => {
    const partition = operation.kind === 'move' ? partitionOf(operation) : undefined;
    return operation.kind === 'move' && partition
      ? [
          `${calledBy(partition)} stands between; ${printBytes(operation.sectorCount * before.sectorSizeBytes, 'decimal')} are moved.`,
        ]
      : [];
  });
  const sentence =
    planned.length === 0
      ? 'The disk is like that already: nothing has to be done.'
      : [
          `${planned.length === 1 ? 'One operation' : `${planned.length} operations`}, about ${minutes} min, ${riskWords(risk)}.`,
          ...between,
        ].join(' ');
  return {
    ok: true,
    value: {
      goal,
      before,
      after: { ...after, findings: [] },
      operations: planned,
      risk,
      movedBytes,
      minutes,
      ...(room ? { room } : {}),
      sentence,
    },
  };
}

function riskWords(risk: number): string {
  if (risk === 0) return 'no risk to what is there';
  return risk < riskPoints.move ? 'little risk' : 'and a move that is broken off loses data';
}
