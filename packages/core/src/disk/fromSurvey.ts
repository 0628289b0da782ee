import { diskBytes, type Disk, type Partition } from '../survey/disk';
import { contentKinds, type ContentKind } from './content/content';
import {
  gptBounds,
  inDiskOrder,
  mbrLimitLba,
  type Finding,
  type PartitionTable,
  type TablePartition,
} from './table/partitionTable';
import { basicDataGuid, efiGuid, recoveryGuid, reservedGuid, systemFilesGuid } from './table/partitionTypes';

const guidOfRole: Readonly<Partial<Record<NonNullable<Partition['role']>, string>>> = {
  efi: efiGuid,
  reserved: reservedGuid,
  recovery: recoveryGuid,
};

/**
 * The partition table of a surveyed disk, as far as the survey knows it; no sector was read. A scheme that
 * is not known is a finding that stops every plan: unknown is neither of the two.
 */
export function tableFromSurvey(disk: Disk): PartitionTable {
  const { sectorBytes: sectorSizeBytes, sectorCount } = disk;
  const findings: Finding[] = [];
  if (disk.scheme === undefined)
    findings.push({
      code: 'scheme-unknown',
      path: '',
      sentence:
        'The scheme of this disk is not known: drop an image of its first sectors on Disk bench, run the collector again, or set it on Survey.',
      weight: 'damage',
    });
  const scheme = disk.scheme ?? 'none';
  const partitions = inDiskOrder(disk.partitions.map((partition) => partitionOf(partition, scheme)));
  const logicals = partitions.filter(({ kind }) => kind === 'logical');
  const [first] = logicals;
  const last = logicals.at(-1);
  const taken = new Set(partitions.map(({ number }) => number));
  return {
    surveyed: true,
    scheme,
    sectorSizeBytes,
    sectorCount,
    partitions,
    ...(scheme === 'gpt'
      ? {
          ...gptBounds(sectorSizeBytes, sectorCount),
          gpt: {
            entryCount: 128,
            entrySizeBytes: 128,
            entriesLba: 2,
            backupLba: sectorCount - 1,
            hybrid: false,
          },
        }
      : { firstUsableLba: 1, lastUsableLba: Math.min(sectorCount, mbrLimitLba) - 1 }),
    ...(first && last
      ? {
          extended: {
            startLba: first.ebrLba ?? first.startLba - 1,
            sectorCount: last.startLba + last.sectorCount - (first.ebrLba ?? first.startLba - 1),
            entry: [4, 3, 2, 1].find((entry) => !taken.has(entry)) ?? 4,
          },
        }
      : {}),
    findings,
  };
}

function partitionOf(partition: Partition, scheme: PartitionTable['scheme']): TablePartition {
  const { number, startLba, sectorCount, label, usedBytes, lastImmovableByte, role, encrypted } = partition;
  const kind = scheme === 'gpt' ? 'entry' : number > 4 ? 'logical' : 'primary';
  const content = contentKinds.find((known) => known === partition.fileSystem?.toLowerCase());
  return {
    number,
    kind,
    startLba,
    sectorCount,
    typeCode: typeCodeOf(partition, scheme),
    ...(kind === 'logical' ? { ebrLba: startLba - 1 } : {}),
    ...(content === undefined ? {} : { content: { kind: content } }),
    ...(label === undefined ? {} : { label }),
    ...(usedBytes === undefined ? {} : { usedBytes }),
    ...(lastImmovableByte === undefined ? {} : { lastImmovableByte }),
    ...(role === undefined ? {} : { role }),
    ...(encrypted === undefined ? {} : { encrypted }),
  };
}

const byteOfContent: Readonly<Partial<Record<ContentKind, string>>> = {
  fat32: '0x0C',
  fat16: '0x0E',
  swap: '0x82',
};
const writtenByCommunity: ReadonlySet<string> = new Set(['ext2', 'ext3', 'ext4', 'btrfs', 'xfs']);

/** The type as the survey read it, else the one that its role or its file system would have. */
function typeCodeOf({ typeCode, role, fileSystem }: Partition, scheme: PartitionTable['scheme']): string {
  const isGuid = typeCode?.includes('-') === true;
  if (typeCode !== undefined && isGuid === (scheme === 'gpt'))
    return isGuid ? typeCode.toUpperCase() : byteText(typeCode);
  const system = fileSystem?.toLowerCase() ?? '';
  if (scheme === 'gpt')
    return (role && guidOfRole[role]) ?? (writtenByCommunity.has(system) ? systemFilesGuid : basicDataGuid);
  if (role === 'efi') return '0xEF';
  if (role === 'recovery') return '0x27';
  const kind = contentKinds.find((known) => known === system);
  return (kind && byteOfContent[kind]) ?? (writtenByCommunity.has(system) ? '0x83' : '0x07');
}

function byteText(typeCode: string): string {
  const digits = typeCode.replace(/^0x/i, '').toUpperCase().padStart(2, '0');
  return `0x${digits}`;
}

/**
 * What reading the sectors adds to a surveyed disk: scheme, places, types, file systems, used bytes. Roles,
 * immovable blocks and mount points stay with the partition that begins at the same sector.
 */
export function surveyedFromTable(disk: Disk, table: PartitionTable): Disk {
  return {
    ...disk,
    sectorBytes: table.sectorSizeBytes,
    sectorCount: table.sectorCount,
    scheme: table.scheme,
    partitions: table.partitions.slice(0, 128).map((partition): Partition => {
      const known = disk.partitions.find(({ startLba }) => startLba === partition.startLba);
      const { content, label, usedBytes } = partition;
      return {
        ...(known ?? {}),
        number: Math.min(128, partition.number),
        startLba: partition.startLba,
        sectorCount: partition.sectorCount,
        typeCode: partition.typeCode,
        ...(content ? { fileSystem: content.kind } : {}),
        ...(label === undefined || label === '' ? {} : { label: label.slice(0, 72) }),
        ...(usedBytes === undefined ? {} : { usedBytes }),
      };
    }),
  };
}

/** Whether sectors and survey can be of one disk: by its bytes. */
export function sameSize(disk: Disk, table: PartitionTable): boolean {
  return diskBytes(disk) === table.sectorSizeBytes * table.sectorCount;
}
