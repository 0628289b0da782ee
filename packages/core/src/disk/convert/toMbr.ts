import { printBytes } from '../../quantity/bytes';
import { contentNames, type ContentKind } from '../content/content';
import { alignmentSectors } from '../segment';
import type { Random } from '../table/guid';
import {
  calledBy,
  endLba,
  inDiskOrder,
  mbrLimitLba,
  type PartitionTable,
  type TablePartition,
  inSentence,
} from '../table/partitionTable';
import { partitionTypes, printTypeByte, typeByte, typeOf } from '../table/partitionTypes';
import type { ConversionOptions, Obstacle, Remembered, PlannedTable } from './conversion';
import { logicalGroups, roomBefore, type Placed } from './logicalGroups';
import { changedIdentifiers } from './identifiers';
import { readinessObstacles } from './readiness';
import { refusals, resolve } from './resolve';
import { shrinkAction, whyNotShrunk } from './shrinkCheck';

/**
 * GPT to MBR without loss: at most four partitions, or logical ones with a sector to spare before each;
 * all ends below 2 TiB; the EFI system partition goes. Gives the table afterwards, or every obstacle.
 */
export function toMbr(table: PartitionTable, options: ConversionOptions): PlannedTable {
  const resolutions = options.resolutions ?? [];
  const resolved = resolve(table, resolutions);
  const partitions = inDiskOrder(resolved.partitions);
  const obstacles: Obstacle[] = [
    ...refusals(table),
    ...readinessObstacles(table, resolutions),
    ...resolved.obstacles,
  ];
  if (table.gpt?.hybrid)
    obstacles.push({
      code: 'hybrid',
      path: '/lba/0',
      sentence:
        'The disk carries both schemes at once (a hybrid): which of the two is meant cannot be told, so it is not converted.',
      remedies: [],
      otherwise:
        'Have the first sector made protective again by whoever made the hybrid, and read the disk again.',
    });
  for (const partition of partitions) obstacles.push(...entryObstacles(table, partition));

  const byHand = resolutions.flatMap((resolution) =>
    resolution.kind === 'entry-to-logical' ? resolution.partitions : [],
  );
  // What goes anyway takes no entry: the count is of what would stay.
  const staying = partitions.filter(({ typeCode }) => !goes(typeCode));
  const placed: Placed = { partitions: staying, firstLba: table.firstUsableLba };
  obstacles.push(...countObstacles(placed, byHand, table));
  if (obstacles.length > 0) return { ok: false, problems: obstacles };

  const remembered = new Map(options.remembered?.partitions.map((one) => [one.startLba, one]));
  const logical = new Set(byHand);
  const numbered = number(staying, logical, remembered).map((partition) =>
    mbrPartition(partition, placed, table, remembered.get(partition.startLba)),
  );
  const extended = extendedOf(numbered, options.remembered?.extended);
  return {
    ok: true,
    after: {
      scheme: 'mbr',
      sectorSizeBytes: table.sectorSizeBytes,
      sectorCount: table.sectorCount,
      diskId: /^[0-9A-F]{8}$/.test(options.remembered?.diskId ?? '')
        ? (options.remembered?.diskId ?? '')
        : newSignature(options.random),
      partitions: inDiskOrder(numbered),
      ...(extended ? { extended } : {}),
      firstUsableLba: 1,
      lastUsableLba: Math.min(table.sectorCount, mbrLimitLba) - 1,
      findings: [],
    },
    operations: [
      ...resolved.operations,
      ...(logical.size > 0
        ? [
            `${logical.size === 1 ? 'One partition becomes a logical one' : `${logical.size} partitions become logical ones`} in an extended partition.`,
          ]
        : []),
      'Both copies of the GPT are cleared, and the MBR is written.',
    ],
    notes: [
      'The disk starts in legacy mode only after its boot files have been made and the firmware has been switched: all three, or it does not start.',
      ...(numbered.some(({ active }) => active)
        ? []
        : ['No partition is marked active: mark the one that carries the boot files.']),
      ...changedIdentifiers(table, numbered, 'mbr'),
    ],
  };
}

/**
 * The container of the logical partitions: with its old borders, where they are remembered and nothing else stands
 * inside; else from the first EBR to the last end.
 */
