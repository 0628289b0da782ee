import { describe, expect, it } from 'vitest';
import { assess, type Judgement, type Verdict } from '../../src/assess';
import { findModel, type Requirement } from '../../src/catalogue';
import { valueOf, type Facts, type Survey } from '../../src/survey';
import { catalogue, laptopWith, releaseOf, splitDisk } from '../fixtures/shop';

/** A release that asks for one thing only. */
function verdictOf(requirement: Requirement, parts: Partial<Survey>): Judgement {
  const facts: Facts = laptopWith(parts);
  const { model } = findModel(
    catalogue,
    valueOf(facts, 'maker'),
    valueOf(facts, 'model'),
    valueOf(facts, 'year'),
  );
  const [judgement] = assess(
    { ...releaseOf('corvel-10-business'), requirements: [requirement] },
    { facts, model },
  ).judgements;
  if (!judgement) throw new Error('nothing was judged');
  return judgement;
}

const gib = 1024 ** 3;
const cores: Requirement = { kind: 'cores', minimum: 2 };
const coresWaivable: Requirement = { ...cores, waiver: 'Slow.' };
const clock: Requirement = { kind: 'clock', minimumMhz: 1000 };
const features: Requirement = { kind: 'processor-features', flags: ['sse4_2', 'popcnt'] };
const memory: Requirement = { kind: 'memory', minimumBytes: 4 * gib };
const disk: Requirement = { kind: 'system-disk', minimumBytes: 64_000_000_000 };
const graphics: Requirement = { kind: 'graphics', minimumTier: 2 };
const screen: Requirement = { kind: 'screen', minimumWidth: 1280, minimumHeight: 720 };
const chip: Requirement = { kind: 'tpm', minimum: '2.0' };
const chipOld: Requirement = { kind: 'tpm', minimum: '1.2' };
const secureBoot: Requirement = { kind: 'secure-boot' };
const uefi: Requirement = { kind: 'firmware-mode', mode: 'uefi' };
const network: Requirement = { kind: 'setup-network' };

const processor = (change: NonNullable<Survey['processor']>): Partial<Survey> => ({ processor: change });
const sectors = (bytes: number): Partial<Survey> => ({
  disks: [{ ...splitDisk, sectorCount: Math.ceil(bytes / 512), partitions: [] }],
});
const device = (maker: string, model: string, year: number) => ({ maker, model, year });

const cases: readonly (readonly [
  what: string,
  requirement: Requirement,
  parts: Partial<Survey>,
  verdict: Verdict,
])[] = [
  ['exactly the cores', cores, processor({ cores: 2 }), 'meets'],
  ['one core too few', cores, processor({ cores: 1 }), 'fails'],
  ['one core too few, and it may be skipped', coresWaivable, processor({ cores: 1 }), 'waivable'],
  ['cores unknown, though they may be skipped', coresWaivable, processor({}), 'unknown'],
  ['exactly the clock', clock, processor({ clockMhz: 1000 }), 'meets'],
  ['1 MHz too slow', clock, processor({ clockMhz: 999 }), 'fails'],
  ['both features', features, processor({ flags: ['popcnt', 'sse4_2', 'avx'] }), 'meets'],
  ['one of two features', features, processor({ flags: ['popcnt'] }), 'fails'],
  ['no feature list', features, processor({ cores: 2 }), 'unknown'],
  ['exactly the memory', memory, { memoryBytes: 4 * gib }, 'meets'],
  ['memory less what firmware keeps (7 %)', memory, { memoryBytes: Math.ceil(4 * gib * 0.93) }, 'meets'],
  [
    'memory a byte below that, on a board that takes more',
    memory,
    { memoryBytes: Math.floor(4 * gib * 0.93) - 1 },
    'fixable',
  ],
  ['a disk of exactly the size', disk, sectors(64_000_000_000), 'meets'],
  ['a disk one sector too small', disk, sectors(64_000_000_000 - 512), 'fixable'],
  ['exactly the tier', graphics, { display: { graphicsTier: 2 } }, 'meets'],
  ['a tier too low', graphics, { display: { graphicsTier: 1 } }, 'fails'],
  ['exactly the screen', screen, { display: { widthPixels: 1280, heightPixels: 720 } }, 'meets'],
  ['a screen one line too low', screen, { display: { widthPixels: 1920, heightPixels: 719 } }, 'fails'],
  ['a screen one dot too narrow', screen, { display: { widthPixels: 1279, heightPixels: 1080 } }, 'fails'],
  ['a screen whose width is unknown', screen, { display: { heightPixels: 1080 } }, 'unknown'],
  ['a screen whose height is unknown', screen, { display: { widthPixels: 1920 } }, 'unknown'],
  ['a chip of the version', chip, { firmware: { tpm: '2.0' } }, 'meets'],
  ['an older chip', chip, { firmware: { tpm: '1.2' } }, 'fails'],
  ['a newer chip than asked for', chipOld, { firmware: { tpm: '2.0' } }, 'meets'],
  ['no chip', chip, { firmware: { tpm: 'none' } }, 'fails'],
  ['a chip that is off', chip, { firmware: { tpm: 'present-off' } }, 'fixable'],
  [
    'a chip that is off and known to be too old',
    chip,
    { device: device('Kestle', 'Fenwright 11', 2013), firmware: { tpm: 'present-off' } },
    'fails',
  ],
  ['Secure Boot on', secureBoot, { firmware: { secureBoot: 'on' } }, 'meets'],
  ['Secure Boot off', secureBoot, { firmware: { secureBoot: 'off' } }, 'fixable'],
  [
    'Secure Boot not offered, on a model that has it in UEFI mode',
    secureBoot,
    { firmware: { secureBoot: 'not-supported' } },
    'fixable',
  ],
  [
    'Secure Boot not offered, on a model without',
    secureBoot,
    { device: device('Draymoor', '260', 2010), firmware: { secureBoot: 'not-supported' } },
    'fails',
  ],
  ['UEFI', uefi, { firmware: { mode: 'uefi' } }, 'meets'],
  ['legacy on an unknown board', uefi, { device: {}, firmware: { mode: 'legacy' } }, 'unknown'],
  ['a network adapter', network, {}, 'meets'],
  ['no network adapter', network, { network: [] }, 'fixable'],
];

describe('at the very boundary', () => {
  it.each(cases)('%s', (_what, requirement, parts, verdict) => {
    const judgement = verdictOf(requirement, parts);
    expect(judgement.verdict).toBe(verdict);
    expect(judgement.fix !== undefined).toBe(verdict === 'fixable');
    expect(judgement.consequence !== undefined).toBe(verdict === 'waivable');
    expect(judgement.howToFind !== undefined).toBe(verdict === 'unknown');
    expect(judgement.rule).toBe(requirement.kind);
  });

  it('names both sides of what it compares', () => {
    expect(verdictOf(cores, processor({ cores: 1 })).sentence).toBe('1 core; 2 are needed.');
    expect(verdictOf(memory, { memoryBytes: 2 * gib }).sentence).toBe(
      '2.0 GiB of memory; 4.0 GiB are needed, and the Fenwright 14 takes up to 16.0 GiB.',
    );
    expect(verdictOf(disk, sectors(32_000_000_000)).sentence).toBe(
      'Disk …9C2E has 32.0 GB; 64.0 GB are needed.',
    );
  });
});
