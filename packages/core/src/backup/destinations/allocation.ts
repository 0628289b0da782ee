import { z } from 'zod';
import type { FileSystemId } from '../../catalogue/fileSystems';

/** Cluster sizes that file systems are formatted with, in bytes. */
export const clusterSizes = [
  512, 1024, 2048, 4096, 8192, 16_384, 32_768, 65_536, 131_072, 262_144, 524_288, 1_048_576,
] as const;

const count = z.int().min(0);

/** What decides how much room files take beyond their bytes. */
export const ShapeSchema = z.strictObject({
  /** Folders, the data set's own among them. */
  folders: count,
  /** Entries of 32 bytes that the names of all files and folders take in FAT32, and in exFAT. */
  fatEntries: count,
  exfatEntries: count,
  /** Bytes of all files in whole clusters, by the size of a cluster. */
  sums: z.record(z.string(), count),
});

export type Shape = z.infer<typeof ShapeSchema>;

/**
 * A long name takes an entry for each 13 UTF-16 units beside its own (FAT specification, 7), in exFAT one for each 15
 * beside two (exFAT specification, 7.4, 7.6, 7.7).
 */
export function entriesOfName(name: string): { readonly fat: number; readonly exfat: number } {
  return { fat: 1 + Math.ceil(name.length / 13), exfat: 2 + Math.ceil(name.length / 15) };
}

/** Counts the shape of a list of files, path by path. */
export class ShapeCounter {
  private readonly folders = new Set<string>(['']);
  private fatEntries = 0;
  private exfatEntries = 0;
  private readonly sums: number[];

  constructor(private readonly clusters: readonly number[] = clusterSizes) {
    this.sums = clusters.map(() => 0);
  }

  private name(name: string): void {
    const { fat, exfat } = entriesOfName(name);
    this.fatEntries += fat;
    this.exfatEntries += exfat;
  }

  add(path: string, sizeBytes: number): void {
    const slash = path.lastIndexOf('/');
    this.name(path.slice(slash + 1));
    let folder = slash < 0 ? '' : path.slice(0, slash);
    while (!this.folders.has(folder)) {
      this.folders.add(folder);
      const above = folder.lastIndexOf('/');
      this.name(folder.slice(above + 1));
      folder = above < 0 ? '' : folder.slice(0, above);
    }
    for (const [index, cluster] of this.clusters.entries())
      this.sums[index] = (this.sums[index] ?? 0) + Math.ceil(sizeBytes / cluster) * cluster;
  }

  value(): Shape {
    return {
      folders: this.folders.size,
      fatEntries: this.fatEntries,
      exfatEntries: this.exfatEntries,
      sums: Object.fromEntries(
        this.clusters.map((cluster, index) => [String(cluster), this.sums[index] ?? 0]),
      ),
    };
  }
}

export type Formatted = {
  readonly fileSystem: FileSystemId;
  readonly capacityBytes?: number | undefined;
  /** As it was formatted; absent where nobody has looked. */
  readonly clusterBytes?: number | undefined;
};

const gib = 1024 ** 3;

/** The size of a cluster: as formatted, else the largest that is usual at that capacity, so that nothing is promised. */
export function clusterOf({ fileSystem, capacityBytes = 0, clusterBytes }: Formatted): number {
  if (clusterBytes !== undefined) return clusterBytes;
  const large = capacityBytes > 32 * gib;
  switch (fileSystem) {
    case 'fat32':
      return large ? 65_536 : 32_768;
    case 'exfat':
      return large ? 131_072 : 32_768;
    case 'ntfs':
    case 'ext4':
    case 'network':
      return 4096;
  }
}

type Amount = { readonly sizeBytes: number; readonly fileCount: number; readonly shape?: Shape | undefined };

/** Files in a folder, where nobody has counted folders. */
const filesInFolder = 5;
/** Entries of a name, where nobody has looked at names: up to 52 letters. */
const entriesWhereUnknown = 5;

/**
 * Bytes that files take on a file system: whole clusters, folders, and the entries of names. From a list it is
 * calculated file by file; from a sum of bytes and a count every file is taken to waste a cluster but a byte, and a folder
 * to hold five files: more than it usually is.
 * @returns whole bytes, and whether a list was there to calculate from
 */
export function neededOn(
  { sizeBytes, fileCount, shape }: Amount,
  on: Formatted,
): { readonly bytes: number; readonly fromList: boolean } {
  const cluster = clusterOf(on);
  const known = shape?.sums[String(cluster)];
  const files = known ?? (fileCount === 0 ? 0 : sizeBytes + fileCount * (cluster - 1));
  const folders = shape?.folders ?? Math.ceil(fileCount / filesInFolder) + 1;
  const names = fileCount + folders;
  const overhead = (): number => {
    switch (on.fileSystem) {
      case 'fat32':
        return folders * cluster + 32 * (shape?.fatEntries ?? names * entriesWhereUnknown);
      case 'exfat':
        return folders * cluster + 32 * (shape?.exfatEntries ?? names * entriesWhereUnknown);
      // A record of 1 KiB each, some 400 bytes in an index that is half full at worst; the table grows in steps.
      case 'ntfs':
        return names * (1024 + 400) + folders * cluster + 65_536;
      case 'ext4':
      case 'network':
        return folders * cluster + names * 64;
    }
  };
  return { bytes: fileCount === 0 ? sizeBytes : files + overhead(), fromList: known !== undefined };
}

/** A folder of FAT32 has up to 65,536 entries of 32 bytes, two of them its own. */
const maxFatEntries = 65_534;

/** Folders whose names are too many for FAT32, the fullest first. */
export function fullFolders(
  paths: Iterable<string>,
): readonly { readonly folder: string; readonly entries: number }[] {
  const entries = new Map<string, number>();
  const seen = new Set<string>();
  const add = (path: string) => {
    if (seen.has(path)) return;
    seen.add(path);
    const slash = path.lastIndexOf('/');
    const folder = slash < 0 ? '' : path.slice(0, slash);
    entries.set(folder, (entries.get(folder) ?? 0) + entriesOfName(path.slice(slash + 1)).fat);
    if (slash >= 0) add(folder);
  };
  for (const path of paths) add(path);
  return [...entries]
    .filter(([, used]) => used > maxFatEntries)
    .map(([folder, used]) => ({ folder, entries: used }))
    .sort((a, b) => b.entries - a.entries);
}
