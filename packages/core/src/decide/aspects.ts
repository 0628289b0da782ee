import { enoughMemoryBytes } from '../assess/rules/memory';
import { activationKinds, type Catalogue } from '../catalogue/catalogue';
import { releaseTitle } from '../catalogue/find';
import { printApart } from '../quantity/bytes';
import { describeFact, factTexts } from '../survey/describe';
import { licenceOwners, noSystem, valueOf, type FactKey, type Facts, type FactValue } from '../survey/facts';
import { limitBytes, minima, numberClasses, wordClasses, type Aspect, type Tell } from './aspectClasses';
import type { DecideInput } from './input';
import { diskAspects } from './diskAspects';

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

type Looking = {
  readonly facts: Facts;
  readonly catalogue: Catalogue;
  readonly of: <K extends FactKey>(key: K) => FactValue<K> | undefined;
  readonly tell: Tell;
};

const noAspect = () => undefined;

/** What the rules look at, fact by fact: a fact without its entry does not compile. The order is that of asking. */
const aspectsOfFact: Readonly<Record<FactKey, (looking: Looking) => void>> = {
  wordBits: ({ of, tell }) => {
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
  },
  cores: ({ of, catalogue, tell }) => {
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
  },
  clockMhz: ({ of, catalogue, tell }) => {
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
  },
  cpuFlags: ({ of, catalogue, tell }) => {
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
  },
  memoryBytes: ({ of, catalogue, tell }) => {
    const memory = of('memoryBytes');
    const enough = minima(catalogue, 'memory', (r) => enoughMemoryBytes(r.minimumBytes));
    tell(
      'memoryBytes',
      'Memory',
      numberClasses(
        enough,
        1,
        Number.MAX_SAFE_INTEGER,
        memory,
        (memoryBytes) => ({ memoryBytes }),
        limitBytes('binary'),
      ),
      memory === undefined ? {} : { now: printApart(memory, enough, 'binary') },
    );
  },
  firmwareMode: ({ of, tell }) => {
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
  },
  secureBoot: ({ of, tell }) => {
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
  },
  tpm: ({ of, tell }) => {
    tell(
      'tpm',
      'Security chip (TPM)',
      wordClasses(
        ['none', 'present-off', '1.2', '2.0'] as const,
        of('tpm'),
        (tpm) => ({ tpm }),
        (chip) =>
          ({ none: 'none', 'present-off': 'there and off', '1.2': 'version 1.2', '2.0': 'version 2.0' })[
            chip
          ],
      ),
    );
  },
  graphicsTier: ({ of, catalogue, tell }) => {
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
  },
  screenWidth: ({ of, catalogue, tell }) => {
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
  },
  screenHeight: ({ of, catalogue, tell }) => {
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
  },
  year: ({ of, catalogue, tell }) => {
    const years = [
      ...minima(catalogue, 'model-range', (r) => r.fromYear),
      ...catalogue.models.flatMap(({ fromYear, toYear }) => [fromYear, toYear + 1]),
    ];
    tell(
      'year',
      'Year',
      numberClasses(years, 1985, 2100, of('year'), (year) => ({ year }), String),
    );
  },
  presentRelease: ({ of, catalogue, tell }) => {
    tell('presentRelease', 'Present system', [
      ...catalogue.releases.map((release) => ({
        when: releaseTitle(release),
        patch: { presentRelease: release.id },
        isPresent: of('presentRelease') === release.id,
      })),
      {
        when: 'none on it',
        patch: { presentRelease: noSystem },
        isPresent: of('presentRelease') === noSystem,
      },
    ]);
  },
  presentLanguage: ({ of, catalogue, tell }) => {
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
  },
  activation: ({ of, tell }) => {
    tell(
      'activation',
      'Activation',
      wordClasses(activationKinds, of('activation'), (activation) => ({ activation })),
    );
  },
  licenceBelongsTo: ({ of, tell }) => {
    tell(
      'licenceBelongsTo',
      factTexts.licenceBelongsTo.label,
      wordClasses(
        licenceOwners,
        of('licenceBelongsTo') ?? 'this-board',
        (licenceBelongsTo) => ({ licenceBelongsTo }),
        (owner) => describeFact('licenceBelongsTo', owner),
      ),
      { isTaken: true },
    );
  },
  networkAdapters: ({ of, catalogue, tell }) => {
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
  },
  licencesHeld: licenceAspects,
  applications: applicationAspects,
  // Another model is another device: asked only where the maker is known and the model is not.
  model: ({ of, catalogue, tell }) => {
    if (of('maker') === undefined || of('model') !== undefined) return;
    tell('model', 'Model', [
      ...catalogue.models
        .filter(({ maker }) => maker.toLowerCase() === of('maker')?.toLowerCase())
        .map(({ model }) => ({ when: model, patch: { model }, isPresent: false })),
      { when: 'one that is not in the catalogue', patch: { model: 'not listed' }, isPresent: false },
    ]);
  },
  disks: ({ facts, catalogue, tell }) => diskAspects(facts, catalogue, tell),
  // What only adds steps to a plan.
  chassis: ({ of, tell }) => {
    const chassis = of('chassis');
    tell('chassis', 'Chassis', [
      { when: 'desktop', patch: { chassis: 'desktop' }, isPresent: chassis === 'desktop' },
      {
        when: 'with a battery',
        patch: { chassis: 'laptop' },
        isPresent: chassis !== undefined && chassis !== 'desktop',
      },
    ]);
  },
  diskEncryption: ({ of, tell }) => {
    tell(
      'diskEncryption',
      'Disk encryption',
      wordClasses(['on', 'off'] as const, of('diskEncryption'), (diskEncryption) => ({ diskEncryption })),
    );
  },
  fastStart: ({ of, tell }) => {
    tell(
      'fastStart',
      'Fast start',
      wordClasses(['on', 'off'] as const, of('fastStart'), (fastStart) => ({ fastStart })),
    );
  },
  attachedDevices: ({ of, tell }) => {
    const needed = of('attachedDevices')?.some(({ needsDriver }) => needsDriver);
    tell('attachedDevices', 'Attached devices', [
      {
        when: 'none that needs its maker’s driver',
        patch: { attachedDevices: [] },
        isPresent: needed === false,
      },
      {
        when: 'one that needs its maker’s driver',
        patch: { attachedDevices: [{ name: 'device', needsDriver: true }] },
        isPresent: needed === true,
      },
    ]);
  },
  // No rule of a route reads these, and no step hangs on them.
  maker: noAspect,
  serial: noAspect,
  processorName: noAspect,
  batteryPercent: noAspect,
  charger: noAspect,
  recoveryKeyPlace: noAspect,
  accounts: noAspect,
  graphicsChips: noAspect,
  opticalDrive: noAspect,
  bootFromFile: noAspect,
  storageMode: noAspect,
};

