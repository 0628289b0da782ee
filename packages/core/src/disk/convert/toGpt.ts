import { printCount } from '../../quantity/count';
import { printBytes } from '../../quantity/bytes';
import { contentNames } from '../content/content';
import { newGuid } from '../table/guid';
import {
  calledBy,
  endLba,
  gptBounds,
  inDiskOrder,
  type PartitionTable,
  type TablePartition,
  inSentence,
} from '../table/partitionTable';
import {
  basicDataGuid,
  bootGuid,
  efiGuid,
  partitionTypes,
  swapGuid,
  systemFilesGuid,
  typeOf,
} from '../table/partitionTypes';
import { bootObstacle } from './bootLoader';
import type { ConversionOptions, Obstacle, PlannedTable, Remedy, Remembered, Resolution } from './conversion';
import { efiObstacle } from './efi';
import { changedIdentifiers } from './identifiers';
import { inTheWay } from './inTheWay';
import { readinessObstacles } from './readiness';
import { refusals, resolve } from './resolve';
import { shrinkAction, whyNotShrunk } from './shrinkCheck';

/**
 * MBR to GPT without loss: room for both tables, logical partitions as ordinary entries, a GUID for each
 * type, an EFI system partition. Gives the table afterwards, or every obstacle at once.
 */
export function toGpt(table: PartitionTable, options: ConversionOptions): PlannedTable {
  const resolutions = options.resolutions ?? [];
  const resolved = resolve(table, resolutions);
  const { partitions } = resolved;
  const bounds = gptBounds(table.sectorSizeBytes, table.sectorCount);
  const obstacles: Obstacle[] = [
    ...refusals(table),
    ...readinessObstacles(table, resolutions),
    ...resolved.obstacles,
  ];

  if (
    partitions.some(({ kind }) => kind === 'logical') &&
    !resolutions.some(({ kind }) => kind === 'logical-to-entry')
  )
    obstacles.push({
      code: 'logical-partitions',
      path: '/extended',
      sentence: 'There are logical partitions, and GPT has none of that kind.',
      remedies: [
        {
          resolution: { kind: 'logical-to-entry' },
          action:
            'Make them ordinary entries; the extended partition goes, the contents stay where they are.',
        },
      ],
    });
  for (const partition of partitions) {
    obstacles.push(...roomObstacles(table, partition, bounds));
    const type = typeOf(partition.typeCode);
    if (!type?.guid && type?.purpose !== 'dynamic') obstacles.push(typeObstacle(partition));
  }
  obstacles.push(
    ...ebrObstacles(table, bounds),
    ...inTheWay(table, partitions, bounds, resolutions),
    ...bootObstacle(table, partitions, bounds, resolutions),
  );
  const efi = efiObstacle(table, partitions, bounds, resolutions);
  if (efi) obstacles.push(efi);
  if (obstacles.length > 0) return { ok: false, problems: obstacles };

  const remembered = new Map(options.remembered?.partitions.map((one) => [one.startLba, one]));
  const numbered = numberAsBefore(partitions, remembered);
  const entries = numbered.map((partition): TablePartition => {
    const { active: _active, ebrLba: _ebrLba, ...rest } = partition;
    const before = remembered.get(partition.startLba);
    const type = guidByContent(partition);
    // A type that was given by hand on the way to MBR is the old GUID again.
    const old = before?.typeCode.includes('-') === true ? before.typeCode : undefined;
    return {
      ...rest,
      kind: 'entry',
      typeCode: type === efiGuid ? type : (old ?? type),
      guid: before?.guid ?? newGuid(options.random),
      ...((before?.name ?? partition.label)
        ? { name: (before?.name ?? partition.label ?? '').slice(0, 36) }
        : {}),
      ...(before?.attributes === undefined ? {} : { attributes: before.attributes }),
    };
  });
  const made = resolutions.filter(
    (resolution) => resolution.kind === 'make-efi' || resolution.kind === 'make-boot',
  );
  for (const { kind, startLba, sectorCount } of made)
    entries.push({
      number: firstFree(entries.map(({ number }) => number)),
      kind: 'entry',
      startLba,
      sectorCount,
      typeCode: kind === 'make-efi' ? efiGuid : bootGuid,
      guid: newGuid(options.random),
      name: kind === 'make-efi' ? 'EFI system partition' : 'boot loader',
    });
  const logicals = partitions.filter(({ kind }) => kind === 'logical').length;
  return {
    ok: true,
    after: {
      scheme: 'gpt',
      sectorSizeBytes: table.sectorSizeBytes,
      sectorCount: table.sectorCount,
      diskId: options.remembered?.diskId?.includes('-') ? options.remembered.diskId : newGuid(options.random),
      partitions: inDiskOrder(entries),
      ...bounds,
      gpt: {
        entryCount: 128,
        entrySizeBytes: 128,
        entriesLba: 2,
        backupLba: table.sectorCount - 1,
        hybrid: false,
      },
      findings: [],
    },
    operations: [
      ...resolved.operations,
      ...(logicals > 0
        ? [
            `${logicals === 1 ? 'One logical partition becomes an ordinary entry' : `${logicals} logical partitions become ordinary entries`}.`,
          ]
        : []),
      ...made.map(({ kind, startLba, sectorCount }) => {
        const size = printBytes(sectorCount * table.sectorSizeBytes, 'binary', 0);
        return kind === 'make-efi'
          ? `An EFI system partition of ${size} is made at sector ${startLba}; it is to be formatted as FAT32.`
          : `A boot-loader partition of ${size} is made at sector ${startLba}; it is not formatted, and the loader installs itself there.`;
      }),
      'The protective MBR and both copies of the GPT are written.',
    ],
    notes: [startNote(table, resolutions), ...changedIdentifiers(table, entries, 'gpt')],
  };
}

