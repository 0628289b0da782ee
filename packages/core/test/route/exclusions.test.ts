import { describe, expect, it } from 'vitest';
import type { Catalogue } from '../../src/catalogue';
import { defaultHouseRules } from '../../src/rules';
import { candidateFor, decisionInput } from '../../src/decide';
import { routeIds, routes, type RouteId } from '../../src/route';
import type { Disk, Facts, Survey } from '../../src/survey';
import { catalogue, laptopSurvey, laptopWith, splitDisk, today } from '../fixtures/shop';

type Case = {
  readonly rule: string;
  readonly what: string;
  readonly facts: Facts;
  readonly releaseId?: string;
  readonly today?: string;
  readonly catalogue?: Catalogue;
};

/** The day after the last fixes of Corvel 10: 1,486 days and one after the first start. */
const afterCorvel10 = '2030-03-28';

const firmware = { mode: 'uefi', secureBoot: 'on', tpm: '2.0' } as const;
const oldChip = { mode: 'uefi', secureBoot: 'on', tpm: '1.2' } as const;
const able = (change: Partial<Survey> = {}) => laptopWith({ firmware, ...change });
const below = (change: Partial<Survey> = {}) => laptopWith({ firmware: oldChip, ...change });
const disks = (change: Partial<Disk>) => ({ disks: [{ ...splitDisk, ...change }] });
const system = (change: Partial<NonNullable<Survey['system']>>) => ({
  system: { ...laptopSurvey.system, ...change },
});
const nothingOnIt = { ...system({ release: 'none' }), ...disks({ partitions: [], scheme: 'none' }) };
const noFlags = { processor: { ...laptopSurvey.processor, flags: [] } };
const full = disks({
  partitions: splitDisk.partitions.map((partition) =>
    partition.role === 'system' ? { ...partition, usedBytes: 118_000_000_000 } : partition,
  ),
});
const fourPrimaries = [1, 2, 3, 4].map((number) => ({
  number,
  startLba: number * 1_000_000,
  sectorCount: 500_000,
  role: number === 1 ? ('system' as const) : ('data' as const),
}));
const single = disks({ partitions: splitDisk.partitions.filter(({ role }) => role !== 'data') });
const studio = (change: Partial<Survey> = {}) =>
  laptopWith({
    device: { maker: 'Pellworth', model: 'Studio 27', year: 2014, chassis: 'desktop' },
    display: { graphicsTier: 3, widthPixels: 2560, heightPixels: 1440 },
    memoryBytes: 16 * 1024 ** 3,
    ...system({ release: 'aurin-13', activation: 'account-bound' }),
    ...change,
  });
/** The present release is of a later version than Corvel 10. */
const newer: Catalogue = {
  ...catalogue,
  releases: catalogue.releases.map((release) =>
    release.id === 'corvel-9-business' ? { ...release, version: 11 } : release,
  ),
};

/** What upgrades share, for a device that is able or one below the minimum. */
function upgradeCases(make: typeof able, requirements: string): Case[] {
  return [
    {
      rule: 'allowed-jump',
      what: 'two versions back',
      facts: make(system({ release: 'corvel-7-business' })),
    },
    {
      rule: 'same-word-size',
      what: 'a 32-bit system',
      facts: make(system({ release: 'corvel-7-business' })),
    },
    { rule: 'same-language', what: 'another language', facts: make(system({ language: 'fo' })) },
    { rule: 'still-supported', what: 'fixes that are over', facts: make(), today: afterCorvel10 },
    { rule: requirements, what: 'missing processor features', facts: make(noFlags) },
    { rule: 'enough-free-space', what: '10.8 GB free of the 28 needed', facts: make(full) },
    { rule: 'disk-sound', what: 'a failing disk', facts: make(disks({ health: 'failing' })) },
    { rule: 'scheme-suits', what: 'an MBR', facts: make(disks({ scheme: 'mbr' })) },
    { rule: 'licence-fits', what: 'no licence', facts: make(system({ activation: 'none' })) },
  ];
}

function cleanCases(make: typeof able, requirements: string): Case[] {
  return [
    { rule: 'not-older', what: 'a newer present system', facts: make(), catalogue: newer },
    {
      rule: 'not-for-itself',
      what: 'the release that runs on it, with fixes',
      facts: make(system({ release: 'corvel-10-business' })),
    },
    { rule: 'still-supported', what: 'fixes that are over', facts: make(), today: afterCorvel10 },
    { rule: requirements, what: 'missing processor features', facts: make(noFlags) },
    {
      rule: 'licence-fits',
      what: 'a licence of another kind',
      facts: make(system({ activation: 'account-bound' })),
    },
  ];
}

/** As a clean install, and what only the system partition asks. */
function partitionCases(
  make: typeof able,
  requirements: 'requirements-met' | 'requirements-met-or-waived',
): readonly Case[] {
  return [
    ...cleanCases(make, requirements),
    { rule: 'data-apart', what: 'one partition for everything', facts: make(single) },
    { rule: 'scheme-suits', what: 'an MBR', facts: make(disks({ scheme: 'mbr' })) },
  ];
}

