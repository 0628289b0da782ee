import { segmentsOf, type Fate, type Segment } from './segment';
import { nameOf, type PartitionTable, type TablePartition } from './table/partitionTable';

type Drawn = Pick<PartitionTable, 'partitions' | 'sectorCount'>;

/**
 * Two tables of one disk as segments, each partition with what becomes of it: kept where its start stays, moved
 * where it does not, erased where it is gone, new where it was not there. Numbers tell who is who.
 */
export function planSegments(
  before: Drawn,
  after: Drawn,
  {
    sameAs = (one: TablePartition, other: TablePartition) => one.number === other.number,
    room,
  }: {
    readonly sameAs?: (one: TablePartition, other: TablePartition) => boolean;
    /** A run that is made free for something new. */
    readonly room?: { readonly startLba: number; readonly sectorCount: number };
  } = {},
): { readonly before: readonly Segment[]; readonly after: readonly Segment[] } {
  const fate = (one: TablePartition, others: readonly TablePartition[], missing: Fate): Fate => {
    const other = others.find((candidate) => sameAs(one, candidate));
    if (!other) return missing;
    return other.startLba === one.startLba ? 'kept' : 'moved';
  };
  return {
    before: tableSegments(before, (one) => fate(one, after.partitions, 'erased')),
    after: withRoom(
      tableSegments(after, (one) => fate(one, before.partitions, 'new')),
      room,
    ),
  };
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
