import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenSentence, readJson } from '../../src/outcome';

const brokenOf = (text: string) => {
  const read = readJson(text);
  return read.ok ? undefined : read.broken;
};

describe('JSON', () => {
  it('is read as the engine reads it', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.constantFrom(undefined, 2), (value, indent) => {
        const text = JSON.stringify(value, null, indent);
        expect(readJson(text)).toEqual({ ok: true, value: JSON.parse(text) });
      }),
    );
  });

  it('that is cut short anywhere breaks off there, with what stands before', () => {
    let cut = 0;
    fc.assert(
      fc.property(fc.array(fc.jsonValue(), { minLength: 1 }), fc.nat(), (value, at) => {
        const text = JSON.stringify(value, null, 1);
        const part = text.slice(0, 1 + (at % (text.length - 1)));
        expect(brokenOf(part)).toMatchObject({ breaksOff: true, line: part.split('\n').length });
        cut += 1;
      }),
    );
    expect(cut).toBe(100);
    for (const text of ['', '{"a": tr', '[1, -', '"half', '{"a": "x\\'])
      expect(brokenOf(text)?.breaksOff, text).toBe(true);
  });

  it('that is wrong in one place names the place', () => {
    // Counted by hand: the first character that cannot be there.
    const wrong: readonly (readonly [string, number, number])[] = [
      ['{"a" 1}', 1, 6],
      ['{\n  "a": 1,\n  b: 2\n}', 3, 3],
      ['[1, 2,]', 1, 7],
      ['{"a": 1]', 1, 8],
      ['{"a": 1} x', 1, 10],
      ['// no\n{}', 1, 1],
      ['[1 2]', 1, 4],
      // A text that ends with its line is not the end of the file.
      ['{"a": "half\n}', 1, 7],
    ];
    for (const [text, line, column] of wrong)
      expect([text, brokenOf(text)]).toMatchObject([text, { breaksOff: false, line, column }]);
    const broken = brokenOf('[1 2]');
    if (!broken) throw new Error('it is not JSON');
    expect(brokenSentence('list.json', broken)).toContain(
      'list.json is not well-formed JSON at line 1, column 4.',
    );
  });
});
