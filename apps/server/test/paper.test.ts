import fc from 'fast-check';
import type { HandoverSheet, OwnerSheet } from '@ulvane/core/record';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { sheetPdf } from '../src/paper/handoverPdf';
import { ownerSheetPdf } from '../src/paper/ownerPdf';
import { piecesOf } from '../src/paper/pieces';

const TextItemSchema = z.object({
  str: z.string(),
  dir: z.string(),
  width: z.number(),
  transform: z.tuple([z.number(), z.number(), z.number(), z.number(), z.number(), z.number()]),
});

type Word = {
  readonly text: string;
  readonly page: number;
  readonly x: number;
  readonly end: number;
  readonly y: number;
};

/** What another program reads on the paper: every run of text with its place, in points. */
async function read(pdf: Buffer): Promise<{ words: readonly Word[]; width: number; height: number }> {
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const words: Word[] = [];
  let [width, height] = [0, 0];
  for (let page = 1; page <= document.numPages; page += 1) {
    const read = await document.getPage(page);
    ({ width, height } = read.getViewport({ scale: 1 }));
    for (const item of (await read.getTextContent()).items) {
      const { str, width: wide, transform } = TextItemSchema.parse(item);
      if (str.trim() !== '')
        words.push({ text: str, page, x: transform[4], end: transform[4] + wide, y: transform[5] });
    }
  }
  await document.destroy();
  return { words, width, height };
}

function sheet(change: Partial<HandoverSheet>): HandoverSheet {
  return {
    title: 'MV-0001: Draymoor 410',
    identity: [['Device', 'Draymoor 410']],
    done: [],
    files: [],
    overrules: [],
    firmware: [],
    troubles: [],
    openPoints: [],
    copies: [],
    backups: [],
    signed: null,
    ...change,
  };
}

const print = async (change: Partial<HandoverSheet>) =>
  read(await sheetPdf(sheet(change), 'MV-0001', 'Marram Coast Ferries'));

/** Every sign that can be seen, in no order: how often each is there. A turned bracket is that bracket. */
function signs(text: string): ReadonlyMap<string, number> {
  const counted = new Map<string, number>();
  for (const sign of text
    .normalize('NFC')
    .replace(/[\s\u200B]/gu, '')
    .replaceAll(')', '(')
    .replaceAll(']', '['))
    counted.set(sign, (counted.get(sign) ?? 0) + 1);
  return counted;
}

const rightToLeft = /[\p{Script=Hebrew}\p{Script=Arabic}]/u;
const isMixed = (text: string) =>
  rightToLeft.test(text) && /[^\s\p{Script=Hebrew}\p{Script=Arabic}]/u.test(text);

const scripts: Readonly<Record<string, string>> = {
  Latin: 'ÆrøskøbingŁódźĞüneşĐặngVănṀŋəq̃x̧naïve',
  Greek: 'ἈθῆναιΕλλάδα',
  Cyrillic: 'ЁлкаЂорђеҐанок',
  Hebrew: 'תמונותמשפחה',
  Arabic: 'صورعائلةقديم',
  Han: '家庭照片備份简体写真',
  Kana: 'しゃしんカタカナ',
  Hangul: '가족사진',
  Thai: 'รูปถ่ายครอบครัว',
  Devanagari: 'परिवारतस्वीरें',
  Georgian: 'ქართული',
  Armenian: 'Հայերեն',
};