/**
 * Everything about a device that the rules look at, split into classes within which every rule gives
 * the same answer: trying one value of each class tries them all. Maker and model are left out where
 * they are known (another model is another device).
 */
export function aspectsOf({ facts, catalogue }: Pick<DecideInput, 'facts' | 'catalogue'>): readonly Aspect[] {
  const aspects: Aspect[] = [];
  const tell: Tell = (key, label, classes, { id = key, now, isTaken = false } = {}) =>
    aspects.push({
      id,
      label,
      key,
      isKnown: isTaken || facts[key] !== undefined,
      classes,
      ...(now === undefined ? {} : { now }),
    });
  const of = <K extends FactKey>(key: K) => valueOf(facts, key);
  for (const look of Object.values(aspectsOfFact)) look({ facts, catalogue, of, tell });
  return aspects;
}

/** A licence at hand for each release that needs one. */
function licenceAspects({ facts, catalogue, tell }: Looking): void {
  const held = valueOf(facts, 'licencesHeld');
  for (const release of catalogue.releases) {
    if (release.activation.includes('none')) continue;
    const others = (held ?? []).filter((id) => id !== release.id);
    const has = held?.includes(release.id) ?? false;
    tell(
      'licencesHeld',
      `A licence for ${releaseTitle(release)}`,
      [
        { when: 'at hand', patch: { licencesHeld: [...others, release.id] }, isPresent: has },
        {
          when: 'not at hand',
          patch: { licencesHeld: others },
          isPresent: held !== undefined && !has,
        },
      ],
      { id: `licence ${release.id}` },
    );
  }
}

/** Each application of the catalogue in use or not; where none is known, each alone, and none. */
function applicationAspects({ facts, catalogue, tell }: Looking): void {
  const known = valueOf(facts, 'applications');
  const names = known ?? [];
  for (const application of catalogue.applications) {
    const has = names.some((name) => name === application.id || name === application.name);
    const without = names.filter((name) => name !== application.id && name !== application.name);
    tell(
      'applications',
      application.name,
      [
        { when: 'in use', patch: { applications: [...without, application.id] }, isPresent: has },
        {
          when: 'not in use',
          patch: { applications: without },
          isPresent: known !== undefined && !has,
        },
      ],
      { id: `application ${application.id}` },
    );
  }
}
