import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeListText, readyListText } from '../src';

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

  it('of one byte a letter is refused with the way to export it, never read wrong', () => {
    const latin = Uint8Array.from(text, (sign) => sign.charCodeAt(0));
    const read = decodeListText(latin);
    expect(!read.ok && read.problems[0]?.sentence).toContain('CSV UTF-8');
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
