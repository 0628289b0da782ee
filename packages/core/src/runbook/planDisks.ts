import { releaseTitle } from '../catalogue/find';
import type { FlowBand, Stretch } from '../disk/flow/diskFlow';
import { tableFromSurvey } from '../disk/fromSurvey';
import type { PlannedOperation } from '../disk/layout/operation';
import { routeLayout } from '../disk/routeLayout';
import { alignmentSectors } from '../disk/segment';
import { endLba, inDiskOrder, nameOf, type TablePartition } from '../disk/table/partitionTable';
import type { Operator } from '../machine/operator';
import { diskMark, isFixed, type Disk } from '../survey/disk';
import { valueOf } from '../survey/facts';
import { withDiskWork, type RunbookInput, type StepInput } from './input';
import { installerPartitionBytes } from '../route/installerMedia';
import type { PlanStates } from './planStates';
import { roomBesideBytes, roomToMake } from './roomToMake';
import { diskStepId } from './steps/disk';
import { apartInInstaller, layoutApart } from './layoutApart';

/** A disk through the steps of a plan: cut 0 is the disk as surveyed, cut n the disk after the n-th step. */
export type PlanDisk = {
  readonly name: string;
  /** As people call it: the end of its serial. */
  readonly called: string;
  readonly sectorSizeBytes: number;
  readonly sectorCount: number;
  /** Whether any step changes what is on it. */
  readonly changes: boolean;
  readonly bands: readonly FlowBand[];
};

/** The key of the band that is the installer's own partition. */
export const installerKey = 'installer';

/** A partition at one moment. */
type Area = Stretch & {
  readonly key: string;
  readonly label: string;
  readonly role: TablePartition['role'] | 'installer';
  readonly number?: number;
  readonly isNew: boolean;
  readonly usedSectors?: number;
};

/** Every fixed disk of the device, with each partition's place after each step; those that change first. */
export function planDisks(input: RunbookInput, { steps }: Pick<PlanStates, 'steps'>): readonly PlanDisk[] {
  const given = withDiskWork(input);
  return (valueOf(input.facts, 'disks') ?? [])
    .filter(isFixed)
    .map((disk): PlanDisk => {
      let now = areasOf(disk);
      const cuts = [now];
      for (const { step, operators } of steps) {
        const own = ownWork(given, disk);
        const operation = own?.operations.find((one, index) => diskStepId(one, index) === step.id);
        now = operation
          ? withOperation(now, operation)
          : operators.reduce((so, operator) => withOperator(so, operator, disk, given), now);
        cuts.push(now);
      }
      const bands = bandsOf(cuts);
      return {
        name: disk.name,
        called: diskMark(disk),
        sectorSizeBytes: disk.sectorBytes,
        sectorCount: disk.sectorCount,
        changes: bands.some(({ cuts: [first, ...later] }) => later.some((cut) => !isSame(first, cut))),
        bands,
      };
    })
    .toSorted((a, b) => Number(b.changes) - Number(a.changes));
}

const ownWork = ({ diskWork }: StepInput, disk: Disk) =>
  diskWork?.disk.name === disk.name ? diskWork : undefined;

const isSame = (one: Stretch | undefined, other: Stretch | undefined) =>
  one?.startLba === other?.startLba && one?.sectorCount === other?.sectorCount;

function areaOf(partition: TablePartition, sectorSizeBytes: number, isNew: boolean): Area {
  const { startLba, sectorCount, role, number, usedBytes } = partition;
  return {
    key: `${isNew ? 'new' : 'old'} ${startLba}`,
    label: nameOf(partition),
    role,
    number,
    isNew,
    startLba,
    sectorCount,
    ...(usedBytes === undefined
      ? {}
      : { usedSectors: Math.min(sectorCount, Math.ceil(usedBytes / sectorSizeBytes)) }),
  };
}

function areasOf(disk: Disk): readonly Area[] {
  return tableFromSurvey(disk).partitions.map((partition) => areaOf(partition, disk.sectorBytes, false));
}

