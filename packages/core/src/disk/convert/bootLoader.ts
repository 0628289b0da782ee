import { printBytes } from '../../quantity/bytes';
import { endLba, type PartitionTable, type TablePartition } from '../table/partitionTable';
import type { Obstacle, Remedy, Resolution } from './conversion';
import { freeRuns } from './freeRuns';

/** A loader's code takes some 30 KiB; so much is left for what it grows to. */
const minBytes = 256 * 1024;
const maxBytes = 1024 ** 2;
/** It is never formatted, so whole 4 KiB are enough: it often stands before the first whole MiB. */
const alignBytes = 4096;

type Bounds = { readonly firstUsableLba: number; readonly lastUsableLba: number };
type Run = { readonly startLba: number; readonly sectorCount: number };

function bootRuns(
  { sectorSizeBytes }: PartitionTable,
  partitions: readonly TablePartition[],
  bounds: Bounds,
): readonly Run[] {
  const align = alignBytes / sectorSizeBytes;
  return freeRuns({ partitions }, bounds.firstUsableLba, bounds.lastUsableLba).flatMap((run) => {
    const startLba = Math.ceil(run.startLba / align) * align;
    const end = Math.floor((run.startLba + run.sectorCount) / align) * align;
    return (end - startLba) * sectorSizeBytes >= minBytes
      ? [{ startLba, sectorCount: Math.min(end - startLba, maxBytes / sectorSizeBytes) }]
      : [];
  });
}

/** Where a boot-loader partition can be made, the first place on the disk. */
export function bootPlaces(
  table: PartitionTable,
  partitions: readonly TablePartition[],
  bounds: Bounds,
): readonly Remedy[] {
  return bootRuns(table, partitions, bounds)
    .slice(0, 1)
    .map((run) => ({
      resolution: { kind: 'make-boot', ...run },
      action: `Start it in legacy mode from GPT: make a boot-loader partition of ${printBytes(run.sectorCount * table.sectorSizeBytes, 'binary', 0)} at sector ${run.startLba}, and have the loader install itself again.`,
    }));
}

/** A boot-loader partition that was asked for, checked for place, size and whole 4 KiB. */
export function bootObstacle(
  table: PartitionTable,
  partitions: readonly TablePartition[],
  bounds: Bounds,
  resolutions: readonly Resolution[],
): readonly Obstacle[] {
  return resolutions.flatMap((resolution): readonly Obstacle[] => {
    if (resolution.kind !== 'make-boot') return [];
    const { startLba, sectorCount } = resolution;
    const align = alignBytes / table.sectorSizeBytes;
    const fits = freeRuns({ partitions }, bounds.firstUsableLba, bounds.lastUsableLba).some(
      (run) => startLba >= run.startLba && endLba(resolution) <= endLba(run),
    );
    if (fits && startLba % align === 0 && sectorCount * table.sectorSizeBytes >= minBytes) return [];
    return [
      {
        code: 'boot-misplaced',
        path: `/lba/${startLba}`,
        sentence: `A boot-loader partition of ${sectorCount} sectors at sector ${startLba} is ${fits ? `too small or off whole 4 KiB: ${printBytes(minBytes, 'binary', 0)} are needed` : 'in the place of something else'}.`,
        remedies: [],
        otherwise: 'Withdraw that choice, and choose one of the places that are offered.',
      },
    ];
  });
}
