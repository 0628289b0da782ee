/** Limits of the file systems that backups go to. Sources: the FAT32 and exFAT specifications, common practice. */
export type FileSystemLimit = {
  readonly id: string;
  readonly name: string;
  /** Largest file in bytes; null where no backup gets near it. */
  readonly largestFileBytes: number | null;
  readonly keepsRights: boolean;
};

export const fileSystems = [
  { id: 'fat32', name: 'FAT32', largestFileBytes: 4 * 1024 ** 3 - 1, keepsRights: false },
  { id: 'exfat', name: 'exFAT', largestFileBytes: null, keepsRights: false },
  { id: 'ntfs', name: 'NTFS', largestFileBytes: null, keepsRights: true },
  { id: 'ext4', name: 'ext4', largestFileBytes: 16 * 1024 ** 4, keepsRights: true },
  { id: 'network', name: 'network share', largestFileBytes: null, keepsRights: false },
] as const satisfies readonly FileSystemLimit[];

export const fileSystemIds = ['fat32', 'exfat', 'ntfs', 'ext4', 'network'] as const;
export type FileSystemId = (typeof fileSystemIds)[number];

export function fileSystemLimit(id: FileSystemId): FileSystemLimit {
  const found = fileSystems.find((entry) => entry.id === id);
  if (!found) throw new RangeError(`no limits for file system ${id}`);
  return found;
}