function extendedOf(
  partitions: readonly TablePartition[],
  before: PartitionTable['extended'],
): PartitionTable['extended'] {
  const logicals = inDiskOrder(partitions.filter(({ kind }) => kind === 'logical'));
  const primaries = partitions.filter(({ kind }) => kind === 'primary');
  const [first] = logicals;
  const last = logicals.at(-1);
  if (!first || !last) return undefined;
  const free = [1, 2, 3, 4].filter((entry) => !primaries.some(({ number: taken }) => taken === entry));
  const startLba = first.ebrLba ?? first.startLba - 1;
  if (
    before &&
    free.includes(before.entry) &&
    before.startLba <= startLba &&
    endLba(before) >= endLba(last) &&
    primaries.every((one) => endLba(one) <= before.startLba || one.startLba >= endLba(before))
  )
    return before;
  return { startLba, sectorCount: endLba(last) - startLba, entry: free[0] ?? 4 };
}

const leaving: ReadonlySet<string> = new Set(['efi', 'reserved', 'boot']);

/** Whether a partition has no place in MBR and is asked to go. */
function goes(typeCode: string): boolean {
  return leaving.has(typeOf(typeCode)?.purpose ?? '');
}

function entryObstacles(table: PartitionTable, partition: TablePartition): readonly Obstacle[] {
  const path = `/partitions/${partition.number}`;
  const name = calledBy(partition);
  const type = typeOf(partition.typeCode);
  const obstacles: Obstacle[] = [];
  if (goes(partition.typeCode))
    obstacles.push({
      code: `${type?.purpose ?? 'boot'}-goes`,
      path,
      sentence: `${name} is ${type?.name ?? 'a boot partition'}, which has no use in MBR.`,
      remedies: [
        {
          resolution: { kind: 'drop', partition: partition.number },
          action: `Drop its entry; its ${printBytes(partition.sectorCount * table.sectorSizeBytes, 'binary')} become free.`,
        },
      ],
    });
  // Volumes that span are refused as a whole; another type for one of them would be no way on.
  else if (type?.purpose === 'dynamic' || type?.purpose === 'pool') return [];
  else if (type === undefined || type.bytes.length === 0)
    obstacles.push({
      code: 'unknown-type',
      path,
      sentence: `${name} has the type ${partition.typeCode}, which has no counterpart in MBR${partition.content ? `; it holds ${contentNames[partition.content.kind]}` : ''}.`,
      remedies: partitionTypes
        .filter(({ name: typeName }) => typeName === 'data' || typeName === 'system files')
        .map((one) => ({
          resolution: {
            kind: 'set-type',
            partition: partition.number,
            typeCode: printTypeByte(one.bytes[0] ?? 0x83),
          },
          action: `Give it the type ${one.name}.`,
        })),
    });
  const lacking = endLba(partition) - mbrLimitLba;
  if (lacking > 0) {
    const why = whyNotShrunk(partition, lacking, table);
    const limit = printBytes(mbrLimitLba * table.sectorSizeBytes, 'binary', 0);
    obstacles.push({
      code: 'beyond-2-tib',
      path,
      sentence: `${name} ends ${printBytes(lacking * table.sectorSizeBytes, 'binary')} behind the ${limit} that MBR can name.`,
      remedies:
        why === undefined
          ? [
              {
                resolution: { kind: 'shrink', partition: partition.number, bySectors: lacking },
                action: shrinkAction(partition, lacking, table),
              },
            ]
          : [],
      ...(why === undefined ? {} : { otherwise: why }),
    });
  }
  return obstacles;
}