const cases: Readonly<Record<RouteId, readonly Case[]>> = {
  'in-place-upgrade': upgradeCases(able, 'requirements-met'),
  'waived-upgrade': upgradeCases(below, 'requirements-met-or-waived'),
  'clean-whole-disk': cleanCases(able, 'requirements-met'),
  'waived-clean': cleanCases(below, 'requirements-met-or-waived'),
  'clean-system-partition': partitionCases(able, 'requirements-met'),
  'waived-system-partition': partitionCases(below, 'requirements-met-or-waived'),
  'patched-install': [
    {
      rule: 'still-supported',
      what: 'fixes that are over',
      facts: studio(),
      releaseId: 'aurin-12',
    },
    { rule: 'patch-known', what: 'a release without a patch', facts: studio(), releaseId: 'aurin-12' },
    { rule: 'past-its-ceiling', what: 'a release below the ceiling', facts: studio(), releaseId: 'aurin-12' },
    {
      rule: 'requirements-beside-the-model',
      what: 'a 32-bit processor',
      facts: studio({
        processor: { ...laptopSurvey.processor, wordBits: 32 },
        ...system({ release: 'corvel-7-business' }),
      }),
    },
    {
      rule: 'same-language',
      what: 'another language',
      facts: studio(system({ release: 'aurin-13', language: 'fo' })),
    },
    { rule: 'disk-sound', what: 'a failing disk', facts: studio(disks({ health: 'failing' })) },
  ],
  'beside-same-disk': [
    { rule: 'requirements-met', what: 'missing processor features', facts: able(noFlags) },
    { rule: 'room-beside', what: 'a system partition that can give nothing', facts: able(full) },
    { rule: 'scheme-agrees', what: 'an MBR', facts: able(disks({ scheme: 'mbr' })) },
    {
      rule: 'entry-free',
      what: 'an MBR with four primary partitions',
      facts: able(disks({ scheme: 'mbr', partitions: fourPrimaries })),
    },
    { rule: 'disk-sound', what: 'a failing disk', facts: able(disks({ health: 'failing' })) },
    { rule: 'licence-fits', what: 'no licence', facts: able(system({ activation: 'none' })) },
  ],
  'beside-second-disk': [
    { rule: 'requirements-met', what: 'missing processor features', facts: able(noFlags) },
    { rule: 'second-disk-there', what: 'a single disk', facts: able() },
    { rule: 'licence-fits', what: 'no licence', facts: able(system({ activation: 'none' })) },
  ],
  'alternative-system': [
    {
      rule: 'requirements-met',
      what: 'missing processor features',
      facts: able(noFlags),
      releaseId: 'harrow-5',
    },
    {
      rule: 'licence-fits',
      what: 'a family that asks for a licence of its own',
      facts: able(system({ release: 'saltbush-full', activation: 'none' })),
    },
    {
      rule: 'applications-have-equivalents',
      what: 'an application for one family only',
      facts: able(system({ applications: ['ledgerstone'] })),
      releaseId: 'saltbush-full',
    },
  ],
  replace: [{ rule: 'worth-replacing', what: 'nothing on it that would move', facts: able(nothingOnIt) }],
  stay: [
    {
      rule: 'present-supported',
      what: 'fixes that are over',
      facts: able(system({ release: 'corvel-7-business' })),
    },
  ],
  hold: [{ rule: 'hold-is-a-stopgap', what: 'a system that gets fixes', facts: able() }],
};

/** Rules that never exclude on a route: they wait, or only those that pass them are its targets at all. */
const neverExcludes: readonly (readonly [RouteId | 'any', string])[] = [
  ['any', 'network-driver'],
  ['any', 'work-can-move'],
  ['beside-same-disk', 'still-supported'],
  ['beside-second-disk', 'still-supported'],
  ['alternative-system', 'still-supported'],
];

describe.each(routeIds)('%s', (routeId) => {
  it('has a hand-worked case for each rule that can exclude it', () => {
    const can = routes[routeId].rules
      .map(({ id }) => id)
      .filter(
        (rule) => !neverExcludes.some(([route, id]) => id === rule && (route === 'any' || route === routeId)),
      );
    expect(cases[routeId].map(({ rule }) => rule).sort()).toEqual([...can].sort());
  });

  if (cases[routeId].length > 0)
    it.each(cases[routeId])('is excluded by $rule: $what', (given) => {
      const candidate = candidateFor(
        decisionInput({
          facts: given.facts,
          catalogue: given.catalogue ?? catalogue,
          houseRules: defaultHouseRules,
          today: given.today ?? today,
        }),
        {
          routeId,
          releaseId: given.releaseId ?? (routeId === 'patched-install' ? 'aurin-15' : 'corvel-10-business'),
        },
      );
      expect(candidate?.status).toBe('excluded');
      const reason = candidate?.reasons.find(({ rule }) => rule === given.rule);
      expect([reason?.finding, (reason?.sentence.length ?? 0) > 10]).toEqual(['excludes', true]);
    });
});
