import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compareFacts,
  completeness,
  describeFact,
  diskMark,
  factKeys,
  factsFromSurvey,
  factTexts,
  forgetFact,
  importSurvey,
  mergeFacts,
  setTypedFact,
  surveyLimitBytes,
  SurveySchema,
  systemDisk,
  valueOf,
} from '../../src/survey';
import { codesOf, laptop, laptopSurvey, laptopWith, now, splitDisk } from '../fixtures/shop';

const text = JSON.stringify(laptopSurvey);

describe('importing a survey file', () => {
  it('takes what the collector prints', () => {
    expect(importSurvey(text)).toEqual({ ok: true, value: laptopSurvey });
  });

  it.each([
    ['an empty file', '', 'survey-empty'],
    ['an oversized file', ' '.repeat(surveyLimitBytes + 1), 'survey-too-large'],
    ['a truncated file', text.slice(0, 400), 'survey-truncated'],
    ['a file cut after a value', '{"format":"ulvane-survey"', 'survey-truncated'],
    ['a malformed file', text.replace('"version":1', '"version":'), 'survey-malformed'],
    ['JSON that is something else', '{"format":"shopping-list","version":1}', 'not-a-survey'],
    ['a bare number', '42', 'not-a-survey'],
    ['a newer version', text.replace('"version":1', '"version":2'), 'survey-newer'],
  ])('refuses %s', (_what, given, code) => {
    expect(codesOf(importSurvey(given))).toEqual([code]);
  });

  it('tells a file that breaks off anywhere as truncated', () => {
    for (let length = 1; length < text.length; length += 37)
      expect([length, codesOf(importSurvey(text.slice(0, length)))]).toEqual([length, ['survey-truncated']]);
  });

  it('names the line and column of a malformed place', () => {
    const outcome = importSurvey('{\n  "format": "ulvane-survey",\n  "version": x1\n}');
    expect(!outcome.ok && outcome.problems[0]?.path).toBe('line 3, column 14');
  });

  it('names the place of every value that does not fit', () => {
    const outcome = importSurvey(
      JSON.stringify({ ...laptopSurvey, memoryBytes: -1, disks: [{ ...splitDisk, sectorBytes: 'many' }] }),
    );
    expect(!outcome.ok && outcome.problems.map(({ path }) => path)).toEqual([
      '/memoryBytes',
      '/disks/0/sectorBytes',
    ]);
  });

  it('refuses a key that it does not know, so that a misspelt fact is not lost in silence', () => {
    expect(importSurvey(JSON.stringify({ ...laptopSurvey, memorybytes: 1 })).ok).toBe(false);
  });

  it('names facts that contradict each other', () => {
    const legacyWithSecureBoot = { ...laptopSurvey, firmware: { mode: 'legacy', secureBoot: 'on' } };
    expect(codesOf(importSurvey(JSON.stringify(legacyWithSecureBoot)))).toEqual(['contradiction']);
    const [first] = splitDisk.partitions;
    const overfull = {
      ...laptopSurvey,
      disks: [{ ...splitDisk, partitions: [{ ...first, usedBytes: 10 ** 12 }] }],
    };
    const outcome = importSurvey(JSON.stringify(overfull));
    expect(!outcome.ok && outcome.problems[0]?.path).toBe('/disks/0/partitions/0');
  });

  it('gives an outcome for any text at all, and never throws', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (any) => {
        expect(typeof importSurvey(any).ok).toBe('boolean');
      }),
    );
    fc.assert(
      fc.property(fc.json(), (any) => {
        expect(typeof importSurvey(any).ok).toBe('boolean');
      }),
    );
  });
});

