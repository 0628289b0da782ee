import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import type { DataSet, Destination, FileListHead } from '../src/backup';
import { findModel, findRelease, resolveCatalogue, type Catalogue, type Release } from '../src/catalogue';
import { defaultPractice, type Practice } from '../src/practice';
import { numberMarks } from '../src/quantity';
import { newMove, type CommandContext, type Move } from '../src/record';
import { routes, type RouteId } from '../src/route';
import { nothingPrepared, type RunbookInput } from '../src/runbook';
import { factsFromSurvey, valueOf, type Disk, type Facts, type Survey } from '../src/survey';

/** The day of every bench story. */
export const today = '2026-03-02';
export const now = '2026-03-02T10:00:00.000Z';

const file: unknown = JSON.parse(
  readFileSync(new URL('../../../data/catalogue/catalogue.json', import.meta.url), 'utf8'),
);

function shippedCatalogue(): Catalogue {
  const resolved = resolveCatalogue(file, today);
  if (!resolved.ok) throw new Error(resolved.problems.map(({ sentence }) => sentence).join(' '));
  return resolved.value;
}

/** The head of a list of ten files of ten bytes each, with a new id each time. */
export function listHead(
  given: Partial<Omit<FileListHead, 'at' | 'by'>> & Pick<FileListHead, 'dataSetId'>,
): Omit<FileListHead, 'at' | 'by'> {
  return {
    id: randomUUID(),
    role: 'before',
    destinationId: null,
    source: 'hashed',
    sampledFrom: null,
    fileCount: 10,
    sizeBytes: 100,
    largestFileBytes: 10,
    withoutSize: 0,
    withoutDigest: 0,
    troubled: 0,
    ...given,
  };
}

export const catalogueFile = file;
export const catalogue = shippedCatalogue();

export function releaseOf(id: string): Release {
  const release = findRelease(catalogue, id);
  if (!release) throw new Error(`no release ${id}`);
  return release;
}

const mib = 2048;
const gb = 1_000_000_000;

/** A 256 GB solid-state disk with GPT: EFI, system (120 GiB, 40 GB used), data (100 GiB), recovery. */
export const splitDisk: Disk = {
  name: 'sda',
  model: 'Halyard 3',
  serial: 'HX7714A9C2E',
  bus: 'sata',
  rotational: false,
  removable: false,
  sectorBytes: 512,
  sectorCount: 500_118_192,
  scheme: 'gpt',
  health: 'good',
  partitions: [
    { number: 1, startLba: mib, sectorCount: 260 * mib, role: 'efi', label: 'EFI', fileSystem: 'fat32' },
    { number: 2, startLba: 261 * mib, sectorCount: 16 * mib, role: 'reserved' },
    {
      number: 3,
      startLba: 277 * mib,
      sectorCount: 122_880 * mib,
      role: 'system',
      label: 'SYSTEM',
      fileSystem: 'ntfs',
      usedBytes: 40 * gb,
    },
    {
      number: 4,
      startLba: 123_157 * mib,
      sectorCount: 102_400 * mib,
      role: 'data',
      label: 'DATA',
      fileSystem: 'ntfs',
      usedBytes: 60 * gb,
      mountedAt: '/media/data',
    },
    { number: 5, startLba: 225_557 * mib, sectorCount: 620 * mib, role: 'recovery', label: 'RECOVERY' },
  ],
};

/** A laptop that takes Corvel 10 after two firmware switches. */
export const laptopSurvey: Survey = {
  format: 'ulvane-survey',
  version: 1,
  takenAt: '2026-03-02T09:12:00.000Z',
  collector: { version: '1.0.0', asRoot: true, rootWouldAdd: [] },
  device: { maker: 'Kestle', model: 'Fenwright 14', serial: 'KF14-70Q8-0B1I', year: 2017, chassis: 'laptop' },
  processor: {
    name: 'four cores',
    wordBits: 64,
    cores: 4,
    clockMhz: 2600,
    flags: ['sse2', 'sse4_2', 'popcnt'],
  },
  memoryBytes: 8 * 1024 ** 3,
  firmware: { mode: 'uefi', secureBoot: 'off', tpm: 'present-off' },
  display: { graphicsTier: 2, widthPixels: 1366, heightPixels: 768 },
  disks: [splitDisk],
  power: { batteryPercent: 80, charger: 'connected' },
  network: [{ name: 'wl-a', kind: 'wireless', driver: 'marl-wifi' }],
  system: {
    release: 'corvel-9-business',
    language: 'en',
    activation: 'digital',
    diskEncryption: 'off',
    fastStart: 'on',
    applications: ['letterpress', 'browser'],
  },
  folders: [
    {
      owner: 'Crew room',
      name: 'Documents',
      path: '/media/data/Documents',
      sizeBytes: 31 * gb,
      fileCount: 18_204,
      largestFileBytes: gb,
    },
  ],
};

export const laptop: Facts = factsFromSurvey(laptopSurvey, 'collector');