/** Planned work on the table, one operation. */
function withOperation(areas: readonly Area[], operation: PlannedOperation): readonly Area[] {
  const changed = (number: number, change: Partial<Stretch>) =>
    areas.map((area) => (area.number === number && !area.isNew ? { ...area, ...change } : area));
  switch (operation.kind) {
    case 'shrink':
    case 'grow':
      return changed(operation.partition, { sectorCount: operation.toSectors });
    case 'move':
      return changed(operation.partition, { startLba: operation.toLba });
    case 'delete':
      return areas.filter(({ number, isNew }) => isNew || number !== operation.partition);
    case 'create': {
      const { startLba, sectorCount, purpose } = operation;
      return inDiskOrder([
        ...areas,
        {
          key: `new ${startLba}`,
          label: purpose,
          role: purpose === 'loader' ? ('boot' as const) : purpose,
          isNew: true,
          startLba,
          sectorCount,
        },
      ]);
    }
    case 'format':
    case 'set-type':
    case 'convert':
      return areas;
  }
}

/** What an operator leaves on a disk. */
function withOperator(
  areas: readonly Area[],
  operator: Operator,
  disk: Disk,
  input: StepInput,
): readonly Area[] {
  if ('disk' in operator && operator.disk !== disk.name) return areas;
  switch (operator.op) {
    case 'shrink':
      return shrunk(areas, operator.partition, roomToMake(input)?.bytes ?? 0, disk);
    case 'make-installer-partition':
      return withInstaller(areas, disk, input);
    case 'remove-installer':
      return areas.filter(({ role }) => role !== 'installer');
    case 'convert':
      return converted(areas, disk, input);
    case 'erase':
    case 'wipe':
      return [];
    case 'format-system':
      return areas.filter(({ role }) => role !== 'system');
    case 'install':
      return operator.into === 'free-run'
        ? withSecond(areas, disk, input)
        : apartInInstaller(input)
          ? apart(laidOut(areas, operator.into, disk, input), disk, input)
          : laidOut(areas, operator.into, disk, input);
    case 'make-data-partition':
      return apart(areas, disk, input);
    default:
      return areas;
  }
}

const sectorsOf = (bytes: number, disk: Disk) => {
  const align = alignmentSectors(disk.sectorBytes);
  return Math.ceil(bytes / disk.sectorBytes / align) * align;
};

function shrunk(areas: readonly Area[], number: number, bytes: number, disk: Disk): readonly Area[] {
  return areas.map((area) =>
    area.number === number && !area.isNew
      ? { ...area, sectorCount: Math.max(0, area.sectorCount - sectorsOf(bytes, disk)) }
      : area,
  );
}

/** The longest run that belongs to no partition, past the sectors of the tables. */
function longestRun(areas: readonly Area[], disk: Disk): Stretch {
  const edge = alignmentSectors(disk.sectorBytes);
  const ends = [edge, ...areas.map(endLba)];
  const starts = [...areas.map(({ startLba }) => startLba), disk.sectorCount - edge];
  return ends
    .map((startLba, index) => ({ startLba, sectorCount: (starts[index] ?? startLba) - startLba }))
    .reduce((longest, run) => (run.sectorCount > longest.sectorCount ? run : longest));
}

/** The installer's partition, at the end of the longest run. */
function withInstaller(areas: readonly Area[], disk: Disk, { release }: StepInput): readonly Area[] {
  const sectorCount = sectorsOf(release ? installerPartitionBytes(release) : 0, disk);
  const run = longestRun(areas, disk);
  const taken = Math.min(sectorCount, run.sectorCount);
  const startLba = endLba(run) - taken;
  return inDiskOrder([
    ...areas,
    { key: installerKey, label: 'installer', role: 'installer', isNew: true, startLba, sectorCount: taken },
  ]);
}

/** Contents stay in their place; entries that the other scheme has no use for go, and an EFI system partition comes. */
function converted(areas: readonly Area[], disk: Disk, input: StepInput): readonly Area[] {
  const work = ownWork(input, disk);
  if (!work) return areas;
  return work.after.partitions.map((partition) => {
    const was = areas.find(({ startLba }) => startLba === partition.startLba);
    return was
      ? { ...was, sectorCount: partition.sectorCount, number: partition.number }
      : areaOf(partition, disk.sectorBytes, true);
  });
}

/** The second system in its free run, behind an EFI system partition of its own where the house wants one. */
function withSecond(areas: readonly Area[], disk: Disk, input: StepInput): readonly Area[] {
  const run = longestRun(areas, disk);
  const wanted = roomBesideBytes(input);
  const room = wanted === undefined ? run.sectorCount : Math.min(run.sectorCount, sectorsOf(wanted, disk));
  const ownBytes = ownEfiBytes(input, disk);
  const own = ownBytes === undefined ? 0 : sectorsOf(ownBytes, disk);
  const { startLba } = run;
  if (own === 0 || own >= room)
    return inDiskOrder([...areas, asTarget({ startLba, sectorCount: room }, input)]);
  return inDiskOrder([
    ...areas,
    {
      key: `new efi ${startLba}`,
      label: 'EFI system partition',
      role: 'efi',
      isNew: true,
      startLba,
      sectorCount: own,
    },
    asTarget({ startLba: startLba + own, sectorCount: room - own }, input),
  ]);
}

