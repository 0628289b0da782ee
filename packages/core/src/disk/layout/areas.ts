import { mebibyteBytes } from '../../quantity/bytes';
import { whyNeverShrunk } from '../neverShrunk';
import { alignmentSectors } from '../segment';
import { endLba, inDiskOrder, type PartitionTable, type TablePartition } from '../table/partitionTable';
import { minPartitionBytes } from '../minPartitionBytes';
import type { LayoutOptions } from './goal';

/** A partition as the planner sees it; sectors. */
export type Piece = {
  readonly partition: TablePartition;
  /** Where its first sector stands, and where what belongs to it begins (an EBR before it). */
  readonly startLba: number;
  readonly takenFromLba: number;
  readonly sectorCount: number;
  /** The least that it can be shrunk to; its length where that is not known. */
  readonly minSectors: number;
  /** The length that it is to have, when it is not shrunk. */
  readonly wantedSectors: number;
  readonly movable: boolean;
  readonly moveRisk: number;
};

/** A run of the disk in which partitions can change places among themselves. */
export type Area = {
  readonly name: 'disk' | 'extended partition';
  readonly firstLba: number;
  /** The first sector behind it. */
  readonly endLba: number;
  /** Sectors that a new partition needs before its first. */
  readonly leadSectors: number;
  readonly alignSectors: number;
  readonly pieces: readonly Piece[];
  /** Whether the table has an entry left for a new partition here. */
  readonly hasFreeEntry: boolean;
};

/**
 * The least sectors that a partition can keep: its used bytes and a reserve, or its last immovable block;
 * what is taken away is whole MiB. What is unknown is not shrunk, nor what `whyNeverShrunk` names.
 */
export function minSectors(partition: TablePartition, sectorSizeBytes: number): number {
  if (partition.usedBytes === undefined || whyNeverShrunk(partition) !== undefined)
    return partition.sectorCount;
  const bytes = minPartitionBytes(partition.usedBytes, partition.lastImmovableByte);
  // Whole MiB are taken away: a shrink dialog asks for them, and leaves just what the plan says.
  const away = Math.floor((partition.sectorCount * sectorSizeBytes - bytes) / mebibyteBytes);
  return partition.sectorCount - Math.max(0, away) * alignmentSectors(sectorSizeBytes);
}

/** The areas of a table: the whole disk for GPT; outside and inside of the extended partition for MBR. */
export function areasOf(
  table: PartitionTable,
  options: LayoutOptions,
  riskOfMove: (partition: TablePartition) => number,
): readonly Area[] {
  const align = alignmentSectors(table.sectorSizeBytes);
  const { extended } = table;
  const pieceOf = (partition: TablePartition): Piece => {
    const locked = options.locked?.has(partition.number) === true;
    return {
      partition,
      startLba: partition.startLba,
      takenFromLba:
        partition.kind !== 'logical'
          ? partition.startLba
          : partition.ebrLba === undefined || partition.ebrLba === extended?.startLba
            ? partition.startLba - 1
            : partition.ebrLba,
      sectorCount: partition.sectorCount,
      minSectors: locked ? partition.sectorCount : minSectors(partition, table.sectorSizeBytes),
      wantedSectors: partition.sectorCount,
      movable: !locked && options.allowMoves !== false,
      moveRisk: riskOfMove(partition),
    };
  };
  const outside = table.partitions.filter(({ kind }) => kind !== 'logical').map(pieceOf);
  const container: Piece[] = extended
    ? [
        {
          partition: {
            number: extended.entry,
            kind: 'primary',
            startLba: extended.startLba,
            sectorCount: extended.sectorCount,
            typeCode: '0x0F',
          },
          startLba: extended.startLba,
          takenFromLba: extended.startLba,
          sectorCount: extended.sectorCount,
          minSectors: extended.sectorCount,
          wantedSectors: extended.sectorCount,
          movable: false,
          moveRisk: 0,
        },
      ]
    : [];
  const entries = outside.length + container.length;
  const areas: Area[] = [
    {
      name: 'disk',
      // The first MiB is the table's, as installers leave it.
      firstLba: Math.max(table.firstUsableLba, align),
      endLba: table.lastUsableLba + 1,
      leadSectors: 0,
      alignSectors: align,
      pieces: inOrder([...outside, ...container]),
      hasFreeEntry: table.scheme === 'mbr' ? entries < 4 : entries < (table.gpt?.entryCount ?? 128),
    },
  ];
  if (extended)
    areas.push({
      name: 'extended partition',
      firstLba: extended.startLba + 1,
      endLba: endLba(extended),
      leadSectors: 1,
      alignSectors: align,
      pieces: inOrder(table.partitions.filter(({ kind }) => kind === 'logical').map(pieceOf)),
      hasFreeEntry: true,
    });
  return areas;
}

function inOrder(pieces: readonly Piece[]): readonly Piece[] {
  return inDiskOrder(pieces);
}
