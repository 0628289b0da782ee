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
import { basicDataGuid, efiGuid, partitionTypes, typeOf } from '../table/partitionTypes';
import type { ConversionOptions, Obstacle, Remedy, PlannedTable } from './conversion';
import { efiObstacle } from './efi';
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
  const obstacles: Obstacle[] = [...refusals(table), ...resolved.obstacles];

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
  obstacles.push(...ebrObstacles(table, bounds));
  const efi = efiObstacle(table, partitions, bounds, resolutions);
  if (efi) obstacles.push(efi);
  if (obstacles.length > 0) return { ok: false, problems: obstacles };

  const remembered = new Map(options.remembered?.partitions.map((one) => [one.startLba, one]));
  const entries = partitions.map((partition): TablePartition => {
    const { active: _active, ebrLba: _ebrLba, ...rest } = partition;
    const before = remembered.get(partition.startLba);
    const type = typeOf(partition.typeCode)?.guid ?? basicDataGuid;
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
  const made = resolutions.find((resolution) => resolution.kind === 'make-efi');
  if (made)
    entries.push({
      number: firstFree(entries.map(({ number }) => number)),
      kind: 'entry',
      startLba: made.startLba,
      sectorCount: made.sectorCount,
      typeCode: efiGuid,
      guid: newGuid(options.random),
      name: 'EFI system partition',
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
      ...(made
        ? [
            `An EFI system partition of ${printBytes(made.sectorCount * table.sectorSizeBytes, 'binary', 0)} is made at sector ${made.startLba}; it is to be formatted as FAT32.`,
          ]
        : []),
      'The protective MBR and both copies of the GPT are written.',
    ],
    notes: [
      'The disk starts by UEFI only after the boot files have been made and the firmware has been switched: all three, or it does not start.',
      'Boot code of the old scheme stays in the first sector and is no longer used.',
    ],
  };
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
      otherwise: `Move it towards the end by ${bounds.firstUsableLba - partition.startLba} sectors or more with a partition editor; verified copies first, for a move that is broken off loses data.`,
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
      sentence: `GPT keeps its second copy in the last ${table.sectorCount - 1 - bounds.lastUsableLba} sectors, and ${inSentence(partition)} reaches ${lacking} sectors into them.`,
      remedies: why === undefined ? [remedy] : [],
      ...(why === undefined ? {} : { otherwise: why }),
    });
  }
  return obstacles;
}

const readBySystems: ReadonlySet<string> = new Set(['fat12', 'fat16', 'fat32', 'exfat', 'ntfs']);

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
