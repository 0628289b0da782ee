import { contentNames, type ContentKind } from './content/content';
import { calledBy, type TablePartition } from './table/partitionTable';
import { typeOf, type PartitionPurpose } from './table/partitionTypes';

/** By what a file system is made smaller; null where no tool does it. */
const shrunkBy: Readonly<Record<ContentKind, string | null>> = {
  fat12: null,
  fat16: 'a partition editor, from another system',
  fat32: 'a partition editor, from another system',
  exfat: null,
  ntfs: 'its own system, while it runs',
  ext2: 'its own tools, while it is not mounted',
  ext3: 'its own tools, while it is not mounted',
  ext4: 'its own tools, while it is not mounted',
  btrfs: 'its own tools, while it is mounted',
  xfs: null,
  swap: null,
  apfs: 'its own system, while it runs',
  luks: null,
  encrypted: 'its own system, unlocked',
  array: null,
  volumes: null,
  pool: null,
};

/** Why a partition for this purpose keeps its length, whatever is in it. */
const keepsItsLength: Readonly<Partial<Record<PartitionPurpose, string>>> = {
  efi: 'its loaders would have to be made anew',
  reserved: 'the system keeps it as it made it',
  boot: 'the boot loader is written to its very sectors',
  swap: 'swap is made anew, never shrunk: switch it off, delete it, and make it again afterwards',
  volumes: 'members of arrays and volume groups keep their own tables at their start and end',
  pool: 'members of pools keep their own labels at their start and end',
  dynamic: 'dynamic volumes keep their own table at the end of the disk',
  extended: 'it is as long as what is in it',
  protective: 'it only represents the other table',
};

/**
 * Why a partition is never made smaller, nor its end counted as free, wherever it is asked; undefined when it
 * may be, as far as its type and its content say. The one rule for conversions, layouts and routes.
 */
export function whyNeverShrunk(partition: TablePartition): string | undefined {
  const name = calledBy(partition);
  const type = typeOf(partition.typeCode);
  const { content } = partition;
  if (partition.encrypted === true || content?.kind === 'luks')
    return `${name} is encrypted: it is only made smaller by its own system, unlocked.`;
  const purpose = type && keepsItsLength[type.purpose];
  if (type && purpose !== undefined) return `${name} is ${type.name} and is not shrunk: ${purpose}.`;
  if (!type)
    return `${name} has the type ${partition.typeCode}, which is not known here: what is not known is not shrunk.`;
  if (content && shrunkBy[content.kind] === null)
    return `${name} holds ${contentNames[content.kind]}, which no tool makes smaller without loss.`;
  return undefined;
}

/** The kind of tool that makes what is in a partition smaller; undefined when that is not known. */
export function toolOfShrink({ content }: TablePartition): string | undefined {
  return content === undefined ? undefined : (shrunkBy[content.kind] ?? undefined);
}
