import type { ProblemCode } from '../../outcome/problemCodes';
import type { Outcome, Problem } from '../../outcome/outcome';
import { printBytes } from '../../quantity/bytes';
import {
  calledBy,
  inDiskOrder,
  inSentence,
  type PartitionTable,
  type TablePartition,
} from '../table/partitionTable';
import { whatBefore, whyNotClosed } from '../leftState';
import { typeOf } from '../table/partitionTypes';
import { checkPlanned } from './checkPlanned';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { describeOperation, type Operation, type PlannedOperation } from './operation';

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
  /** What is done inside the systems before the first operation, the gravest first. */
  readonly first: readonly string[];
  /** No plan with less risk, or the same and fewer bytes moved, exists. */
  readonly proven: boolean;
  readonly sentence: string;
};

/** What a plan comes to, before it is checked and described. */
export type LaidOut = Pick<LayoutPlan, 'after' | 'room'> & {
  readonly operations: readonly Operation[];
  /** Absent where there is nothing to choose from. */
  readonly proven?: boolean;
};

/** One reason why there is no plan. */
export function refusePlan(
  code: ProblemCode,
  path: string,
  sentence: string,
): { readonly ok: false; readonly problems: readonly Problem[] } {
  return { ok: false, problems: [{ code, path, sentence }] };
}

export function withEntries(table: PartitionTable, entries: readonly TablePartition[]): PartitionTable {
  return { ...table, partitions: inDiskOrder([...table.partitions, ...entries]) };
}

/** A plan from its operations: each described, times and risk added up. */
export function finishPlan(
  before: PartitionTable,
  goal: LayoutPlanGoal,
  options: LayoutOptions,
  { after, operations, room, proven = true }: LaidOut,
): Outcome<LayoutPlan> {
  const speed = {
    sectorSizeBytes: before.sectorSizeBytes,
    bytesPerSecond: options.bytesPerSecond,
  };
  const partitionOf = (operation: Operation) =>
    'partition' in operation && operation.kind !== 'create' && operation.kind !== 'format'
      ? before.partitions.find(({ number }) => number === operation.partition)
      : undefined;
  const checked = checkPlanned(after);
  if (!checked.ok) return checked;
  // What is made gets the number that the disk will give it.
  const numbered = operations.map((operation) =>
    operation.kind === 'create' || operation.kind === 'format'
      ? {
          ...operation,
          partition:
            checked.value.partitions.find(({ startLba }) => startLba === operation.startLba)?.number ??
            operation.partition,
        }
      : operation,
  );
  const lastLogical = after.extended
    ? undefined
    : numbered.findLast((operation) => partitionOf(operation)?.kind === 'logical');
  const planned = numbered.map((operation) => {
    const described = describeOperation(operation, partitionOf(operation), speed);
    return operation === lastLogical
      ? { ...described, sentence: `${described.sentence} The extended partition around it goes, too.` }
      : described;
  });
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
          `${calledBy(partition)} is between; ${printBytes(operation.sectorCount * before.sectorSizeBytes, 'decimal')} are moved.`,
        ]
      : [];
  });
  const sentence =
    planned.length === 0
      ? 'The disk is like that already: nothing has to be done.'
      : [
          `${planned.length === 1 ? 'One operation' : `${planned.length} operations`}, about ${minutes} min, ${riskWords(planned)}.`,
          ...between,
          ...(proven
            ? []
            : ['Not every way among so many partitions was tried: there may be one with less risk.']),
        ].join(' ');
  return {
    ok: true,
    value: {
      goal,
      before,
      after: { ...checked.value, findings: [] },
      operations: planned,
      risk,
      movedBytes,
      minutes,
      ...(room ? { room } : {}),
      first: [
        ...beforehand(numbered, before.partitions),
        ...renumberedSentence(before, checked.value, operations),
      ],
      proven,
      sentence,
    },
  };
}

/** What has to be done about partitions that change, before they do: those that go need nothing. */
function beforehand(
  operations: readonly Operation[],
  partitions: readonly TablePartition[],
): readonly string[] {
  const changed = new Set(
    operations.flatMap((operation) =>
      operation.kind === 'shrink' || operation.kind === 'move' || operation.kind === 'grow'
        ? [operation.partition]
        : [],
    ),
  );
  const touched = partitions.filter(({ number }) => changed.has(number));
  return [
    ...touched.map((partition) => whyNotClosed(partition)),
    ...touched.map((partition) => whatBefore(partition)),
    ...touched
      .filter(({ role, typeCode }) => role === 'efi' || typeOf(typeCode)?.purpose === 'efi')
      .map(
        (partition) =>
          `${calledBy(partition)} holds the boot files, and entries of the firmware go by its place: they are made anew after it was moved.`,
      ),
  ].filter((sentence) => sentence !== undefined);
}

/** Who gets another number, as logical partitions do where one is made or goes before them, and what hangs on it. */
function renumberedSentence(
  before: PartitionTable,
  after: PartitionTable,
  operations: readonly Operation[],
): readonly string[] {
  const renumbered = before.partitions.flatMap((partition) => {
    const move = operations.find(
      (operation) => operation.kind === 'move' && operation.partition === partition.number,
    );
    const startLba = move?.kind === 'move' ? move.toLba : partition.startLba;
    const gone = operations.some(
      (operation) => operation.kind === 'delete' && operation.partition === partition.number,
    );
    const now = gone ? undefined : after.partitions.find((one) => one.startLba === startLba);
    return now && now.number !== partition.number ? [`${inSentence(partition)} becomes ${now.number}`] : [];
  });
  return renumbered.length === 0
    ? []
    : [
        `Numbers change along the chain: ${renumbered.join(', ')}. Boot entries, mount tables and notes that name a partition by its number have to be told.`,
      ];
}

function riskWords(operations: readonly PlannedOperation[]): string {
  if (operations.some(({ kind }) => kind === 'move')) return 'and a move that is broken off loses data';
  if (operations.some(({ kind }) => kind === 'delete'))
    return 'and what is deleted is only in its copies afterwards';
  return operations.some(({ risk }) => risk > 0) ? 'little risk' : 'no risk to what is there';
}
