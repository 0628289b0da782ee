import { enoughMemoryBytes } from '../assess/rules/memory';
import { activationKinds, type Catalogue } from '../catalogue/catalogue';
import { releaseTitle } from '../catalogue/find';
import type { Requirement, RequirementKind } from '../catalogue/requirement';
import { roomNeededBytes, shrinkableFloor } from '../disk/room';
import { printBytes } from '../quantity/bytes';
import { dataPartitions, partitionBytes, systemDisk, systemPartition, type Disk } from '../survey/disk';
import { valueOf, type FactKey, type Facts } from '../survey/facts';
import type { FactPatch } from '../survey/patch';
import type { DecideInput } from './candidates';
import { estimateStepBytes } from './estimate';

/** One class of values of an aspect: every value in it gives the same answer to every rule. */
export type AspectClass = {
  /** In words, as a condition: “8.0 GiB of memory or more”. */
  readonly when: string;
  /** Facts with a value of the class. */
  readonly patch: FactPatch;
  /** Whether the present value is of this class. */
  readonly isPresent: boolean;
  /** For numbers: the class begins here, and ends where the next one begins. */
  readonly from?: number;
  /** For numbers, in words: its beginning, null for the lowest; and its end, null for none. */
  readonly range?: { readonly from: string | null; readonly to: string | null };
};

/** A run of numbers in words. @example rangeText({ from: null, to: '4 GiB' }) // 'less than 4 GiB' */
export function rangeText({ from, to }: NonNullable<AspectClass['range']>): string {
  if (from === null) return to === null ? 'any' : `less than ${to}`;
  return to === null ? `${from} or more` : `${from} or more, less than ${to}`;
}

/** Something about the device that could be different or is not known yet. */
export type Aspect = {
  readonly id: string;
  readonly label: string;
  readonly key: FactKey;
  readonly isKnown: boolean;
  readonly classes: readonly AspectClass[];
};

function minima<K extends RequirementKind>(
  { releases }: Catalogue,
  kind: K,
  read: (requirement: Extract<Requirement, { kind: K }>) => number,
): number[] {
  return releases.flatMap(({ requirements }) =>
    requirements.flatMap((requirement) => (isOf(requirement, kind) ? [read(requirement)] : [])),
  );
}

function isOf<K extends RequirementKind>(
  requirement: Requirement,
  kind: K,
): requirement is Extract<Requirement, { kind: K }> {
  return requirement.kind === kind;
}

/** Splits the whole numbers from `lowest` on at the places where some rule answers differently. */
function numberClasses(
  cuts: readonly number[],
  lowest: number,
  highest: number,
  present: number | undefined,
  patch: (value: number) => FactPatch,
  print: (value: number) => string,
): AspectClass[] {
  const starts = [...new Set([lowest, ...cuts.filter((cut) => cut > lowest && cut <= highest)])].sort(
    (a, b) => a - b,
  );
  return starts.map((from, index) => {
    const end = starts[index + 1];
    const range = { from: index === 0 ? null : print(from), to: end === undefined ? null : print(end) };
    return {
      when: rangeText(range),
      range,
      patch: patch(from),
      from,
      isPresent: present !== undefined && present >= from && (end === undefined || present < end),
    };
  });
}

function wordClasses<T extends string | number>(
  values: readonly T[],
  present: T | undefined,
  patch: (value: T) => FactPatch,
  words: (value: T) => string = String,
): AspectClass[] {
  return values.map((value) => ({ when: words(value), patch: patch(value), isPresent: value === present }));
}

/** Every set of the flags that some release asks for. */
function flagSets({ releases }: Catalogue): readonly (readonly string[])[] {
  const asked = [
    ...new Set(
      releases.flatMap(({ requirements }) =>
        requirements.flatMap((requirement) =>
          requirement.kind === 'processor-features' ? requirement.flags : [],
        ),
      ),
    ),
  ].sort();
  // Doubling with each flag: a catalogue asks for a handful.
  return asked
    .slice(0, 8)
    .reduce<string[][]>((sets, flag) => [...sets, ...sets.map((set) => [...set, flag])], [[]]);
}

function drivers({ releases }: Catalogue): string[] {
  return [...new Set(releases.flatMap(({ bundledDrivers }) => bundledDrivers))].sort();
}

/**
 * Everything about a device that the rules look at, split into classes within which every rule gives
 * the same answer: trying one value of each class tries them all. Maker and model are left out where
 * they are known (another model is another device).
 */