/** The laptop's facts with some of its survey's parts changed. */
export function laptopWith(parts: Partial<Survey>): Facts {
  return factsFromSurvey({ ...laptopSurvey, ...parts }, 'collector');
}

export function without<K extends keyof Facts>(facts: Facts, key: K): Facts {
  const { [key]: _gone, ...rest } = facts;
  return rest;
}

export const documents: DataSet = {
  id: 'documents',
  name: 'Documents',
  kind: 'folder',
  path: '/media/system/Documents',
  sizeBytes: 31 * gb,
  fileCount: 18_204,
  largestFileBytes: gb,
  place: 'system-partition',
};
export const pictures: DataSet = {
  ...documents,
  id: 'pictures',
  name: 'Pictures',
  path: '/media/data/Pictures',
  sizeBytes: 42 * gb,
  place: 'data-partition',
};

export const driveB7: Destination = {
  id: 'b-07',
  name: 'B-07',
  kind: 'drive',
  serial: 'OSB-7731C',
  capacityBytes: 2000 * gb,
  freeBytes: 1200 * gb,
  fileSystem: 'exfat',
  link: 'usb3',
  medium: 'spinning',
  takes: ['documents', 'pictures'],
};
export const share: Destination = {
  ...driveB7,
  id: 'pier-store',
  name: 'Pier store',
  kind: 'share',
  serial: '',
  fileSystem: 'network',
  link: 'gigabit',
  medium: 'server',
};

export const technician: CommandContext = {
  catalogue,
  practice: defaultPractice,
  actor: { name: 'Ines', role: 'technician' },
  now,
};
export const lead: CommandContext = { ...technician, actor: { name: 'Maud', role: 'lead' } };

export const emptyMove: Move = newMove({
  id: '2f0a4d4e-6f4b-4a9d-8a55-0f6f1f0c9a11',
  reference: 'MV-0042',
  createdAt: now,
});

/** What a command gave, or a failed test with its sentences. */
export function done(
  outcome:
    | { readonly ok: true; readonly value: { readonly move: Move } }
    | { readonly ok: false; readonly problems: readonly { readonly sentence: string }[] },
): Move {
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value.move;
}

/** The codes of the problems, empty where there are none. */
export function codesOf(outcome: {
  readonly ok: boolean;
  readonly problems?: readonly { readonly code: string }[];
}): string[] {
  return (outcome.problems ?? []).map(({ code }) => code);
}

export function inputFor(
  routeId: RouteId,
  releaseId: string | null,
  change: Partial<RunbookInput> = {},
): RunbookInput {
  const facts = change.facts ?? laptop;
  return {
    route: routes[routeId],
    release: findRelease(catalogue, releaseId ?? undefined),
    present: findRelease(catalogue, valueOf(facts, 'presentRelease')),
    facts,
    model: findModel(catalogue, valueOf(facts, 'maker'), valueOf(facts, 'model'), valueOf(facts, 'year'))
      .model,
    practice: defaultPractice,
    departures: [],
    bringing: 'stick',
    waivers: [],
    dataSets: [documents, pictures],
    destinations: [driveB7, share],
    preparation: nothingPrepared,
    ...change,
  };
}

export const anyPractice: fc.Arbitrary<Practice> = fc.record({
  manner: fc.constantFrom('keep' as const, 'start-clean' as const),
  erase: fc.constantFrom('whole-disk' as const, 'system-partition' as const),
  otherDisks: fc.constantFrom('unplug' as const, 'tell-apart' as const),
  savedAs: fc.constantFrom('data' as const, 'image' as const, 'both' as const),
  copiesBeforeLine: fc.constantFrom(1 as const, 2 as const),
  timeZone: fc.constantFrom('UTC', 'Etc/GMT-1'),
  copyProof: fc.constantFrom('compared' as const, 'sampled' as const, 'stated' as const),
  cloudCopyCounts: fc.boolean(),
  dataPartition: fc.constantFrom('one' as const, 'separate' as const),
  encryption: fc.constantFrom('during-setup' as const, 'after' as const, 'off' as const),
  networkDuringSetup: fc.constantFrom('online' as const, 'offline' as const),
  account: fc.constantFrom('organisation' as const, 'online' as const, 'local' as const),
  boot: fc.constantFrom('menu-once' as const, 'change-order' as const),
  efiPartition: fc.constantFrom('share' as const, 'own' as const),
  stick: fc.constantFrom('minimum' as const, 'with-margin' as const),
  stickTool: fc.constantFrom('official' as const, 'image-writer' as const),
  belowMinimum: fc.constantFrom('waive' as const, 'alternative' as const, 'replace' as const),
  partitioning: fc.constantFrom('guided' as const, 'by-hand' as const),
  optionalUpdates: fc.boolean(),
  spokenGigabyte: fc.constantFrom('decimal' as const, 'binary' as const),
  writtenNumbers: fc.constantFrom(...numberMarks),
  keepBackupDays: fc.integer({ min: 1, max: 90 }),
  weights: fc.constant(defaultPractice.weights),
});
