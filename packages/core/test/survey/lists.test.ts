import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rowChanged, takeRow } from '../../src/record';
import {
  guessMapping,
  isListField,
  listFieldLabel,
  listFields,
  readListRow,
  valueOf,
  type ListRow,
} from '../../src/survey';
import { catalogue, codesOf, done, emptyMove, laptop, technician } from '../fixtures/shop';

function row(cells: Readonly<Record<string, string>>, mapping: Readonly<Record<string, string>>): ListRow {
  const outcome = readListRow(cells, mapping, catalogue);
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value;
}

/** One field beside a serial, as people write it. */
const read = (field: string, text: string) =>
  readListRow({ S: 'X-1', F: text }, { S: 'serial', F: field }, catalogue);
const valueOfCell = (field: string, text: string) => {
  const outcome = read(field, text);
  return outcome.ok ? outcome.value.facts.find(({ key }) => key === field)?.value : outcome.problems[0]?.code;
};

describe('a row of a list', () => {
  it.each([
    ['memoryBytes', '8', 8 * 1024 ** 3],
    ['memoryBytes', '8 GB', 8_000_000_000],
    ['memoryBytes', '3,8 GiB', Math.round(3.8 * 1024 ** 3)],
    ['memoryBytes', '8192 MiB', 8 * 1024 ** 3],
    ['memoryBytes', '16', 16 * 1024 ** 3],
    ['year', '2018', 2018],
    ['cores', '4 cores', 4],
    ['clockMhz', '2600 MHz', 2600],
    ['wordBits', '64 bit', 64],
    ['wordBits', '64-bit', 64],
    ['firmwareMode', 'UEFI', 'uefi'],
    ['firmwareMode', 'UEFI with legacy', 'uefi-with-legacy'],
    ['tpm', 'Present, off', 'present-off'],
    ['secureBoot', 'Not supported', 'not-supported'],
    ['presentRelease', 'Corvel 9 Business', 'corvel-9-business'],
    ['presentRelease', 'CORVEL-9-BUSINESS', 'corvel-9-business'],
    ['applications', 'Gull Mail; Skerry Browser', ['Gull Mail', 'Skerry Browser']],
    ['chassis', 'Laptop', 'laptop'],
  ])('reads %s from “%s”', (field, text, value) => {
    expect(valueOfCell(field, text)).toEqual(value);
  });

  it.each([
    ['memoryBytes', 'plenty', 'size-unreadable'],
    // May be 8.192 or 8192 MB: asked, never guessed.
    ['memoryBytes', '8,192 MB', 'size-two-meanings'],
    ['memoryBytes', '8192', 'size-without-unit'],
    ['year', 'long ago', 'not-a-number'],
    ['year', '99', 'fact-unfit'],
    ['wordBits', '16', 'fact-unfit'],
    ['firmwareMode', 'both', 'not-an-option'],
    ['presentRelease', 'Corvel 99', 'no-such-release'],
    ['graphicsTier', '9', 'fact-unfit'],
  ])('refuses %s of “%s”', (field, text, code) => {
    expect(valueOfCell(field, text)).toBe(code);
  });

  it('names every wrong cell by its column, and reads days as days', () => {
    const mapping = { A: 'serial', B: 'year', C: 'dueOn', D: 'tpm', E: '' };
    const outcome = readListRow(
      { A: 'X', B: 'x', C: '1 April', D: '3.0', E: 'whatever' },
      mapping,
      catalogue,
    );
    expect(outcome.ok || outcome.problems.map(({ path }) => path)).toEqual(['B', 'C', 'D']);
    expect(row({ A: 'X', C: '2026-04-01' }, mapping).identity.dueOn).toBe('2026-04-01');
    // A month and a day that the calendar does not have.
    for (const day of ['2026-13-01', '2026-02-30', '2026-04-31', '0026-04-01'])
      expect(codesOf(readListRow({ A: 'X', C: day }, mapping, catalogue))).toEqual(['not-a-day']);
  });

  it('takes the unit of a size from the title of its column', () => {
    const memory = (title: string, text: string) => {
      const outcome = readListRow(
        { S: 'X-1', [title]: text },
        { S: 'serial', [title]: 'memoryBytes' },
        catalogue,
      );
      return outcome.ok ? outcome.value.facts[1]?.value : outcome.problems[0]?.code;
    };
    expect(memory('Memory (MB)', '8192')).toBe(8 * 1024 ** 3);
    expect(memory('RAM GB', '16')).toBe(16 * 1024 ** 3);
    expect(memory('Memory (MB)', '8.192,0')).toBe(8 * 1024 ** 3);
    expect(guessMapping(['Memory (MB)'])).toEqual({ 'Memory (MB)': 'memoryBytes' });
  });

  it('needs a serial, and takes nothing from empty cells', () => {
    expect(codesOf(readListRow({ A: '  ' }, { A: 'serial' }, catalogue))).toEqual(['no-serial']);
    expect(row({ A: 'X', B: '' }, { A: 'serial', B: 'year' }).facts.map(({ key }) => key)).toEqual([
      'serial',
    ]);
  });

  it('never throws, whatever the cells say', () => {
    fc.assert(
      fc.property(fc.constantFrom(...listFields), fc.string(), (field, text) => {
        const outcome = read(field, text);
        if (!outcome.ok)
          for (const { sentence } of outcome.problems) expect(sentence.length).toBeGreaterThan(5);
      }),
    );
  });
});