describe('facts', () => {
  it('keep their source and time', () => {
    expect(laptop.memoryBytes).toEqual({
      value: 8 * 1024 ** 3,
      source: 'collector',
      at: laptopSurvey.takenAt,
    });
  });

  it('stay unknown where the survey does not carry them', () => {
    const facts = factsFromSurvey({ format: 'ulvane-survey', version: 1, takenAt: now }, 'imported');
    expect(facts).toEqual({});
    // All but the licences at hand, which only those have who bought some, and those that only some ways ask for.
    expect(completeness(facts).unknowns).toHaveLength(factKeys.length - 6);
  });

  it('each say how an unknown one is found out', () => {
    for (const key of factKeys) expect(factTexts[key].howToFind.length).toBeGreaterThan(10);
  });

  it('do not ask a desktop for its battery', () => {
    const desktop = laptopWith({ device: { chassis: 'desktop' }, power: {} });
    expect(completeness(desktop).unknowns.map(({ key }) => key)).not.toContain('batteryPercent');
  });

  it('can be typed, and set back to unknown', () => {
    const typed = setTypedFact(laptop, 'cores', 2, now, 'Ines');
    expect(typed.ok && typed.value.cores).toMatchObject({ value: 2, source: 'typed', at: now, by: 'Ines' });
    expect(codesOf(setTypedFact(laptop, 'cores', 'two', now, 'Ines'))).toEqual(['fact-unfit']);
    expect(forgetFact(laptop, 'cores').cores).toBeUndefined();
  });

  it('are all readable', () => {
    for (const key of factKeys) {
      const value = valueOf(laptop, key);
      if (value !== undefined) expect(describeFact(key, value)).not.toMatch(/object|undefined/);
    }
  });
});

describe('taking a survey again', () => {
  it('shows nothing when nothing changed, whatever the survey', () => {
    expect(compareFacts(laptop, laptop)).toEqual([]);
  });

  it('shows each fact before and after, and disks part by part', () => {
    const [efi, reserved, system, data, recovery] = splitDisk.partitions;
    const fuller = {
      ...splitDisk,
      partitions: [efi, reserved, system && { ...system, usedBytes: 50_000_000_000 }, data, recovery].filter(
        (part) => part !== undefined,
      ),
    };
    const changes = compareFacts(laptop, laptopWith({ memoryBytes: 16 * 1024 ** 3, disks: [fuller] }));
    expect(changes.map(({ label }) => label)).toEqual(['Memory', 'Disk HX7714A9C2E, partition 3']);
    expect(changes[0]).toMatchObject({ before: '8.6 GB (8.0 GiB)', after: '17.2 GB (16.0 GiB)' });
  });

  it('names a disk that is new and one that is gone', () => {
    const other = { ...splitDisk, serial: 'BL99', name: 'sdb' };
    expect(
      compareFacts(laptop, laptopWith({ disks: [other] })).map(({ label, after }) => [
        label,
        after === 'gone',
      ]),
    ).toEqual([
      ['Disk BL99', false],
      ['Disk HX7714A9C2E', true],
    ]);
  });

  it('keeps what the new survey does not carry', () => {
    const { firmware: _firmware, ...rest } = laptopSurvey;
    const taken = factsFromSurvey(SurveySchema.parse(rest), 'collector');
    expect(valueOf(mergeFacts(laptop, taken), 'tpm')).toBe('present-off');
  });
});

describe('telling disks apart', () => {
  const usb = {
    ...splitDisk,
    name: 'sdb',
    serial: 'STICK1',
    bus: 'usb' as const,
    removable: true,
    partitions: [],
  };

  it('marks a disk by the end of its serial', () => {
    expect(diskMark(splitDisk)).toBe('…9C2E');
    expect(diskMark({ name: 'vda' })).toBe('vda (serial unknown)');
  });

  it('finds the system’s disk by its partition, or as the only fixed one', () => {
    expect(systemDisk([usb, splitDisk])).toBe(splitDisk);
    const bare = { ...splitDisk, partitions: [] };
    expect(systemDisk([usb, bare])).toBe(bare);
  });

  it('does not pick between two that could be it', () => {
    expect(
      systemDisk([
        { ...splitDisk, partitions: [] },
        { ...splitDisk, serial: 'BL99', partitions: [] },
      ]),
    ).toBeUndefined();
    expect(systemDisk([splitDisk, { ...splitDisk, serial: 'BL99' }])).toBeUndefined();
  });
});
