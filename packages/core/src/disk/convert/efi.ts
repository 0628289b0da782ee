import { mebibyteBytes, printBytes } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';
import {
  calledBy,
  endLba,
  type PartitionTable,
  type TablePartition,
  inSentence,
} from '../table/partitionTable';
import { typeOf } from '../table/partitionTypes';
import type { Obstacle, Remedy, Resolution } from './conversion';
import { alignedRun, freeRuns } from './freeRuns';
import { bootPlaces } from './bootLoader';
import { shrinkAction, whyNotShrunk } from './shrinkCheck';

/** The least that a FAT32 of an EFI system partition takes: its sectors are at least 65,525 clusters. */
function minEfiBytes(sectorSizeBytes: number): number {
  return (sectorSizeBytes === 4096 ? 260 : 100) * mebibyteBytes;
}

type Bounds = { readonly firstUsableLba: number; readonly lastUsableLba: number };

/**
 * What hinders starting from GPT by UEFI: no EFI system partition, or one that is too small. Remedies: take one that is
 * there, make one in a free run, make room for it, or do without on a disk that starts no system.
 */
export function efiObstacle(
  table: PartitionTable,
  partitions: readonly TablePartition[],
  bounds: Bounds,
  resolutions: readonly Resolution[],
): Obstacle | undefined {
  const made = resolutions.find((resolution) => resolution.kind === 'make-efi');
  // A disk that starts no system, or by a loader in legacy mode, does without.
  if (!made && resolutions.some(({ kind }) => kind === 'no-efi' || kind === 'make-boot')) return undefined;
  const { sectorSizeBytes } = table;
  const min = minEfiBytes(sectorSizeBytes);
  const needed = printBytes(min, 'binary', 0);
  const there = partitions.filter(({ typeCode }) => typeOf(typeCode)?.purpose === 'efi');
  const runs = freeRuns(
    { partitions },
    Math.max(bounds.firstUsableLba, alignmentSectors(sectorSizeBytes)),
    bounds.lastUsableLba,
  );
  if (made) {
    const fits = runs.some(
      ({ startLba, sectorCount }) =>
        made.startLba >= startLba && made.startLba + made.sectorCount <= startLba + sectorCount,
    );
    const aligned = made.startLba % alignmentSectors(sectorSizeBytes) === 0;
    if (fits && aligned && made.sectorCount * sectorSizeBytes >= min) return undefined;
    // Whatever is made is checked, though there may be another one already.
    return {
      code: 'efi-misplaced',
      path: `/lba/${made.startLba}`,
      sentence: `An EFI system partition of ${made.sectorCount} sectors at sector ${made.startLba} is ${fits ? `off whole MiB, or smaller than ${needed}` : 'in the place of something else'}: it is not made.`,
      remedies: [],
      otherwise: 'Withdraw that choice, and choose one of the places that are offered.',
    };
  }
  if (there.some(({ sectorCount }) => sectorCount * sectorSizeBytes >= min)) return undefined;
  const [small] = there;
  const remedies = [
    ...reusable(partitions, sectorSizeBytes, min),
    ...makeable(runs, sectorSizeBytes, min),
    ...roomFor(partitions, runs, table, min),
    ...bootPlaces(table, partitions, bounds),
  ];
  return {
    code: small ? 'efi-too-small' : 'no-efi-partition',
    path: small ? `/partitions/${small.number}` : '',
    sentence: small
      ? `${calledBy(small)} is an EFI system partition of ${printBytes(small.sectorCount * sectorSizeBytes, 'binary')}; at least ${needed} are needed.`
      : `There is no EFI system partition: without one of at least ${needed} the disk does not start by UEFI.`,
    remedies: [
      ...remedies,
      {
        resolution: { kind: 'no-efi' },
        action: 'Do without: no system is started from this disk.',
      },
    ],
    ...(remedies.length > 0
      ? {}
      : {
          otherwise: `Make ${needed} free inside a running system, at the end of a partition, and read the disk again.`,
        }),
  };
}

function reusable(
  partitions: readonly TablePartition[],
  sectorSizeBytes: number,
  min: number,
): readonly Remedy[] {
  return partitions
    .filter(
      ({ content, sectorCount, role }) =>
        content?.kind === 'fat32' &&
        role !== 'data' &&
        role !== 'system' &&
        sectorCount * sectorSizeBytes >= min,
    )
    .map((partition) => ({
      resolution: { kind: 'reuse-efi', partition: partition.number },
      action: `Take ${inSentence(partition)}, FAT32 of ${printBytes(partition.sectorCount * sectorSizeBytes, 'binary')}, if it holds nothing of the owner’s.`,
    }));
}

function makeable(
  runs: readonly { readonly startLba: number; readonly sectorCount: number }[],
  sectorSizeBytes: number,
  min: number,
): readonly Remedy[] {
  const sectorCount = min / sectorSizeBytes;
  return runs
    .map((run) => alignedRun(run, sectorSizeBytes))
    .filter((run) => run.sectorCount >= sectorCount)
    .slice(0, 1)
    .map(({ startLba }) => ({
      resolution: { kind: 'make-efi', startLba, sectorCount },
      action: `Make one of ${printBytes(min, 'binary', 0)} at sector ${startLba}.`,
    }));
}

/** Where no run is long enough: ends that may come down far enough to make one. */
function roomFor(
  partitions: readonly TablePartition[],
  runs: readonly { readonly startLba: number; readonly sectorCount: number }[],
  table: PartitionTable,
  min: number,
): readonly Remedy[] {
  const { sectorSizeBytes } = table;
  const needed = min / sectorSizeBytes;
  if (runs.some((run) => alignedRun(run, sectorSizeBytes).sectorCount >= needed)) return [];
  const align = alignmentSectors(sectorSizeBytes);
  return partitions.flatMap((partition) => {
    const end = endLba(partition);
    const behind = runs.find(({ startLba }) => startLba === end)?.sectorCount ?? 0;
    const last = Math.floor((end + behind) / align) * align;
    const start = Math.floor((last - needed) / align) * align;
    const bySectors = end - start;
    return start > partition.startLba && whyNotShrunk(partition, bySectors, table) === undefined
      ? [
          {
            resolution: { kind: 'shrink' as const, partition: partition.number, bySectors },
            action: shrinkAction(partition, bySectors, table),
          },
        ]
      : [];
  });
}
