/**
 * Limits of the file systems that backups go to. Sources: the FAT32 and exFAT specifications, the
 * naming rules of the common desktop family for NTFS and shares, ext4's on-disk format.
 */
export type FileSystemLimit = {
  readonly id: FileSystemId;
  readonly name: string;
  /** Largest file in bytes; null where no backup gets near it. */
  readonly largestFileBytes: number | null;
  readonly keepsRights: boolean;
  readonly keepsLinks: boolean;
  /** Longest name of a file or folder, counted in UTF-16 units or in bytes of UTF-8. */
  readonly longestName: { readonly count: number; readonly unit: 'utf16' | 'bytes' };
  /** Longest path that the system itself takes; older programs stop at 260 on the first four. */
  readonly longestPath: { readonly count: number; readonly unit: 'utf16' | 'bytes' };
  /** The easy-going kind takes any character but NUL and the slash, any ending, and tells cases apart. */
  readonly names: 'strict' | 'easy';
};

const strict = {
  longestName: { count: 255, unit: 'utf16' },
  longestPath: { count: 32_767, unit: 'utf16' },
  names: 'strict',
} as const;

export const fileSystems = [
  {
    id: 'fat32',
    name: 'FAT32',
    largestFileBytes: 4 * 1024 ** 3 - 1,
    keepsRights: false,
    keepsLinks: false,
    ...strict,
  },
  { id: 'exfat', name: 'exFAT', largestFileBytes: null, keepsRights: false, keepsLinks: false, ...strict },
  { id: 'ntfs', name: 'NTFS', largestFileBytes: null, keepsRights: true, keepsLinks: true, ...strict },
  {
    id: 'ext4',
    name: 'ext4',
    largestFileBytes: 16 * 1024 ** 4,
    keepsRights: true,
    keepsLinks: true,
    longestName: { count: 255, unit: 'bytes' },
    longestPath: { count: 4096, unit: 'bytes' },
    names: 'easy',
  },
  {
    id: 'network',
    name: 'network share',
    largestFileBytes: null,
    keepsRights: false,
    keepsLinks: false,
    ...strict,
  },
] as const satisfies readonly FileSystemLimit[];

export const fileSystemIds = ['fat32', 'exfat', 'ntfs', 'ext4', 'network'] as const;
export type FileSystemId = (typeof fileSystemIds)[number];

export function fileSystemLimit(id: FileSystemId): FileSystemLimit {
  const found = fileSystems.find((entry) => entry.id === id);
  if (!found) throw new RangeError(`no limits for file system ${id}`);
  return found;
}
