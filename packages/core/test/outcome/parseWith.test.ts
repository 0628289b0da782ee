import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { parseWith } from '../../src/outcome';

const schema = z.strictObject({
  name: z.string().min(1).max(5),
  disks: z.array(z.strictObject({ sectors: z.int().min(1) })).max(2),
  scheme: z.enum(['gpt', 'mbr']),
  day: z.iso.date(),
});
const good = { name: 'sda', disks: [{ sectors: 8 }], scheme: 'gpt', day: '2026-03-02' };
const said = (input: unknown) => {
  const parsed = parseWith(schema, input);
  return parsed.ok ? [] : parsed.problems.map(({ code, path, sentence }) => [code, path, sentence]);
};

describe('what is wrong with a document', () => {
  it('is said in words of its own, by the place and what is needed there', () => {
    expect(said(good)).toEqual([]);
    expect(said('x')).toEqual([
      ['invalid-type', '', 'The document has to be a group of fields, and is a text.'],
    ]);
    expect(said({ ...good, disks: [{ sectors: 8 }, { sectors: 'many' }] })).toEqual([
      ['invalid-type', '/disks/1/sectors', '“disks”, entry 2, “sectors” has to be a number, and is a text.'],
    ]);
    expect(said({ ...good, disks: null })).toEqual([
      ['invalid-type', '/disks', '“disks” has to be a list, and is null.'],
    ]);
    const { name: _name, scheme: _scheme, ...lacking } = good;
    expect(said(lacking).map(([, , sentence]) => sentence)).toEqual([
      '“name” is missing: it has to be a text.',
      '“scheme” is missing: it has to be one of “gpt”, “mbr”.',
    ]);
  });

  it('says how much may be there, and which fields are not known', () => {
    const sentences = (change: object) => said({ ...good, ...change }).map(([, , sentence]) => sentence);
    expect(sentences({ name: '' })).toEqual(['“name” is empty.']);
    expect(sentences({ name: 'longer' })).toEqual(['“name” may have 5 characters at most.']);
    expect(sentences({ disks: [{ sectors: 0 }] })).toEqual(['“disks”, entry 1, “sectors” needs 1 at least.']);
    expect(sentences({ disks: [1, 1, 1].map((sectors) => ({ sectors })) })).toEqual([
      '“disks” may have 2 entries at most.',
    ]);
    expect(sentences({ disks: [{ sectors: 1.5 }] })).toEqual([
      '“disks”, entry 1, “sectors” has to be a whole number, and is 1.5.',
    ]);
    expect(sentences({ scheme: 'amiga' })).toEqual(['“scheme” has to be one of “gpt”, “mbr”.']);
    expect(sentences({ day: 'soon' })).toEqual(['“day” has not the form that is needed (date).']);
    expect(sentences({ colour: 'red', size: 3 })).toEqual([
      'The document has fields that are not known here: “colour”, “size”.',
    ]);
  });

  it('names a dozen of many choices, and the reason of a rule of its own', () => {
    const many = z.enum(Array.from({ length: 20 }, (_unused, index) => `v${index}`));
    const [problem] = (() => {
      const parsed = parseWith(z.object({ of: many }), { of: 'x' });
      return parsed.ok ? [] : parsed.problems;
    })();
    expect(problem?.sentence).toMatch(/“v11” and 8 more\.$/);
    const own = parseWith(
      z.array(z.number().refine((value) => value % 2 === 0, 'odd numbers are not used here')),
      [2, 3],
    );
    expect(own.ok ? '' : own.problems[0]?.sentence).toBe(
      'Entry 2 cannot be taken: odd numbers are not used here.',
    );
  });
});