describe('paper prints whatever it is given', () => {
  it('in every script, as text that can be searched', async () => {
    const printed = await print({ openPoints: Object.values(scripts) });
    const all = signs(printed.words.map(({ text }) => text).join(''));
    for (const [script, text] of Object.entries(scripts))
      for (const [sign, count] of signs(text))
        expect([script, sign, (all.get(sign) ?? 0) >= count]).toEqual([script, sign, true]);
    // No sign is the empty box that a font shows for what it has not: each piece is in a font that has it.
    expect(
      Object.values(scripts)
        .flatMap(piecesOf)
        .map(({ text }) => text)
        .join('')
        .replaceAll('\u200B', ''),
    ).toBe(Object.values(scripts).join('').normalize('NFC'));
  });

  it('right to left where it runs so, with numbers and brackets as they are read', async () => {
    const { words } = await print({ openPoints: ['אחת שתיים (2019) שלוש'] });
    const at = (text: string) => words.find((word) => word.text.includes(text))?.x ?? NaN;
    // The first word stands farthest to the right, the last farthest to the left.
    expect(at('אחת')).toBeGreaterThan(at('שתיים'));
    expect(at('שתיים')).toBeGreaterThan(at('2019'));
    expect(at('2019')).toBeGreaterThan(at('שלוש'));
    const line = words.filter(({ y }) => y === words.find(({ text }) => text.includes('2019'))?.y);
    const drawn = line
      .toSorted((a, b) => a.x - b.x)
      .map(({ text }) => text)
      .join('');
    expect(drawn).toContain('(2019)');
  });

  it('with signs that no font has, and those that cannot be seen, by their numbers', async () => {
    const { words } = await print({ openPoints: ['a\u202Etxt.exe', 'bell \u0007', 'half \uD83F', '𒀀 sign'] });
    const text = words.map((word) => word.text).join('');
    for (const number of ['[U+202E]', '[U+0007]', '[U+D83F]', '[U+12000]']) expect(text).toContain(number);
  });

  it('and never off the page, in no other column, with nothing left out', async () => {
    let exercised = 0;
    let wrapped = 0;
    const word = fc.oneof(
      // Where letters change with their neighbours only real words are words.
      ...Object.entries(scripts).map(([script, text]) =>
        script === 'Thai' || script === 'Devanagari'
          ? fc.integer({ min: 1, max: 8 }).map((times) => text.repeat(times))
          : fc.string({
              unit: fc.constantFrom(...text.normalize('NFC')),
              minLength: 1,
              maxLength: 90,
              size: 'max',
            }),
      ),
      fc.string({
        unit: fc.constantFrom(...'abcdefghij_()[].,0123456789'),
        minLength: 1,
        maxLength: 255,
        size: 'max',
      }),
    );
    const name = fc.array(word, { minLength: 1, maxLength: 3 }).map((parts) => parts.join(' '));
    await fc.assert(
      fc.asyncProperty(fc.array(name, { minLength: 4, maxLength: 4 }), name, async (cells, step) => {
        const [first = '', before = '', after = '', outcome = ''] = cells;
        const { words, width, height } = await print({
          files: [{ name: first, before, after, outcome }],
          done: [{ title: step, by: first, at: '2026-03-02 10:00', minutes: '12 min', note: '' }],
        });
        for (const { x, end, y } of words) {
          expect(x).toBeGreaterThanOrEqual(47);
          expect(end).toBeLessThanOrEqual(width - 47);
          expect(y).toBeGreaterThan(0);
          expect(y).toBeLessThan(height);
        }
        // Nothing is printed over anything else.
        const rows = new Map<string, Word[]>();
        for (const one of words) {
          const row = `${one.page} ${one.y.toFixed(1)}`;
          rows.set(row, [...(rows.get(row) ?? []), one]);
        }
        for (const row of rows.values()) {
          const sorted = row.toSorted((a, b) => a.x - b.x);
          for (const [index, one] of sorted.entries()) {
            const next = sorted[index + 1];
            // The reader joins a word of the other direction to the run before it, over what is drawn between them.
            if (next && !isMixed(one.text))
              expect([one.text, next.text, one.end - next.x > 1]).toEqual([one.text, next.text, false]);
          }
        }
        const printed = signs(words.map(({ text }) => text).join('\n'));
        for (const [sign, count] of signs([...cells, step, first].join('\n')))
          expect([sign, (printed.get(sign) ?? 0) >= count]).toEqual([sign, true]);
        exercised += words.length;
        if (rows.size > 20) wrapped += 1;
      }),
      { numRuns: 20, endOnFailure: true },
    );
    expect(exercised).toBeGreaterThan(1000);
    expect(wrapped).toBeGreaterThan(10);
  }, 120_000);
});

const ownerSheet: OwnerSheet = {
  plate: [
    ['Device', 'Kestle Fenwright 14'],
    ['Owner', 'Maud Sallow, Marram Head'],
  ],
  headline: 'Your computer is back',
  lead: 'Your computer now runs Saltbush Desktop 6 Full.',
  bar: { same: 70, otherName: 20, rest: 10 },
  amounts: ['100 files before the move, 70 exactly as they were'],
  different: ['The desktop looks different.'],
  same: [],
  files: [{ path: 'ledgers/Cash.ods', kind: 'changed', reason: 'You entered the cash of the day.' }],
  filesNote: '1 file',
  backups: [{ name: 'B-07', lines: ['office safe', 'Label: MV-0039'] }],
  keptUntil: '2026-04-01',
  warning: 'Is a file missing? Call before 2026-04-01.',
  call: ['Call Ines Carrow.'],
  boxes: ['Mail opened'],
  signer: 'Maud Sallow',
  helpDesk: 'Ines Carrow',
  record: { number: 144, code: 'ca864733ce015b52' },
  draft: false,
};

describe('the owner’s sheet', () => {
  const printed = async (change: Partial<OwnerSheet>) => {
    const pdf = await ownerSheetPdf({ ...ownerSheet, ...change }, 'MV-0039', 'Marram Coast Ferries');
    return read(pdf);
  };
  const textOf = ({ words }: { readonly words: readonly Word[] }) => words.map(({ text }) => text).join(' ');

  it('prints every file with a reason, the backups, whom to call, and the code in groups of four', async () => {
    const sheet = await printed({});
    for (const text of [
      'ledgers/Cash.ods',
      'B-07',
      'Call Ines Carrow.',
      'Mail opened',
      'ca86 4733 ce01 5b52',
    ])
      expect(textOf(sheet).replace(/\s+/g, ' ')).toContain(text);
    for (const { x, end } of sheet.words) {
      expect(x).toBeGreaterThanOrEqual(47);
      expect(end).toBeLessThanOrEqual(sheet.width - 47);
    }
  });

  it('has no place to sign while it is a draft, and says that it is one', async () => {
    const text = textOf(await printed({ draft: true }));
    expect(text).toContain('Draft, not compared');
    expect(text).not.toContain('Date and time');
    expect(textOf(await printed({}))).toContain('Date and time');
  });

  it('says so where a part does not apply, and stays on the paper with long names', async () => {
    const long = `${'very-long-folder-name/'.repeat(20)}file.ods`;
    const sheet = await printed({
      files: [{ path: long, kind: 'changed', reason: 'r'.repeat(400) }],
      plate: ownerSheet.plate.map(([label]) => [label, 'W'.repeat(80)] as const),
      backups: [],
      different: [],
      record: null,
    });
    expect(textOf(sheet)).toContain('Nothing that we know of.');
    for (const { end } of sheet.words) expect(end).toBeLessThanOrEqual(sheet.width - 47);
  });
});
