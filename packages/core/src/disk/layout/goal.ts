import type { NewPurpose } from './operation';

export type WantedPartition = { readonly purpose: NewPurpose; readonly sizeBytes: number };

/** What the disk is to be like afterwards. */
export type LayoutPlanGoal =
  /** One run of free space for a second system. */
  | { readonly kind: 'room'; readonly sizeBytes: number }
  /** The system partition comes down to a size, and data get the rest behind it. */
  | { readonly kind: 'split'; readonly systemBytes: number }
  /** A FAT32 partition that holds the installer. */
  | { readonly kind: 'installer-partition'; readonly sizeBytes: number }
  /** A release's own partitions in the place of the present system; all others stay. */
  | { readonly kind: 'standard'; readonly installer: readonly WantedPartition[] }
  /** Everything goes, and a release's partitions take the whole disk. */
  | {
      readonly kind: 'wipe';
      readonly scheme: 'gpt' | 'mbr';
      readonly installer: readonly WantedPartition[];
    }
  /** A second system goes, and a partition gets its room back. */
  | { readonly kind: 'grow-back'; readonly partition: number; readonly remove: readonly number[] };

export type LayoutOptions = {
  /** Partitions that no plan may shrink, move, delete or format, with the reason. */
  readonly locked?: ReadonlyMap<number, string>;
  /** Partitions that may be shrunk or moved but not deleted or formatted: the route promised to keep them. */
  readonly promised?: ReadonlySet<number>;
  /** Without moves a plan is quicker and safer, and sometimes there is none. Default: allowed. */
  readonly allowMoves?: boolean;
  /** What the disk reads and writes in one go; a spinning disk where it is not known. */
  readonly bytesPerSecond?: number;
  /** Only for new GPT entries; without it they get no GUID of their own yet. */
  readonly random?: (byteCount: number) => Uint8Array;
};

/** Used bytes times this is the least that a partition is shrunk to: a tenth stays free for updates. */
export const reserveFactor = 1.1;