/** What starts the disk afterwards, and what becomes of the old start code. */
function startNote(table: PartitionTable, resolutions: readonly Resolution[]): string {
  const has = (kind: Resolution['kind']) => resolutions.some((resolution) => resolution.kind === kind);
  if (has('make-boot'))
    return 'The disk starts in legacy mode after the loader has installed itself again, into the boot-loader partition: before that it does not start.';
  const code =
    table.startCode !== true
      ? ''
      : has('no-efi')
        ? ' The start code stays in the first sector.'
        : ' The old start code stays in the first sector and is no longer used.';
  return `${has('no-efi') ? 'No system is started from this disk.' : 'The disk starts by UEFI only after the boot files have been made and the firmware has been switched: all three, or it does not start.'}${code}`;
}

/** Numbers as they were, where they are remembered of all and no two are the same. */
function numberAsBefore(
  partitions: readonly TablePartition[],
  remembered: ReadonlyMap<number, Remembered>,
): readonly TablePartition[] {
  const before = partitions.map(({ startLba }) => remembered.get(startLba));
  const numbers = before.flatMap((one) => (one?.kind === 'entry' ? [one.number] : []));
  return new Set(numbers).size === partitions.length
    ? partitions.map((partition, index) => ({ ...partition, number: numbers[index] ?? partition.number }))
    : partitions;
}

/** The GUID of a type; for one that only says “data” what is in it decides. */
function guidByContent({ typeCode, content }: TablePartition): string {
  const type = typeOf(typeCode);
  const own = type?.guid ?? basicDataGuid;
  if (type?.purpose !== 'data' || content === undefined) return own;
  if (content.kind === 'swap') return swapGuid;
  if (readBySystems.has(content.kind)) return basicDataGuid;
  return systemFiles.has(content.kind) ? systemFilesGuid : own;
}

/**
 * A chain of EBRs that stands where GPT is written would be gone before the switch: broken off there, the
 * disk would have neither table.
 */
function ebrObstacles(
  table: PartitionTable,
  bounds: { readonly firstUsableLba: number; readonly lastUsableLba: number },
): readonly Obstacle[] {
  const places = [
    ...(table.extended ? [table.extended.startLba] : []),
    ...table.partitions.flatMap(({ ebrLba }) => (ebrLba === undefined ? [] : [ebrLba])),
  ];
  const hit = places.find((lba) => lba < bounds.firstUsableLba || lba > bounds.lastUsableLba);
  return hit === undefined
    ? []
    : [
        {
          code: 'ebr-in-the-way',
          path: `/lba/${hit}`,
          sentence: `The chain of logical partitions has a link at sector ${hit}, where GPT keeps its own table: a conversion that breaks off would leave neither.`,
          remedies: [],
          otherwise: 'Save the data, and lay the disk out anew.',
        },
      ];
}

function roomObstacles(
  table: PartitionTable,
  partition: TablePartition,
  bounds: { readonly firstUsableLba: number; readonly lastUsableLba: number },
): readonly Obstacle[] {
  const path = `/partitions/${partition.number}`;
  const obstacles: Obstacle[] = [];
  if (partition.startLba < bounds.firstUsableLba)
    obstacles.push({
      code: 'no-room-front',
      path,
      sentence: `GPT needs the sectors before ${bounds.firstUsableLba}, and ${inSentence(partition)} begins at ${partition.startLba}.`,
      remedies: [],
      otherwise: `Move it towards the end by ${printCount(bounds.firstUsableLba - partition.startLba, 'sector')} or more with a partition editor; verified copies first, for a move that is broken off loses data.`,
    });
  const lacking = endLba(partition) - 1 - bounds.lastUsableLba;
  if (lacking > 0) {
    const why = whyNotShrunk(partition, lacking, table);
    const remedy: Remedy = {
      resolution: { kind: 'shrink', partition: partition.number, bySectors: lacking },
      action: shrinkAction(partition, lacking, table),
    };
    obstacles.push({
      code: 'no-room-end',
      path,
      sentence: `GPT keeps its second copy in the last ${table.sectorCount - 1 - bounds.lastUsableLba} sectors, and ${inSentence(partition)} reaches ${printCount(lacking, 'sector')} into them.`,
      remedies: why === undefined ? [remedy] : [],
      ...(why === undefined ? {} : { otherwise: why }),
    });
  }
  return obstacles;
}

const readBySystems: ReadonlySet<string> = new Set(['fat12', 'fat16', 'fat32', 'exfat', 'ntfs']);
const systemFiles: ReadonlySet<string> = new Set(['ext2', 'ext3', 'ext4', 'btrfs', 'xfs']);

/** A type that has no GUID is given by hand; what stands in the partition says which one is likely. */
function typeObstacle(partition: TablePartition): Obstacle {
  const { content } = partition;
  const likely = partitionTypes.filter(({ purpose, guid, name }) => {
    if (guid === undefined) return false;
    if (content?.kind === 'swap') return purpose === 'swap';
    if (content === undefined) return name === 'data' || name === 'system files';
    return name === (readBySystems.has(content.kind) ? 'data' : 'system files');
  });
  return {
    code: 'unknown-type',
    path: `/partitions/${partition.number}`,
    sentence: `${calledBy(partition)} has the type ${partition.typeCode}, which has no counterpart in GPT${content ? `; it holds ${contentNames[content.kind]}` : ''}.`,
    remedies: likely.map((type) => ({
      resolution: { kind: 'set-type', partition: partition.number, typeCode: type.guid ?? basicDataGuid },
      action: `Give it the type ${type.name}.`,
    })),
  };
}

function firstFree(numbers: readonly number[]): number {
  let number = 1;
  while (numbers.includes(number)) number += 1;
  return number;
}
