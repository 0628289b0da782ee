import { z } from 'zod';

export const PartitionSchema = z.strictObject({
  number: z.int().min(1).max(128),
  startLba: z.int().min(0),
  sectorCount: z.int().positive(),
  /** The type as written in the table: a GUID (GPT) or a hexadecimal byte (MBR). */
  typeCode: z.string().max(64).exactOptional(),
  fileSystem: z.string().max(32).exactOptional(),
  label: z.string().max(72).exactOptional(),
  usedBytes: z.int().min(0).exactOptional(),
  /** Where the last block lies that cannot be moved, from the partition's start: no shrink goes below it. */
  lastImmovableByte: z.int().min(0).exactOptional(),
  mountedAt: z.string().max(512).exactOptional(),
  role: z.enum(['efi', 'reserved', 'system', 'data', 'recovery', 'boot', 'swap']).exactOptional(),
  encrypted: z.boolean().exactOptional(),
});

/** A disk as measured; what could not be read is absent. */
export const DiskSchema = z.strictObject({
  name: z.string().min(1).max(64),
  model: z.string().max(128).exactOptional(),
  serial: z.string().max(128).exactOptional(),
  bus: z.enum(['sata', 'nvme', 'usb', 'mmc', 'ide', 'sas', 'virtual']).exactOptional(),
  rotational: z.boolean().exactOptional(),
  removable: z.boolean().exactOptional(),
  sectorBytes: z.int().min(512).max(65536),
  sectorCount: z.int().positive(),
  scheme: z.enum(['gpt', 'mbr', 'none']).exactOptional(),
  health: z.enum(['good', 'worn', 'failing']).exactOptional(),
  partitions: z.array(PartitionSchema).max(128),
});

export type Partition = z.infer<typeof PartitionSchema>;
export type Disk = z.infer<typeof DiskSchema>;

export function diskBytes(disk: Pick<Disk, 'sectorBytes' | 'sectorCount'>): number {
  return disk.sectorBytes * disk.sectorCount;
}

export function partitionBytes(
  disk: Pick<Disk, 'sectorBytes'>,
  partition: Pick<Partition, 'sectorCount'>,
): number {
  return disk.sectorBytes * partition.sectorCount;
}

/**
 * The short mark of a disk: the last four signs of its serial, which is what the label shows.
 * @example diskMark({ serial: 'KX7714A9C2E' }) // '…9C2E'
 */
export function diskMark(disk: { readonly serial?: string; readonly name: string }): string {
  return disk.serial === undefined ? `${disk.name} (serial unknown)` : `…${disk.serial.slice(-4)}`;
}

/** Built in: neither to be pulled out nor on USB. */
export function isFixed({ removable, bus }: Pick<Disk, 'removable' | 'bus'>): boolean {
  return removable !== true && bus !== 'usb';
}

/**
 * The disk that carries the present system: the one with a partition of that role, else the only
 * disk that is not removable. Undefined when that cannot be told.
 */
export function systemDisk(disks: readonly Disk[] | undefined): Disk | undefined {
  if (!disks) return undefined;
  const marked = disks.filter((disk) => disk.partitions.some((partition) => partition.role === 'system'));
  if (marked.length === 1) return marked[0];
  const fixed = disks.filter(isFixed);
  return marked.length === 0 && fixed.length === 1 ? fixed[0] : undefined;
}

/** The one fixed disk beside the system's; undefined when there is none or several. */
export function secondDisk(disks: readonly Disk[] | undefined): Disk | undefined {
  const system = systemDisk(disks);
  const others = disks?.filter((disk) => disk !== system && isFixed(disk)) ?? [];
  return system !== undefined && others.length === 1 ? others[0] : undefined;
}

/** The disk that a second system may take: the one fixed disk beside the system's, else the only one without a partition. */
export function spareDisk(disks: readonly Disk[] | undefined): Disk | undefined {
  const only = secondDisk(disks);
  if (only || systemDisk(disks) === undefined) return only;
  const blank = disks?.filter((disk) => isFixed(disk) && disk.partitions.length === 0) ?? [];
  return blank.length === 1 ? blank[0] : undefined;
}

export function systemPartition(disk: Disk | undefined): Partition | undefined {
  return disk?.partitions.find((partition) => partition.role === 'system');
}

/** Partitions that hold data of their own, apart from the system's. */
export function dataPartitions(disk: Disk | undefined): readonly Partition[] {
  return disk?.partitions.filter((partition) => partition.role === 'data') ?? [];
}
