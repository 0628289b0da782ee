import { fileSystems } from '../../catalogue/fileSystems';
import { typedIn, type BoxUnit } from '../../quantity/boxUnit';
import { diskMark, type Disk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import { diskIdOf } from '../machineOf';
import type { StepInput } from '../input';
import { apartInInstaller } from '../layoutApart';
import { installerKey, planDisks, type PlanDisk } from '../planDisks';
import type { PlanStates } from '../planStates';

/** A partition on the installer's partition page. */
export type HandPartition = {
  /** As the table numbers it; of what is made, the lowest free one: the installer may give another. */
  readonly number: number;
  readonly label: string;
  /** What it is for; undefined where nobody has marked that. */
  readonly purpose: Purpose | undefined;
  readonly startBytes: number;
  readonly sizeBytes: number;
  /**
   * In the box's unit: as it is shown there, or of what is made, as it is typed. A typed start is rounded up and a typed
   * size down, so that neither reaches into a neighbour.
   */
  readonly start: string;
  readonly size: string;
  readonly fileSystem: string;
  /** Null where the installer does not ask, or it is mounted nowhere. */
  readonly mountPoint: string | null;
  readonly format: 'delete' | 'yes' | 'never';
};

/** Something to compare at the bench before the page is left. */
export type HandCheck = { readonly id: string; readonly sentence: string; readonly holds: boolean };

/** What to make and what to leave on the disk that the installer writes to. */
export type HandPartitions = {
  readonly disk: { readonly name: string; readonly called: string; readonly sizeBytes: number };
  readonly unit: BoxUnit;
  readonly deleted: readonly HandPartition[];
  readonly made: readonly HandPartition[];
  readonly kept: readonly HandPartition[];
  /** The EFI system partition that the loader goes to: the new system's own, else the one that is there. */
  readonly loader: HandPartition | undefined;
  readonly checks: readonly HandCheck[];
};

type Band = PlanDisk['bands'][number];
type Place = NonNullable<Band['cuts'][number]>;

const isInstallKind = (op: string) => op === 'install' || op === 'install-over';
const empties = (op: string) => op === 'erase' || op === 'format-system' || isInstallKind(op);

/**
 * The installer's partition page, from the plan's own drawing of the disk before it is emptied and after it is laid
 * out; undefined where no installer lays anything out, or nobody has surveyed the disk.
 */
export function handPartitions(input: StepInput, states: PlanStates): HandPartitions | undefined {
  const { release } = input;
  const disk = valueOf(input.facts, 'disks')?.find(({ name }) => name === diskIdOf(input));
  const ops = states.steps.map(({ operators }) => operators.map(({ op }) => op));
  const first = ops.findIndex((own) => own.some(empties));
  const last = ops.findLastIndex((own) => own.some(isInstallKind));
  if (!disk || !release || first < 0 || last < 0) return undefined;
  const drawn = planDisks(input, states).find(({ name }) => name === disk.name);
  if (!drawn) return undefined;
  const at = (cut: number) =>
    drawn.bands.flatMap((band) => {
      const place = band.cuts[cut];
      return place ? [{ band, place }] : [];
    });
  const [before, after] = [at(first), at(last + 1)];
  const isIn = (list: typeof before, { band }: (typeof before)[number]) =>
    list.some((other) => other.band === band);
  const unit = release.sizeBoxUnit;
  // Somebody may call one of them “boot”: that is a name, and no purpose.
  const apart = new Set(apartInInstaller(input)?.parts.map(({ name }) => name));
  const purposeAt = ({ band, place }: (typeof after)[number], format: HandPartition['format']) =>
    format === 'yes'
      ? apart.has(band.label)
        ? 'data'
        : purposeOf(band.label, band.kind)
      : disk.partitions.find(({ startLba }) => startLba === place.startLba)?.role;
  const hasOwnEfi = after.some((one) => !isIn(before, one) && purposeAt(one, 'yes') === 'efi');
  const row = (
    { band, place }: { readonly band: Band; readonly place: Place },
    number: number,
    format: HandPartition['format'],
  ): HandPartition => {
    const startBytes = place.startLba * disk.sectorBytes;
    const sizeBytes = place.sectorCount * disk.sectorBytes;
    const surveyed = disk.partitions.find(({ startLba }) => format !== 'yes' && startLba === place.startLba);
    const purpose = purposeAt({ band, place }, format);
    // The system that stays is not the root of the new one, and its EFI partition is not the new one's own.
    const isOthers = format === 'never' && (purpose === 'system' || (purpose === 'efi' && hasOwnEfi));
    const mounted = isOthers ? undefined : purpose;
    const start = typedIn(startBytes, unit, format === 'yes' ? Math.ceil : Math.floor);
    const room = format === 'yes' ? startBytes + sizeBytes - start.bytes : sizeBytes;
    return {
      number,
      label: surveyed?.label ?? surveyed?.role ?? band.label,
      purpose,
      startBytes,
      sizeBytes,
      start: start.text,
      size: typedIn(Math.max(0, room), unit, Math.floor).text,
      fileSystem:
        format === 'yes'
          ? madeFileSystem(purpose, release.systemFileSystem)
          : foundFileSystem(surveyed, band.key === installerKey),
      mountPoint:
        release.mountPoints && format !== 'delete'
          ? format === 'yes' && apart.has(band.label)
            ? mountOf(band.label)
            : (mountPoints[mounted ?? 'none'] ?? null)
          : null,
      format,
    };
  };
  const stays = after.filter((one) => isIn(before, one));
  const taken = new Set(stays.flatMap(({ band }) => band.numberBefore ?? []));
  const numbered = (format: HandPartition['format']) => (one: (typeof after)[number]) => {
    // What the plan made meanwhile, and what is made here, has no number in the surveyed table.
    const number = one.band.numberBefore ?? lowestFree(taken);
    taken.add(number);
    return row(one, number, format);
  };
  const kept = stays.map(numbered('never'));
  const deleted = before
    .filter((one) => !isIn(after, one))
    .map((one) => row(one, one.band.numberBefore ?? 0, 'delete'));
  const made = after.filter((one) => !isIn(before, one)).map(numbered('yes'));
  const loader = [...made, ...kept].find(({ purpose }) => purpose === 'efi');
  const called = diskMark(disk);
  const sizeBytes = disk.sectorBytes * disk.sectorCount;
  return {
    disk: { name: disk.name, called, sizeBytes },
    unit,
    deleted,
    made,
    kept,
    loader,
    checks: [
      ...loaderCheck(disk, loader, release.loaderBytes),
      ...sumChecks(made, unit),
      ...(made.length === 0
        ? []
        : [
            {
              id: 'numbers',
              sentence: 'The installer gives the numbers: compare the starts.',
              holds: true,
            },
          ]),
      endCheck([...made, ...kept], sizeBytes, unit),
    ],
  };
}

function lowestFree(taken: ReadonlySet<number>): number {
  let number = 1;
  while (taken.has(number)) number += 1;
  return number;
}

type Purpose = NonNullable<Disk['partitions'][number]['role']>;

const purposes: readonly Purpose[] = ['efi', 'reserved', 'recovery', 'boot', 'swap', 'data'];

/** What is made is drawn with its purpose as its label; the system with its release. */
function purposeOf(label: string, kind: Band['kind']): Purpose | undefined {
  return (
    purposes.find((one) => label.toLowerCase().startsWith(one)) ?? (kind === 'system' ? 'system' : undefined)
  );
}

/** The file system that is there, by the name that people know; reserved space has none. */
function foundFileSystem(surveyed: Disk['partitions'][number] | undefined, isInstaller: boolean): string {
  const id = surveyed?.fileSystem ?? (isInstaller ? 'fat32' : undefined);
  if (id !== undefined) return fileSystems.find((one) => one.id === id)?.name ?? id;
  return surveyed?.role === 'reserved' ? 'none' : 'not known';
}

function madeFileSystem(purpose: Purpose | undefined, system: string): string {
  switch (purpose) {
    case 'efi':
      return 'FAT32';
    case 'reserved':
      return 'none';
    case 'swap':
      return 'swap';
    case 'system':
    case 'data':
    case 'boot':
    case 'recovery':
    case undefined:
      return system;
  }
}

/** Where the common hierarchy has each (Filesystem Hierarchy Standard 3.0; `/data` is the house's own). */
const mountPoints: Readonly<Partial<Record<Purpose | 'none', string>>> = {
  system: '/',
  efi: '/boot/efi',
  boot: '/boot',
  data: '/data',
};

/** One for data is mounted by its name. */
const mountOf = (name: string) =>
  `/${
    name
      .toLowerCase()
      .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
      .replaceAll(/^-|-$/g, '') || 'data'
  }`;

/** Whether the loader has room on the EFI system partition that it goes to. */
function loaderCheck(disk: Disk, efi: HandPartition | undefined, loaderBytes: number): readonly HandCheck[] {
  if (!efi) return [];
  const used = disk.partitions.find(
    ({ startLba }) => efi.format === 'never' && startLba * disk.sectorBytes === efi.startBytes,
  )?.usedBytes;
  const where = `Loader on ${diskMark(disk)}, partition ${efi.number}`;
  const puts = typedIn(loaderBytes, 'MiB', Math.ceil).text;
  if (efi.format === 'never' && used === undefined)
    return [
      { id: 'loader', sentence: `${where}: ${puts} MiB; how much is free there is not known.`, holds: true },
    ];
  const free = efi.sizeBytes - (used ?? 0);
  return [
    {
      id: 'loader',
      sentence: `${where}: ${puts} MiB, ${typedIn(free, 'MiB', Math.floor).text} free.`,
      holds: free >= loaderBytes,
    },
  ];
}

/** Partitions that are made one behind the other, added up. */
function sumChecks(made: readonly HandPartition[], unit: BoxUnit): readonly HandCheck[] {
  const runs: HandPartition[][] = [];
  for (const one of made) {
    const run = runs.at(-1);
    const before = run?.at(-1);
    if (run && before && before.startBytes + before.sizeBytes === one.startBytes) run.push(one);
    else runs.push([one]);
  }
  return runs
    .filter((run) => run.length > 1)
    .map((run) => {
      // Of what is typed, not of what it stands for: a box may round.
      const sum = Math.round(run.reduce((total, { size }) => total + Number(size), 0) * 100) / 100;
      const end = run.reduce((last, { startBytes, sizeBytes }) => Math.max(last, startBytes + sizeBytes), 0);
      return {
        id: `sum-${run[0]?.number ?? 0}`,
        sentence: `${run.map(({ size }) => size).join(' + ')} = ${sum}: ${run
          .map(({ number }) => number)
          .join(', ')} one behind the other, up to ${typedIn(end, unit, Math.floor).text}.`,
        holds: true,
      };
    });
}

function endCheck(all: readonly HandPartition[], diskSizeBytes: number, unit: BoxUnit): HandCheck {
  const end = Math.max(0, ...all.map(({ startBytes, sizeBytes }) => startBytes + sizeBytes));
  return {
    id: 'end',
    sentence: `Last end ${typedIn(end, unit, Math.floor).text}; the disk has ${typedIn(diskSizeBytes, unit, Math.floor).text} ${unit}.`,
    holds: end <= diskSizeBytes,
  };
}

/** What the page says in one line. @example 'Delete 1, make 3, leave 4' */
export function handSummary({ deleted, made, kept }: HandPartitions): string {
  const parts = [
    ...(deleted.length > 0 ? [`delete ${deleted.length}`] : []),
    ...(made.length > 0 ? [`make ${made.length}`] : []),
    ...(kept.length > 0 ? [`leave ${kept.length}`] : []),
  ].join(', ');
  return parts === '' ? 'Nothing to change' : parts.charAt(0).toUpperCase() + parts.slice(1);
}