describe('matching columns', () => {
  it('gives each field at most once, and each label and name to itself', () => {
    for (const field of listFields) {
      expect(guessMapping([field])).toEqual({ [field]: field });
      expect(guessMapping([listFieldLabel(field)])).toEqual({ [listFieldLabel(field)]: field });
      expect(isListField(field)).toBe(true);
    }
    expect(guessMapping(['Serial', 'Serial number', 'Colour'])).toEqual({
      Serial: 'serial',
      'Serial number': '',
      Colour: '',
    });
  });

  it('gives no field twice, whatever the headers are called', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.oneof(fc.string(), fc.constantFrom('RAM', 'Memory', 'OS', 'System'))),
        (headers) => {
          const fields = Object.values(guessMapping(headers)).filter((field) => field !== '');
          expect(new Set(fields).size).toBe(fields.length);
        },
      ),
    );
  });
});

describe('taking a row', () => {
  const mapping = { A: 'serial', B: 'memoryBytes', C: 'site' };

  it('changes what is new, keeps the source of what is the same, and is the same when taken again', () => {
    const move = { ...emptyMove, facts: laptop };
    const same = row({ A: valueOf(laptop, 'serial') ?? '', B: '8' }, mapping);
    const once = done(takeRow(move, same, technician));
    expect(rowChanged(move, once)).toBe(false);
    const more = row({ A: valueOf(laptop, 'serial') ?? '', B: '16', C: 'Stannick' }, mapping);
    const twice = done(takeRow(once, more, technician));
    expect(twice.facts.memoryBytes).toMatchObject({ value: 16 * 1024 ** 3, source: 'imported', by: 'Ines' });
    expect(twice.facts.serial?.source).toBe('collector');
    expect(twice.site).toBe('Stannick');
    expect(rowChanged(twice, done(takeRow(twice, more, technician)))).toBe(false);
  });

  it('is refused where it contradicts what is known', () => {
    const legacy = row({ A: 'X', B: 'legacy' }, { A: 'serial', B: 'firmwareMode' });
    const secure = row({ A: 'X', B: 'on' }, { A: 'serial', B: 'secureBoot' });
    const move = done(takeRow(emptyMove, legacy, technician));
    const refused = takeRow(move, secure, technician);
    expect(codesOf(refused)).toEqual(['contradiction']);
    // The first of the facts that contradict each other.
    expect(refused.ok ? [] : refused.problems.map(({ path }) => path)).toEqual(['firmwareMode']);
  });
});
