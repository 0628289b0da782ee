import type { PlannedOperation } from '../layout/operation';
import {
  endLba,
  inDiskOrder,
  nameOf,
  type PartitionTable,
  type TablePartition,
} from '../table/partitionTable';

export type Stretch = { readonly startLba: number; readonly sectorCount: number };

/** What becomes of a band: a partition, or a room that is made free. */
type BandFate = 'stays' | 'moves' | 'erased' | 'new';

/** A partition through all operations. */
export type FlowBand = {
  readonly key: string;
  readonly label: string;
  /** Whether it is the system's, or holds what the owner keeps. */
  readonly kind: 'system' | 'data';
  readonly fate: BandFate;
  readonly numberBefore?: number;
  readonly numberAfter?: number;
  readonly usedSectors?: number;
  /** Where it stands before the first column, and after each of them; undefined where it is not there. */
  readonly cuts: readonly (Stretch | undefined)[];
};

/** One operation, or a creation with the format that belongs to it. */
export type FlowColumn = {
  readonly operations: readonly PlannedOperation[];
  readonly title: string;
};

export type DiskFlow = {
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  readonly columns: readonly FlowColumn[];
  readonly bands: readonly FlowBand[];
  /** The containers of logical partitions, before and after. */
  readonly containers: readonly { readonly when: 'before' | 'after'; readonly stretch: Stretch }[];
  /** The first column after which something cannot be brought back; undefined where all can. */
  readonly lineBefore?: number;
  /** Sectors after the last operation: they add up to the disk. */
  readonly sums: Readonly<Record<'stays' | 'moves' | 'new' | 'free', number>>;
  readonly erasedSectors: number;
  /** What is copied from place to place. */
  readonly copiedSectors: number;
};

type Planned = {
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  readonly operations: readonly PlannedOperation[];
  readonly room?: Stretch | undefined;
};

/**
 * A plan as a flow: every partition with its place before the first operation and after each. What is made free
 * for something else is a band of its own, from the last operation on.
 */
export function diskFlow({ before, after, operations, room }: Planned): DiskFlow {
  const columns = columnsOf(operations);
  const old = before.partitions.map((partition) => bandOf(partition, columns, before.sectorSizeBytes));
  const made = operations.flatMap((operation) => (operation.kind === 'create' ? [operation] : []));
  const fresh = made.map((operation): FlowBand => {
    const at = columns.findIndex((column) => column.operations.includes(operation));
    const { startLba, sectorCount, purpose } = operation;
    const now = after.partitions.find((one) => one.startLba === startLba);
    return {
      key: `new ${startLba}`,
      label: now ? nameOf(now) : operation.title.replace(/^Create /, ''),
      kind: purpose === 'data' ? 'data' : 'system',
      fate: 'new',
      ...(now ? { numberAfter: now.number } : {}),
      cuts: [
        undefined,
        ...columns.map((_column, index) => (index >= at ? { startLba, sectorCount } : undefined)),
      ],
    };
  });
  const rooms: readonly FlowBand[] =
    room && !made.some(({ startLba }) => startLba === room.startLba)
      ? [
          {
            key: 'room',
            label: 'room',
            kind: 'system',
            fate: 'new',
            cuts: [
              columns.length === 0 ? room : undefined,
              ...columns.map((_column, index) => (index === columns.length - 1 ? room : undefined)),
            ],
          },
        ]
      : [];
  const bands = [
    ...old.map((band) => {
      const last = band.cuts.at(-1);
      const now = last && after.partitions.find(({ startLba }) => startLba === last.startLba);
      return now ? { ...band, numberAfter: now.number } : band;
    }),
    ...fresh,
    ...rooms,
  ];
  const sectorsOf = (fate: BandFate) =>
    bands.reduce((sum, band) => sum + (band.fate === fate ? (band.cuts.at(-1)?.sectorCount ?? 0) : 0), 0);
  const sums = { stays: sectorsOf('stays'), moves: sectorsOf('moves'), new: sectorsOf('new') };
  const lineBefore = firstWithoutReturn(columns, bands);
  return {
    sectorSizeBytes: before.sectorSizeBytes,
    sectorCount: before.sectorCount,
    columns,
    bands,
    containers: [
      ...(before.extended ? [{ when: 'before' as const, stretch: before.extended }] : []),
      ...(after.extended ? [{ when: 'after' as const, stretch: after.extended }] : []),
    ],
    ...(lineBefore === undefined ? {} : { lineBefore }),
    sums: { ...sums, free: before.sectorCount - sums.stays - sums.moves - sums.new },
    erasedSectors: bands.reduce(
      (sum, { fate, cuts }) => sum + (fate === 'erased' ? (cuts[0]?.sectorCount ?? 0) : 0),
      0,
    ),
    copiedSectors: operations.reduce(
      (sum, operation) => sum + (operation.kind === 'move' ? operation.sectorCount : 0),
      0,
    ),
  };
}

