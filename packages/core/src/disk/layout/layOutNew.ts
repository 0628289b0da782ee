import type { Outcome } from '../../outcome/outcome';
import { printBothUnits } from '../../quantity/bytes';
import { alignmentSectors } from '../segment';

import {
  calledBy,
  gptBounds,
  inDiskOrder,
  mbrLimitLba,
  type PartitionTable,
  type TablePartition,
} from '../table/partitionTable';
import { areasOf } from './areas';
import type { LayoutOptions, LayoutPlanGoal, NewPurpose, WantedPartition } from './goal';
import { refusePlan, type LaidOut } from './layoutPlan';
import { entryFor } from './newEntry';
import { moveRisk, type Operation } from './operation';

type NewGoal = Extract<LayoutPlanGoal, { readonly installer: readonly WantedPartition[] }>;

/** A release's own partitions and its system: over the whole disk, or in the place of the present system. */
export function layOutNew(table: PartitionTable, goal: NewGoal, options: LayoutOptions): Outcome<LaidOut> {
  const place = goal.kind === 'wipe' ? wholeDisk(table, goal.scheme) : systemPlace(table, options);
  if (!place.ok) return place;
  const { going, base, firstLba, endLba, logical } = place.value;
  const kept = going.filter(
    ({ number }) => options.promised?.has(number) === true || options.locked?.has(number) === true,
  );
  if (kept.length > 0)
    return {
      ok: false,
      problems: kept.map((partition) => ({
        code: 'promised',
        path: `/partitions/${partition.number}`,
        sentence: `${calledBy(partition)} would be erased, and it is to be kept${options.locked?.has(partition.number) ? `: ${options.locked.get(partition.number) ?? ''}` : ' on this route'}.`,
      })),
    };
  const align = alignmentSectors(table.sectorSizeBytes);
  const up = (sectors: number) => Math.ceil(sectors / align) * align;
  const first = up(firstLba);
  const last = Math.floor(endLba / align) * align;
  const present = new Set(base.partitions.map(({ role }) => role as string | undefined));
  // MBR has no partition for a loader: it keeps its code before the first one.
  const wanted = goal.installer.filter(
    ({ purpose }) => !present.has(purpose) && (purpose !== 'loader' || base.scheme === 'gpt'),
  );
  const sectorsOf = ({ sizeBytes }: WantedPartition) => up(Math.ceil(sizeBytes / table.sectorSizeBytes));
  const before = wanted.filter(({ purpose }) => purpose !== 'recovery');
  const after = wanted.filter(({ purpose }) => purpose === 'recovery');
  const small = wanted.reduce((sum, one) => sum + sectorsOf(one), 0);
  const systemSectors = last - first - small;
  if (systemSectors < align)
    return refusePlan(
      'no-room',
      '',
      `The release’s own partitions take ${printBothUnits(small * table.sectorSizeBytes)}: nothing would be left for the system.`,
    );
  // Logical partitions take no entry of their own: the extended one around them does.
  const entries = base.partitions.filter(({ kind }) => kind !== 'logical').length;
  const count = entries + (base.extended ? 1 : 0) + wanted.length + 1;
  if (base.scheme === 'mbr' && !logical && count > 4)
    return refusePlan(
      'no-free-entry',
      '',
      `${count} partitions are needed and MBR has four entries: lay the disk out as GPT.`,
    );
  let next = first;
  let result = base;
  const created: { readonly entry: TablePartition; readonly purpose: NewPurpose }[] = [];
  const add = (purpose: WantedPartition['purpose'], sectorCount: number) => {
    const entry = entryFor(result, { startLba: next, sectorCount, purpose, logical }, options.random);
    created.push({ entry, purpose });
    result = { ...result, partitions: inDiskOrder([...result.partitions, entry]) };
    next += sectorCount;
  };
  for (const one of before) add(one.purpose, sectorsOf(one));
  add('system', systemSectors);
  for (const one of after) add(one.purpose, sectorsOf(one));
  return {
    ok: true,
    value: {
      after: result,
      operations: [
        ...going.map(({ number }): Operation => ({ kind: 'delete', partition: number })),
        ...(table.scheme !== base.scheme
          ? [
              {
                kind: 'convert' as const,
                target: base.scheme === 'mbr' ? ('mbr' as const) : ('gpt' as const),
              },
            ]
          : []),
        ...created.map(({ entry, purpose }): Operation => ({
          kind: 'create',
          partition: entry.number,
          startLba: entry.startLba,
          sectorCount: entry.sectorCount,
          purpose,
        })),
      ],
    },
  };
}

type Place = {
  readonly going: readonly TablePartition[];
  readonly base: PartitionTable;
  readonly firstLba: number;
  readonly endLba: number;
  readonly logical: boolean;
};

function wholeDisk(table: PartitionTable, scheme: 'gpt' | 'mbr'): Outcome<Place> {
  const { sectorSizeBytes, sectorCount } = table;
  const align = alignmentSectors(sectorSizeBytes);
  const bounds =
    scheme === 'gpt'
      ? gptBounds(sectorSizeBytes, sectorCount)
      : { firstUsableLba: 1, lastUsableLba: Math.min(sectorCount, mbrLimitLba) - 1 };
  return {
    ok: true,
    value: {
      going: table.partitions,
      base: {
        scheme,
        sectorSizeBytes,
        sectorCount,
        partitions: [],
        ...bounds,
        ...(scheme === 'gpt'
          ? {
              gpt: {
                entryCount: 128,
                entrySizeBytes: 128,
                entriesLba: 2,
                backupLba: sectorCount - 1,
                hybrid: false,
              },
            }
          : {}),
        findings: [],
      },
      firstLba: Math.max(align, bounds.firstUsableLba),
      endLba: bounds.lastUsableLba + 1,
      logical: false,
    },
  };
}

function systemPlace(table: PartitionTable, options: LayoutOptions): Outcome<Place> {
  const system = table.partitions.find(({ role }) => role === 'system');
  if (!system)
    return refusePlan(
      'no-system',
      '',
      'Which partition carries the system is not known: mark it among the disks on Survey.',
    );
  const area = areasOf(table, options, moveRisk).find(({ pieces }) =>
    pieces.some(({ partition }) => partition === system),
  );
  const at = area?.pieces.findIndex(({ partition }) => partition === system) ?? -1;
  const before = area?.pieces[at - 1];
  const behind = area?.pieces[at + 1];
  return {
    ok: true,
    value: {
      going: [system],
      base: { ...table, partitions: table.partitions.filter((partition) => partition !== system) },
      firstLba: Math.max(system.startLba, before ? before.startLba + before.sectorCount : 0),
      endLba: behind?.takenFromLba ?? area?.endLba ?? system.startLba + system.sectorCount,
      logical: system.kind === 'logical',
    },
  };
}
