import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeListText, letterReadings, readyListText } from '../../src/outcome';

const utf16 = (text: string, big: boolean, mark: boolean): Uint8Array => {
  const units = [...(mark ? [0xfeff] : []), ...Array.from(text, (sign) => sign.charCodeAt(0))];
  return Uint8Array.from(
    units.flatMap((unit) => (big ? [unit >> 8, unit & 0xff] : [unit & 0xff, unit >> 8])),
  );
};

describe('the text of a list', () => {
  const text = 'Serial,Owner\nX-1,Bärbel Ångström\n';

  it.each([
    ['UTF-8', new TextEncoder().encode(text)],
    ['UTF-8 with its mark', new TextEncoder().encode(`\uFEFF${text}`)],
    ['UTF-16, little end first', utf16(text, false, true)],
    ['UTF-16, big end first', utf16(text, true, true)],
    ['UTF-16 without its mark', utf16(text, false, false)],
    ['UTF-16, big end first, without its mark', utf16(text, true, false)],
  ])('is read from %s', (_name, bytes) => {
    expect(decodeListText(bytes)).toEqual({ ok: true, value: text });
  });

  /** Text in a code page, made from the standard's own table. */
  const inPage = (given: string, encoding: string): Uint8Array => {
    const page = Array.from({ length: 256 }, (_none, byte) =>
      new TextDecoder(encoding).decode(Uint8Array.of(byte)),
    );
    return Uint8Array.from(given, (sign) => page.indexOf(sign));
  };

  it('of one byte a letter is refused until somebody says how it reads', () => {
    const latin = inPage(text, 'cp1252');
    const read = decodeListText(latin);
    expect(!read.ok && read.problems[0]?.sentence).toContain('CSV UTF-8');
    expect(decodeListText(latin, 'cp1252')).toEqual({ ok: true, value: text });
  });

  it.each([
    ['cp1252', 'X-1,Bärbel Ångström, Größe'],
    ['mac', 'X-1,Bärbel Ångström'],
    ['cp1250', 'X-1,Łukasz Żółć'],
    ['cp1251', 'X-1,Наталья'],
    ['koi8-r', 'X-1,Наталья'],
    ['cp1253', 'X-1,Γιώργος'],
    ['cp1254', 'X-1,Güneş Şahin'],
    ['cp1255', 'X-1,משה כהן'],
  ])('can be read from %s: the right reading is among those to choose from', (encoding, line) => {
    const readings = letterReadings(inPage(line, encoding), []);
    expect(readings.filter(({ sample }) => sample[0] === line).length).toBe(1);
    // Each reading is another one: nobody has to choose between two that look alike.
    expect(new Set(readings.map(({ sample }) => sample.join('\n'))).size).toBe(readings.length);
    expect(readings.length).toBeGreaterThan(1);
  });

  it('puts first what a detector thinks likely', () => {
    const [first] = letterReadings(inPage('X-1,Наталья', 'koi8-r'), ['KOI8-R', 'nonsense']);
    expect(first?.sample).toEqual(['X-1,Наталья']);
  });

  it('comes back from UTF-8, whatever it says', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1 }), (any) => {
        fc.pre(!any.startsWith('\uFEFF') && !any.includes('\0'));
        expect(decodeListText(new TextEncoder().encode(any))).toEqual({ ok: true, value: any });
      }),
    );
  });
});

describe('a list before it is parsed', () => {
  it('has one kind of line end, however they are mixed', () => {
    expect(readyListText('a,b\r\n1,2\r3,4\n5,6').text.split('\n')).toEqual(['a,b', '1,2', '3,4', '5,6']);
  });

  it('takes the separator from its first line, which counts as a row', () => {
    expect(readyListText('sep=;\r\na;b\r\n')).toEqual({ text: 'a;b\n', separator: ';', rowsBefore: 1 });
    expect(readyListText('a;b\n')).toEqual({ text: 'a;b\n', separator: undefined, rowsBefore: 0 });
  });
});
