import { diskMark, partitionBytes, systemDisk, type Disk, type Partition } from '../../survey/disk';
import { valueOf, type Facts } from '../../survey/facts';
import type { SurveyFolder } from '../../survey/format';
import type { DataSet } from './dataSet';

/** @example slugOf('Mail store, 2019', new Set()) // 'mail-store-2019' */
export function slugOf(name: string, taken: ReadonlySet<string>): string {
  const base =
    name
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 32) || 'data';
  let slug = base;
  for (let n = 2; taken.has(slug); n += 1) slug = `${base}-${n}`;
  return slug;
}

type PlaceOfPath = {
  readonly place: DataSet['place'];
  /** Undefined when no partition is known to be mounted there. */
  readonly disk: Disk | undefined;
  readonly partition: Partition | undefined;
};

/** The partition that a path is on: the longest mount wins. */
export function placeOfPath(path: string, disks: readonly Disk[], system: Disk | undefined): PlaceOfPath {
  let best: PlaceOfPath & { readonly length: number } = {
    length: -1,
    place: 'system-partition',
    disk: undefined,
    partition: undefined,
  };
  for (const disk of disks)
    for (const partition of disk.partitions) {
      const { mountedAt, role } = partition;
      if (mountedAt === undefined || mountedAt.length <= best.length) continue;
      if (path === mountedAt || path.startsWith(mountedAt.endsWith('/') ? mountedAt : `${mountedAt}/`))
        best = {
          length: mountedAt.length,
          place: disk !== system ? 'other-disk' : role === 'data' ? 'data-partition' : 'system-partition',
          disk,
          partition,
        };
    }
  return best;
}

/** Data sets that a survey's measured folders propose; those already listed under the same path are left out. */
export function proposeDataSets(
  folders: readonly SurveyFolder[],
  facts: Facts,
  present: readonly DataSet[],
): readonly DataSet[] {
  const disks = valueOf(facts, 'disks') ?? [];
  const system = systemDisk(disks);
  const taken = new Set(present.map(({ id }) => id));
  return folders
    .filter(({ path }) => !present.some((dataSet) => dataSet.path === path))
    .map((folder) => {
      const id = slugOf(folder.name, taken);
      taken.add(id);
      return {
        id,
        name: folder.owner ? `${folder.name} (${folder.owner})` : folder.name,
        kind: 'folder',
        path: folder.path,
        sizeBytes: folder.sizeBytes,
        fileCount: folder.fileCount,
        largestFileBytes: folder.largestFileBytes ?? 0,
        place: placeOfPath(folder.path, disks, system).place,
      };
    });
}

type UncountedPartition = { readonly title: string; readonly usedBytes: number };

/** Partitions with used bytes beside the system's own, for asking what of them is the owner's. */
export function usedPartitions(facts: Facts): readonly UncountedPartition[] {
  return (valueOf(facts, 'disks') ?? []).flatMap((disk) =>
    disk.partitions
      .filter(
        ({ usedBytes, role }) =>
          usedBytes !== undefined &&
          usedBytes > 0 &&
          (role === 'system' || role === 'data' || role === undefined),
      )
      .map((partition) => ({
        title: `${partition.label ?? `partition ${partition.number}`} on ${diskMark(disk)}`,
        usedBytes: Math.min(partition.usedBytes ?? 0, partitionBytes(disk, partition)),
      })),
  );
}