/** Bytes of the second system's own EFI system partition; undefined where it shares the present one, or needs none. */
function ownEfiBytes({ houseRules, release, ...input }: StepInput, disk: Disk): number | undefined {
  if (houseRules.efiPartition === 'share' || disk.scheme !== 'gpt') return undefined;
  if (valueOf(input.facts, 'firmwareMode') === 'legacy') return undefined;
  return release?.installerPartitions.find(({ purpose }) => purpose === 'efi')?.sizeBytes;
}

function asTarget({ startLba, sectorCount }: Stretch, { release }: StepInput): Area {
  return {
    key: `new ${startLba}`,
    label: release ? releaseTitle(release) : 'system',
    role: 'system',
    isNew: true,
    startLba,
    sectorCount,
  };
}

/** What the installer lays out: as it was planned, else as the release does by itself. */
function laidOut(
  areas: readonly Area[],
  into: 'empty-disk' | 'system-partition',
  disk: Disk,
  input: StepInput,
): readonly Area[] {
  const planned =
    ownWork(input, disk)?.operations.flatMap((one) => (one.kind === 'create' ? [one] : [])) ?? [];
  if (planned.length > 0) return planned.reduce<readonly Area[]>(withOperation, areas);
  const layout =
    input.release &&
    routeLayout(disk, into === 'system-partition' ? 'system-partition' : 'whole-disk', input.release);
  const made = (layout?.after ?? []).filter(({ kind, fate }) => kind === 'partition' && fate === 'new');
  if (made.length === 0) return inDiskOrder([...areas, asTarget(longestRun(areas, disk), input)]);
  const largest = made.reduce((one, other) => (other.sectorCount > one.sectorCount ? other : one));
  return inDiskOrder([
    ...areas,
    ...made.map((segment): Area =>
      segment === largest
        ? asTarget(segment, input)
        : {
            key: `new ${segment.startLba}`,
            label: segment.label,
            role: undefined,
            isNew: true,
            startLba: segment.startLba,
            sectorCount: segment.sectorCount,
          },
    ),
  ]);
}

/** The new system comes down to its share, data get the rest: all of it, or as they were divided. */
function apart(areas: readonly Area[], disk: Disk, input: StepInput): readonly Area[] {
  const layout = layoutApart(input);
  const system = areas.find(({ role, isNew }) => role === 'system' && isNew);
  const share = layout ? sectorsOf(layout.systemBytes, disk) : 0;
  if (!layout || !system || share === 0 || share >= system.sectorCount) return areas;
  const end = endLba(system);
  let startLba = system.startLba + share;
  const parts: Area[] = [];
  for (const { name, sizeBytes } of layout.parts) {
    const sectorCount = Math.min(sizeBytes === null ? end : sectorsOf(sizeBytes, disk), end - startLba);
    if (sectorCount <= 0) break;
    parts.push({ key: `new ${startLba}`, label: name, role: 'data', isNew: true, startLba, sectorCount });
    startLba += sectorCount;
  }
  return inDiskOrder([
    ...areas.filter((area) => area !== system),
    { ...system, sectorCount: share },
    ...parts,
  ]);
}

/** One band for everything that is on the disk at some moment. */
function bandsOf(cuts: readonly (readonly Area[])[]): readonly FlowBand[] {
  const all = new Map(cuts.flat().map((area) => [area.key, area]));
  return [...all.values()].map(({ key, label, role, isNew, usedSectors, number }): FlowBand => {
    const places = cuts.map((areas): Stretch | undefined => {
      const area = areas.find((one) => one.key === key);
      return area && { startLba: area.startLba, sectorCount: area.sectorCount };
    });
    const starts = new Set(places.flatMap((place) => (place ? [place.startLba] : [])));
    return {
      key,
      label,
      kind: role === 'data' || role === undefined ? 'data' : 'system',
      fate: isNew ? 'new' : places.at(-1) === undefined ? 'erased' : starts.size > 1 ? 'moves' : 'stays',
      ...(number === undefined ? {} : { numberBefore: number }),
      ...(usedSectors === undefined ? {} : { usedSectors }),
      cuts: places,
    };
  });
}
