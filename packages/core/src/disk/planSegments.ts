import type { Operation } from './layout/operation';
import { segmentsOf, type Fate, type Segment } from './segment';
import { nameOf, type PartitionTable, type TablePartition } from './table/partitionTable';

type Drawn = Pick<PartitionTable, 'partitions' | 'sectorCount'>;

/** A disk as two bars. */
export type DrawnPlan = { readonly before: readonly Segment[]; readonly after: readonly Segment[] };

type HowDrawn = {
  readonly sameAs?: (one: TablePartition, other: TablePartition) => boolean;
  /** A run that is made free for something new. */
  readonly room?: { readonly startLba: number; readonly sectorCount: number };
  /** Numbers that go, and numbers that are made: one may be both, and is not the same then. */
  readonly gone?: ReadonlySet<number>;
  readonly made?: ReadonlySet<number>;
};

/**
 * Two tables of one disk as segments, each partition with what becomes of it: kept where its start stays, moved
 * where it does not, erased where it is gone, new where it was not there. Numbers tell who is who,
 * unless `sameAs` says otherwise.
 */
export function planSegments(before: Drawn, after: Drawn, how: HowDrawn = {}): DrawnPlan {
  const {
    sameAs = (one, other) => one.number === other.number,
    room,
    gone = new Set(),
    made = new Set(),
  } = how;
  const staying = before.partitions.filter(({ number }) => !gone.has(number));
  const stayed = after.partitions.filter(({ number }) => !made.has(number));
  const fate = (
    one: TablePartition,
    among: readonly TablePartition[],
    others: readonly TablePartition[],
    missing: Fate,
  ): Fate => {
    const other = among.includes(one) ? others.find((candidate) => sameAs(one, candidate)) : undefined;
    if (!other) return missing;
    return other.startLba === one.startLba ? 'kept' : 'moved';
  };
  return {
    before: tableSegments(before, (one) => fate(one, staying, stayed, 'erased')),
    after: withRoom(
      tableSegments(after, (one) => fate(one, stayed, staying, 'new')),
      room,
    ),
  };
}

/** A plan as two bars: what its operations delete goes, what they create is new. */
export function segmentsOfPlan({
  before,
  after,
  operations,
  room,
}: {
  readonly before: Drawn;
  readonly after: Drawn;
  readonly operations: readonly Operation[];
  readonly room?: HowDrawn['room'] | undefined;
}): DrawnPlan {
  const numbers = (kind: Operation['kind']) =>
    new Set(
      operations.flatMap((operation) =>
        operation.kind === kind && 'partition' in operation ? [operation.partition] : [],
      ),
    );
  const moved = new Map(
    operations.flatMap((operation) =>
      operation.kind === 'move' ? [[operation.partition, operation.toLba] as const] : [],
    ),
  );
  // Logical partitions are numbered anew where one was made or deleted before them: places tell who is who.
  const landing = ({ number, startLba }: TablePartition) => moved.get(number) ?? startLba;
  const old = new Set(before.partitions);
  return planSegments(before, after, {
    sameAs: (one, other) =>
      old.has(one) ? landing(one) === other.startLba : landing(other) === one.startLba,
    gone: numbers('delete'),
    made: numbers('create'),
    ...(room ? { room } : {}),
  });
}

/** A conversion as two bars. Numbers may change from one scheme to the other: what begins at the same sector is the same. */
export function segmentsOfConversion(before: Drawn, after: Drawn): DrawnPlan {
  return planSegments(before, after, { sameAs: (one, other) => one.startLba === other.startLba });
}

/** The free run that was asked for, as something new in the free space that it lies in. */
function withRoom(
  segments: readonly Segment[],
  room: { readonly startLba: number; readonly sectorCount: number } | undefined,
): readonly Segment[] {
  if (!room) return segments;
  const end = room.startLba + room.sectorCount;
  return segments.flatMap((segment): readonly Segment[] => {
    const endOfFree = segment.startLba + segment.sectorCount;
    if (segment.kind === 'partition' || room.startLba < segment.startLba || end > endOfFree) return [segment];
    return [
      { ...segment, sectorCount: room.startLba - segment.startLba },
      { kind: 'partition', ...room, label: 'room', fate: 'new' } as const,
      { ...segment, startLba: end, sectorCount: endOfFree - end },
    ].filter(({ sectorCount }) => sectorCount > 0);
  });
}

/** A table as segments; the whole disk is covered. */
export function tableSegments(
  { partitions, sectorCount }: Drawn,
  fateOf: (partition: TablePartition) => Fate,
): readonly Segment[] {
  const fates = new Map(partitions.map((partition) => [partition.number, fateOf(partition)]));
  return segmentsOf(
    {
      sectorCount,
      partitions: partitions
        .filter(({ startLba }) => startLba < sectorCount)
        .map((partition) => ({
          number: partition.number,
          startLba: partition.startLba,
          sectorCount: Math.min(partition.sectorCount, sectorCount - partition.startLba),
          label: nameOf(partition),
        })),
    },
    ({ number }) => fates.get(number) ?? 'unknown',
  );
}