/** A format belongs to the creation just before it, and deletions in a row are one: a column for each. */
function columnsOf(operations: readonly PlannedOperation[]): readonly FlowColumn[] {
  const columns: FlowColumn[] = [];
  for (const operation of operations) {
    const last = columns.at(-1);
    const made = last?.operations[0];
    if (
      operation.kind === 'format' &&
      last &&
      made?.kind === 'create' &&
      made.startLba === operation.startLba
    )
      columns[columns.length - 1] = {
        operations: [made, operation],
        title: made.title.replace('Create', 'Create and format'),
      };
    else if (operation.kind === 'delete' && last && made?.kind === 'delete')
      columns[columns.length - 1] = {
        operations: [...last.operations, operation],
        title: `Delete ${last.operations.length + 1} partitions`,
      };
    else columns.push({ operations: [operation], title: operation.title });
  }
  return columns;
}

function bandOf(
  partition: TablePartition,
  columns: readonly FlowColumn[],
  sectorSizeBytes: number,
): FlowBand {
  let now: Stretch | undefined = { startLba: partition.startLba, sectorCount: partition.sectorCount };
  const cuts: (Stretch | undefined)[] = [now];
  let moved = false;
  for (const { operations } of columns) {
    for (const operation of operations) {
      if (!('partition' in operation) || operation.partition !== partition.number || !now) continue;
      if (operation.kind === 'shrink' || operation.kind === 'grow')
        now = { ...now, sectorCount: operation.toSectors };
      else if (operation.kind === 'move') {
        now = { ...now, startLba: operation.toLba };
        moved = true;
      } else if (operation.kind === 'delete') now = undefined;
    }
    cuts.push(now);
  }
  const { role, usedBytes } = partition;
  return {
    key: `old ${partition.startLba}`,
    label: nameOf(partition),
    kind: role === undefined || role === 'data' ? 'data' : 'system',
    fate: now === undefined ? 'erased' : moved ? 'moves' : 'stays',
    numberBefore: partition.number,
    ...(usedBytes === undefined
      ? {}
      : { usedSectors: Math.min(partition.sectorCount, Math.ceil(usedBytes / sectorSizeBytes)) }),
    cuts,
  };
}

/** The first column that writes where something stood that was deleted before: its old table would not bring it back. */
function firstWithoutReturn(columns: readonly FlowColumn[], bands: readonly FlowBand[]): number | undefined {
  const gone = bands.filter(({ fate }) => fate === 'erased');
  const found = columns.findIndex(({ operations }, index) =>
    operations.some((operation) => {
      const target = writtenBy(operation, bands, index);
      return (
        target !== undefined &&
        gone.some(({ cuts }) => {
          const [stood] = cuts;
          return (
            cuts[index] === undefined &&
            stood !== undefined &&
            target.startLba < endLba(stood) &&
            endLba(target) > stood.startLba
          );
        })
      );
    }),
  );
  return found < 0 ? undefined : found;
}

/** Where an operation puts contents. */
function writtenBy(
  operation: PlannedOperation,
  bands: readonly FlowBand[],
  column: number,
): Stretch | undefined {
  switch (operation.kind) {
    case 'create':
      return operation;
    case 'move':
      return { startLba: operation.toLba, sectorCount: operation.sectorCount };
    case 'grow':
      return bands.find(({ numberBefore }) => numberBefore === operation.partition)?.cuts[column + 1];
    default:
      return undefined;
  }
}

/** Where the sectors of a stretch come from: what stood there before the first operation, and what was free. */
export function sourcesOf(
  { bands }: Pick<DiskFlow, 'bands'>,
  stretch: Stretch,
): readonly { readonly label: string; readonly sectorCount: number }[] {
  const parts = bands.flatMap(({ label, cuts: [before] }) => {
    if (!before) return [];
    const sectorCount =
      Math.min(endLba(before), endLba(stretch)) - Math.max(before.startLba, stretch.startLba);
    return sectorCount > 0 ? [{ label, startLba: before.startLba, sectorCount }] : [];
  });
  const free = stretch.sectorCount - parts.reduce((sum, one) => sum + one.sectorCount, 0);
  return [
    ...inDiskOrder(parts).map(({ label, sectorCount }) => ({ label, sectorCount })),
    ...(free > 0 ? [{ label: 'free', sectorCount: free }] : []),
  ];
}