export function aspectsOf({ facts, catalogue }: Pick<DecideInput, 'facts' | 'catalogue'>): readonly Aspect[] {
  const aspects: Aspect[] = [];
  const tell = (key: FactKey, label: string, classes: readonly AspectClass[], id: string = key) =>
    aspects.push({ id, label, key, isKnown: facts[key] !== undefined, classes });
  const of = <K extends FactKey>(key: K) => valueOf(facts, key);
  const whole = String;

  tell(
    'wordBits',
    'Processor word size',
    wordClasses(
      [32, 64] as const,
      of('wordBits'),
      (wordBits) => ({ wordBits }),
      (bits) => `${bits} bit`,
    ),
  );
  tell(
    'cores',
    'Cores',
    numberClasses(
      minima(catalogue, 'cores', (r) => r.minimum),
      1,
      1024,
      of('cores'),
      (cores) => ({ cores }),
      (n) => `${n} cores`,
    ),
  );
  tell(
    'clockMhz',
    'Clock',
    numberClasses(
      minima(catalogue, 'clock', (r) => r.minimumMhz),
      1,
      20_000,
      of('clockMhz'),
      (clockMhz) => ({ clockMhz }),
      (n) => `${n} MHz`,
    ),
  );
  const flags = of('cpuFlags');
  const sets = flagSets(catalogue);
  const asked = sets.at(-1) ?? [];
  tell(
    'cpuFlags',
    'Processor features',
    sets.map((set) => ({
      when: set.length === 0 ? `none of ${asked.join(', ')}` : set.join(', '),
      patch: { cpuFlags: [...set] },
      isPresent: flags !== undefined && asked.every((flag) => flags.includes(flag) === set.includes(flag)),
    })),
  );
  tell(
    'memoryBytes',
    'Memory',
    numberClasses(
      minima(catalogue, 'memory', (r) => enoughMemoryBytes(r.minimumBytes)),
      1,
      Number.MAX_SAFE_INTEGER,
      of('memoryBytes'),
      (memoryBytes) => ({ memoryBytes }),
      (n) => printBytes(n, 'binary'),
    ),
  );
  tell(
    'firmwareMode',
    'Firmware mode',
    wordClasses(
      ['uefi', 'legacy', 'uefi-with-legacy'] as const,
      of('firmwareMode'),
      (firmwareMode) => ({ firmwareMode }),
      (mode) =>
        ({ uefi: 'UEFI', legacy: 'legacy', 'uefi-with-legacy': 'UEFI with legacy compatibility on' })[mode],
    ),
  );
  tell(
    'secureBoot',
    'Secure Boot',
    wordClasses(
      ['on', 'off', 'not-supported'] as const,
      of('secureBoot'),
      (secureBoot) => ({ secureBoot }),
      (state) => state.replace('-', ' '),
    ),
  );
  tell(
    'tpm',
    'Security chip (TPM)',
    wordClasses(
      ['none', 'present-off', '1.2', '2.0'] as const,
      of('tpm'),
      (tpm) => ({ tpm }),
      (chip) =>
        ({ none: 'none', 'present-off': 'there and off', '1.2': 'version 1.2', '2.0': 'version 2.0' })[chip],
    ),
  );
  tell(
    'graphicsTier',
    'Graphics tier',
    numberClasses(
      minima(catalogue, 'graphics', (r) => r.minimumTier),
      0,
      4,
      of('graphicsTier'),
      (graphicsTier) => ({ graphicsTier }),
      (n) => `tier ${n}`,
    ),
  );
  tell(
    'screenWidth',
    'Screen width',
    numberClasses(
      minima(catalogue, 'screen', (r) => r.minimumWidth),
      1,
      32_768,
      of('screenWidth'),
      (screenWidth) => ({ screenWidth }),
      (n) => `${n} pixels`,
    ),
  );
  tell(
    'screenHeight',
    'Screen height',
    numberClasses(
      minima(catalogue, 'screen', (r) => r.minimumHeight),
      1,
      32_768,
      of('screenHeight'),
      (screenHeight) => ({ screenHeight }),
      (n) => `${n} pixels`,
    ),
  );
  const years = [
    ...minima(catalogue, 'model-range', (r) => r.fromYear),
    ...catalogue.models.flatMap(({ fromYear, toYear }) => [fromYear, toYear + 1]),
  ];
  tell(
    'year',
    'Year',
    numberClasses(years, 1985, 2100, of('year'), (year) => ({ year }), whole),
  );
  tell('presentRelease', 'Present system', [
    ...catalogue.releases.map((release) => ({
      when: releaseTitle(release),
      patch: { presentRelease: release.id },
      isPresent: of('presentRelease') === release.id,
    })),
  ]);
  const languages = [...new Set(catalogue.releases.flatMap((release) => release.languages))].sort();
  tell(
    'presentLanguage',
    'Present language',
    wordClasses(
      [...languages, 'another'],
      of('presentLanguage') === undefined || languages.includes(of('presentLanguage') ?? '')
        ? of('presentLanguage')
        : 'another',
      (language) => ({ presentLanguage: language }),
    ),
  );
  tell(
    'activation',
    'Activation',
    wordClasses(activationKinds, of('activation'), (activation) => ({ activation })),
  );
  const adapters = of('networkAdapters');
  tell('networkAdapters', 'Network adapters', [
    { when: 'none', patch: { networkAdapters: [] }, isPresent: adapters?.length === 0 },
    {
      when: 'one without a driver in any release',
      patch: { networkAdapters: [{ name: 'adapter' }] },
      isPresent:
        adapters !== undefined &&
        adapters.length > 0 &&
        !adapters.some(({ driver }) => driver !== undefined && drivers(catalogue).includes(driver)),
    },
    ...drivers(catalogue).map((driver) => ({
      when: `driver ${driver}`,
      patch: { networkAdapters: [{ name: 'adapter', driver }] },
      isPresent: adapters?.some((adapter) => adapter.driver === driver) ?? false,
    })),
  ]);
  if (of('applications') !== undefined) applicationAspects(facts, catalogue, tell);
  if (of('maker') !== undefined && of('model') === undefined)
    tell('model', 'Model', [
      ...catalogue.models
        .filter(({ maker }) => maker.toLowerCase() === of('maker')?.toLowerCase())
        .map(({ model }) => ({ when: model, patch: { model }, isPresent: false })),
      { when: 'one that is not in the catalogue', patch: { model: 'not listed' }, isPresent: false },
    ]);
  diskAspects(facts, catalogue, tell);
  return aspects;
}

