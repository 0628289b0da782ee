import type { PartitionTable, TablePartition } from '../table/partitionTable';
import type { Area } from './areas';
import type { Arrangement } from './arrange';
import type { Operation } from './operation';

/** An arrangement as operations, shrinks first, then moves, then growth into what is left over; and the partitions after them. */
export function carryOut(
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
    const partition = piece.partition.number;
    const min = at.minSectors;
    if (min < piece.sectorCount)
      shrinks.push({ kind: 'shrink', partition, fromSectors: piece.sectorCount, toSectors: min });
    if (at.sectorCount > min)
      grows.push({ kind: 'grow', partition, fromSectors: min, toSectors: at.sectorCount });
    const moved = at.startLba !== piece.startLba && piece.partition.kind === 'logical';
    changed.set(piece.partition.number, {
      ...piece.partition,
      startLba: at.startLba,
      sectorCount: at.sectorCount,
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
            sectorCount: at.minSectors,
          },
        ]
      : [];
  });
  return {
    partitions: table.partitions.map((partition) => changed.get(partition.number) ?? partition),
    operations: [...shrinks, ...moves, ...grows],
  };
}
