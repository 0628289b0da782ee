export const contentKinds = [
  'fat12',
  'fat16',
  'fat32',
  'exfat',
  'ntfs',
  'ext2',
  'ext3',
  'ext4',
  'btrfs',
  'xfs',
  'swap',
  'apfs',
  'luks',
  'encrypted',
  'array',
  'volumes',
  'pool',
] as const;

export type ContentKind = (typeof contentKinds)[number];

/**
 * How a file system was left: `unclean` means that its last changes are still to be put in order, `hibernated` that a
 * system is asleep in it and goes on from what it remembers.
 */
export type LeftState = 'unclean' | 'hibernated';

/** What stands in a partition, by its own magic numbers. */
export type RecognisedContent = {
  readonly kind: ContentKind;
  readonly label?: string;
  /** Bytes that the file system spans, from the partition's start: it may be less than the partition. */
  readonly spansBytes?: number;
  /** Where its superblock tells; for exFAT, whose superblock gives whole percents, the most that can be. */
  readonly usedBytes?: number;
  /** Absent when it was closed in order, or when that cannot be told. */
  readonly left?: LeftState;
};

export const contentNames: Readonly<Record<ContentKind, string>> = {
  fat12: 'FAT12',
  fat16: 'FAT16',
  fat32: 'FAT32',
  exfat: 'exFAT',
  ntfs: 'NTFS',
  ext2: 'ext2',
  ext3: 'ext3',
  ext4: 'ext4',
  btrfs: 'Btrfs',
  xfs: 'XFS',
  swap: 'swap',
  apfs: 'APFS container',
  luks: 'LUKS, encrypted',
  encrypted: 'a volume encrypted by its system',
  array: 'a member of a disk array',
  volumes: 'logical volumes',
  pool: 'a member of a storage pool',
};

/** Builds a finding of content, leaving out what is not known or cannot be. */
export function contentOf(
  kind: ContentKind,
  label: string | undefined,
  spansBytes?: number,
  usedBytes?: number,
  left?: LeftState,
): RecognisedContent {
  const counted = (bytes: number | undefined): bytes is number =>
    bytes !== undefined && Number.isSafeInteger(bytes) && bytes >= 0;
  return {
    kind,
    ...(label === undefined || label === '' ? {} : { label: label.slice(0, 72) }),
    ...(counted(spansBytes) && spansBytes > 0 ? { spansBytes } : {}),
    ...(counted(usedBytes) && counted(spansBytes) && usedBytes <= spansBytes ? { usedBytes } : {}),
    ...(left === undefined ? {} : { left }),
  };
}