type Tell = (key: FactKey, label: string, classes: readonly AspectClass[], id?: string) => void;

function applicationAspects(facts: Facts, catalogue: Catalogue, tell: Tell): void {
  const names = valueOf(facts, 'applications') ?? [];
  for (const application of catalogue.applications) {
    const has = names.some((name) => name === application.id || name === application.name);
    const without = names.filter((name) => name !== application.id && name !== application.name);
    tell(
      'applications',
      application.name,
      [
        { when: 'in use', patch: { applications: [...without, application.id] }, isPresent: has },
        { when: 'not in use', patch: { applications: without }, isPresent: !has },
      ],
      `application ${application.id}`,
    );
  }
}

function diskAspects(facts: Facts, catalogue: Catalogue, tell: Tell): void {
  const disks = valueOf(facts, 'disks');
  const disk = systemDisk(disks);
  if (!disks || !disk) return;
  const put = (next: Disk): FactPatch => ({ disks: disks.map((one) => (one === disk ? next : one)) });
  tell(
    'disks',
    'Health of the system disk',
    wordClasses(['good', 'worn', 'failing'] as const, disk.health, (health) => put({ ...disk, health })),
    'disk health',
  );
  tell(
    'disks',
    'Partition scheme',
    wordClasses(
      ['gpt', 'mbr', 'none'] as const,
      disk.scheme,
      (scheme) => put({ ...disk, scheme }),
      (scheme) => (scheme === 'none' ? 'none' : scheme.toUpperCase()),
    ),
    'disk scheme',
  );
  const system = systemPartition(disk);
  const size = system ? partitionBytes(disk, system) : 0;
  if (system && size > 0) {
    // Data elsewhere on the disk counts along in the estimate, and shifts its steps.
    const others = disk.partitions
      .filter((one) => one !== system)
      .reduce((sum, one) => sum + (one.usedBytes ?? 0), 0);
    const apart = dataPartitions(disk).reduce((sum, one) => sum + (one.usedBytes ?? 0), 0);
    const steps = (base: number) =>
      Array.from(
        { length: Math.ceil((size + base) / estimateStepBytes) + 1 },
        (_unused, index) => index * estimateStepBytes - base + 1,
      );
    const cuts = [
      ...catalogue.releases.flatMap((release) => [
        size - release.upgradeFreeBytes + 1,
        shrinkableFloor(size, roomNeededBytes(release.systemBytes)) + 1,
      ]),
      ...steps(others),
      ...steps(others - apart),
    ];
    tell(
      'disks',
      'Used bytes of the system partition',
      numberClasses(
        cuts,
        0,
        size,
        system.usedBytes,
        (usedBytes) =>
          put({
            ...disk,
            partitions: disk.partitions.map((one) => (one === system ? { ...one, usedBytes } : one)),
          }),
        (n) => printBytes(n, 'decimal'),
      ),
      'disk used',
    );
  }
  const data = dataPartitions(disk);
  if (data.length > 0)
    tell(
      'disks',
      'A data partition',
      [
        { when: 'there', patch: put(disk), isPresent: true },
        {
          when: 'not there',
          patch: put({ ...disk, partitions: disk.partitions.filter((one) => !data.includes(one)) }),
          isPresent: false,
        },
      ],
      'disk data',
    );
}