/** Four entries, or three and an extended partition whose logical ones each have a sector before them. */
function countObstacles(
  placed: Placed,
  byHand: readonly number[],
  table: PartitionTable,
): readonly Obstacle[] {
  const { partitions } = placed;
  if (byHand.length === 0) {
    if (partitions.length <= 4) return [];
    const groups = logicalGroups(placed);
    const crowded = partitions.slice(1).filter((partition) => roomBefore(placed, partition) < 1);
    return [
      {
        code: 'too-many',
        path: '',
        sentence: `${partitions.length} partitions would stay, and MBR has four entries.`,
        remedies: groups.slice(0, 3).map((group) => ({
          resolution: { kind: 'entry-to-logical', partitions: group.map((partition) => partition.number) },
          action: `Make ${group.map((partition) => inSentence(partition)).join(', ')} logical.`,
        })),
        ...(groups.length > 0
          ? {}
          : {
              otherwise: `A logical partition needs a free sector before it, and there is none before ${crowded.map((partition) => inSentence(partition)).join(', ')}: shrink the partition before it by 1 MiB, or delete a partition.`,
            }),
      },
    ];
  }
  const obstacles: Obstacle[] = [];
  const members = partitions.filter((partition) => byHand.includes(partition.number));
  const [first] = members;
  const last = members.at(-1);
  const between = partitions.filter(
    (partition) =>
      first &&
      last &&
      partition.startLba > first.startLba &&
      partition.startLba < last.startLba &&
      !members.includes(partition),
  );
  for (const partition of between)
    obstacles.push({
      code: 'between-logicals',
      path: `/partitions/${partition.number}`,
      sentence: `${calledBy(partition)} is between partitions that are to be logical: the extended partition is one run, so it has to be logical, too.`,
      remedies: [
        {
          resolution: { kind: 'entry-to-logical', partitions: [...byHand, partition.number] },
          action: 'Make it logical, too.',
        },
      ],
    });
  for (const partition of members) {
    if (roomBefore(placed, partition) >= 1) continue;
    const before = partitions.filter(({ startLba }) => startLba < partition.startLba).at(-1);
    const align = alignmentSectors(table.sectorSizeBytes);
    const shrinkable = before && whyNotShrunk(before, align, table) === undefined;
    obstacles.push({
      code: 'no-sector-before',
      path: `/partitions/${partition.number}`,
      sentence: `There is no free sector before ${inSentence(partition)} for the EBR that a logical partition needs.`,
      remedies: shrinkable
        ? [
            {
              resolution: { kind: 'shrink', partition: before.number, bySectors: align },
              action: shrinkAction(before, align, table),
            },
          ]
        : [],
      ...(shrinkable
        ? {}
        : {
            otherwise:
              'Shrink the partition before it by 1 MiB inside its own system, and read the disk again.',
          }),
    });
  }
  const entries = partitions.length - members.length + 1;
  if (entries > 4)
    obstacles.push({
      code: 'too-many',
      path: '',
      sentence: `${partitions.length - members.length} entries and the extended partition would stay, and MBR has four: make more of them logical.`,
      remedies: [],
    });
  return obstacles;
}

/** Primaries from 1, logical ones from 5, in disk order; as they were, where that is remembered of all. */
function number(
  partitions: readonly TablePartition[],
  logical: ReadonlySet<number>,
  remembered: ReadonlyMap<number, Remembered>,
): readonly TablePartition[] {
  const asBefore = partitions.map((partition): TablePartition | undefined => {
    const before = remembered.get(partition.startLba);
    const kind = logical.has(partition.number) ? 'logical' : 'primary';
    return before?.kind === kind ? { ...partition, kind, number: before.number } : undefined;
  });
  const known = asBefore.filter((partition) => partition !== undefined);
  if (known.length === partitions.length && new Set(known.map((one) => one.number)).size === known.length)
    return known;
  let primaries = 0;
  let logicals = 4;
  return partitions.map((partition): TablePartition => {
    const isLogical = logical.has(partition.number);
    if (isLogical) logicals += 1;
    else primaries += 1;
    return {
      ...partition,
      kind: isLogical ? 'logical' : 'primary',
      number: isLogical ? logicals : primaries,
    };
  });
}

const bytesOfContent: Readonly<Partial<Record<ContentKind, number>>> = {
  fat12: 0x01,
  fat16: 0x0e,
  fat32: 0x0c,
  exfat: 0x07,
  ntfs: 0x07,
};

function mbrPartition(
  partition: TablePartition,
  placed: Placed,
  table: PartitionTable,
  before: Remembered | undefined,
): TablePartition {
  const { guid: _guid, name: _name, attributes: _attributes, ...rest } = partition;
  const type = typeOf(partition.typeCode);
  const given = typeByte(partition.typeCode);
  const rememberedByte = before === undefined ? undefined : typeByte(before.typeCode);
  const byContent =
    type?.purpose === 'data' && partition.content ? bytesOfContent[partition.content.kind] : undefined;
  const byte = given ?? rememberedByte ?? byContent ?? type?.bytes[0] ?? 0x83;
  const lead = Math.min(roomBefore(placed, partition), alignmentSectors(table.sectorSizeBytes));
  const active =
    before?.kind === undefined || before.kind === 'entry'
      ? partition.role === 'system'
      : before.active === true;
  return {
    ...rest,
    typeCode: printTypeByte(byte),
    ...(active && partition.kind === 'primary' ? { active: true } : {}),
    ...(partition.kind === 'logical' ? { ebrLba: ebrLbaOf(partition, lead, before) } : {}),
  };
}

/** Where its EBR stood before, when it still is in the room before it. */
function ebrLbaOf({ startLba }: TablePartition, lead: number, before: Remembered | undefined): number {
  const old = before?.ebrLba;
  return old !== undefined && old < startLba && old >= startLba - lead ? old : startLba - lead;
}

function newSignature(random: Random): string {
  return [...random(4).subarray(0, 4)]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('')
    .padEnd(8, '0')
    .toUpperCase();
}
