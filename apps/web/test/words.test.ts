import { readFileSync } from 'node:fs';
import { api } from '@ulvane/contract';
import { resolveCatalogue } from '@ulvane/core/catalogue';
import { defaultHouseRules } from '@ulvane/core/rules';
import { factKeys, FactsSchema, setTypedFact, type FactKey, type Facts } from '@ulvane/core/survey';
import { describe, expect, it } from 'vitest';
import { addressOf, NoAnswer, sentencesOf } from '../src/api/call';
import { requirementText } from '../src/catalogue/requirementText';
import { factInput } from '../src/move/survey/factInputs';
import { sizesOf } from '../src/shell/useSizes';
import { whenText } from '../src/shell/whenText';

const file: unknown = JSON.parse(
  readFileSync(new URL('../../../data/catalogue/catalogue.json', import.meta.url), 'utf8'),
);
const resolved = resolveCatalogue(file, '2026-03-02');
if (!resolved.ok) throw new Error('the catalogue does not resolve');
const catalogue = resolved.value;
const now = '2026-03-02T10:00:00.000Z';

describe('when', () => {
  it.each([
    [3.4, 'in 3 min'],
    [0.6, 'in 1 min'],
    [0.2, 'now'],
    [-0.9, 'now'],
    [-10, '10 min overdue'],
    [95, 'in 1 h 35 min'],
  ])('%f minutes from now reads “%s”', (minutes, text) => {
    expect(whenText(minutes)).toBe(text);
  });
});

describe('addresses', () => {
  it('fill parameters and leave empty filters out', () => {
    expect(addressOf(api.signStep, { params: { reference: 'MV-0042', stepId: 'copy:b-07' } })).toBe(
      '/api/v1/moves/MV-0042/steps/copy%3Ab-07/sign',
    );
    expect(addressOf(api.moves, { query: { search: 'kestle sill', stage: '', page: 2 } })).toBe(
      '/api/v1/moves?search=kestle+sill&page=2',
    );
  });

  it('of a server that is gone are told as that, and nothing else', () => {
    expect(sentencesOf(new NoAnswer(false))).toEqual([
      'Ulvane’s server does not answer: check that it runs, then try again.',
    ]);
    // What was sent may have arrived before the line broke.
    expect(sentencesOf(new NoAnswer(true))[0]).toContain('may have been saved or not');
  });
});

describe('requirements', () => {
  it('of the whole catalogue are all put into words', () => {
    for (const requirement of catalogue.releases.flatMap(({ requirements }) => requirements))
      expect(requirementText(requirement)).toMatch(/^[A-Z0-9].{5,}/);
  });
});

describe('typing facts', () => {
  /** What a person would write for each fact. */
  const written: Readonly<Record<Exclude<FactKey, 'disks'>, string>> = {
    maker: 'Kestle',
    model: 'Sill',
    serial: 'KS-1',
    year: '2018',
    chassis: 'desktop',
    processorName: 'four cores',
    wordBits: '64',
    cores: '4',
    clockMhz: '3000',
    cpuFlags: 'sse4_2, popcnt',
    memoryBytes: '8 GiB',
    firmwareMode: 'uefi-with-legacy',
    secureBoot: 'not-supported',
    tpm: 'present-off',
    graphicsTier: '2',
    screenWidth: '1920',
    screenHeight: '1080',
    networkAdapters: 'en-a, wired, kite-eth; wl-a',
    batteryPercent: '81',
    charger: 'not-connected',
    presentRelease: 'corvel-9-business',
    presentLanguage: 'en',
    activation: 'volume',
    diskEncryption: 'on',
    fastStart: 'off',
    applications: 'Skerry Browser, Gull Mail',
    recoveryKeyPlace: 'sealed envelope 14',
    accounts: 'Crew, Purser',
    licencesHeld: 'corvel-10-business',
    attachedDevices: 'ticket printer, needs driver; card reader',
    graphicsChips: 'first chip, loom-draw; second chip',
    opticalDrive: 'external',
    bootFromFile: 'no',
    storageMode: 'raid',
    licenceBelongsTo: 'another-board',
  };
  const sizes = sizesOf(defaultHouseRules);
  const keys = factKeys.filter((key): key is Exclude<FactKey, 'disks'> => key !== 'disks');

  it.each(keys)('%s is read, taken by core, and written out the same again', (key) => {
    const input = factInput(key, catalogue, sizes);
    const read = input.read(written[key]);
    if ('problem' in read) throw new Error(read.problem);
    const typed = setTypedFact({}, key, read.value, now, 'Ines');
    if (!typed.ok) throw new Error(typed.problems[0]?.sentence);
    const again = input.read(input.write(typed.value));
    expect(again).toEqual(read);
    expect(FactsSchema.parse(typed.value)).toEqual(typed.value);
  });

  it.each(keys)('%s starts empty where nothing is known', (key) => {
    const nothing: Facts = {};
    expect(factInput(key, catalogue, sizes).write(nothing)).toBe('');
  });

  it('offers only options that core takes', () => {
    for (const key of keys)
      for (const { value } of factInput(key, catalogue, sizes).options ?? []) {
        const read = factInput(key, catalogue, sizes).read(value);
        expect('value' in read && setTypedFact({}, key, read.value, now, 'Ines').ok).toBe(true);
      }
  });

  it('says what is wrong before it asks the server', () => {
    expect(factInput('cores', catalogue, sizes).read('four')).toEqual({ problem: 'Write a whole number.' });
    expect(factInput('memoryBytes', catalogue, sizes).read('plenty')).toHaveProperty('problem');
  });
});

describe('sizes as they are typed', () => {
  it('are shown as they are taken, in the way of the house', () => {
    const { reading, size, bytesOf } = sizesOf({ ...defaultHouseRules, writtenNumbers: 'comma' });
    expect(reading('8,192 MB')).toBe('= 8.2 MB (7.8 MiB)');
    expect(bytesOf('8,192 MB')).toBe(8_192_000);
    expect(sizesOf(defaultHouseRules).reading('8,192 MB')).toBeUndefined();
    expect(size.safeParse('lots').error?.issues[0]?.message).toContain('is not a size');
    expect(size.safeParse('74,2 GB').success).toBe(true);
    // A lone G is what the house says it is.
    expect(sizesOf({ ...defaultHouseRules, spokenGigabyte: 'binary' }).bytesOf('90G')).toBe(90 * 1024 ** 3);
  });

  it('have a number before their unit, or none', () => {
    const { numberIn } = sizesOf(defaultHouseRules);
    expect([numberIn('60,5 GB'), numberIn('1 024'), numberIn('8,192 GB'), numberIn('GB')]).toEqual([
      60.5,
      1024,
      undefined,
      undefined,
    ]);
  });
});
