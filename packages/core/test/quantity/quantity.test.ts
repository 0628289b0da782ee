import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  addMinutes,
  daysBetween,
  markOfColumn,
  minutesBetween,
  parseBytes,
  printBothUnits,
  printBytes,
  printCount,
  printExactBytes,
  printMinutes,
  readWrittenNumber,
} from '../../src/quantity';

const anyBytes = fc.integer({ min: 0, max: 2 ** 52 });
const family = fc.constantFrom('decimal' as const, 'binary' as const);

describe('bytes', () => {
  it('prints a drive sold as 256 GB in both units', () => {
    // 256 060 514 304 ÷ 1000³ = 256.06…; ÷ 1024³ = 238.475…
    expect(printBothUnits(256_060_514_304)).toBe('256.1 GB (238.5 GiB)');
  });

  it('never prints a thousand of one unit where the next begins', () => {
    expect(printBytes(999_960_000, 'decimal')).toBe('1.0 GB');
    expect(printBytes(999, 'decimal')).toBe('999 B');
    expect(printBytes(1000, 'decimal')).toBe('1.0 kB');
    expect(printBytes(1023, 'binary')).toBe('1023 B');
  });

  it.each([
    ['74.2 GB', 74_200_000_000],
    ['69 GiB', 69 * 1024 ** 3],
    ['1.5 KiB', 1536],
    ['1,5 kB', 1500],
    ['512', 512],
    ['0 B', 0],
    // The usual ways to write a thousand and what is less than one.
    ['1,024.5 MB', 1_024_500_000],
    ['1.024,5 MB', 1_024_500_000],
    ['1 024 MB', 1_024_000_000],
    ['1,000,000 kB', 1_000_000_000],
    ['8,5 GB', 8_500_000_000],
    ['0,125 GB', 125_000_000],
    ['60.1250 GiB', 60.125 * 1024 ** 3],
    ["1'024 MB", 1_024_000_000],
  ])('reads %s', (text, bytes) => {
    expect(parseBytes(text)).toEqual({ ok: true, value: bytes });
  });

  it.each([
    ['8,192 MB', '8192 MB', '8.1920 MB'],
    ['1.000 GB', '1000 GB', '1.0000 GB'],
    ['12,500', '12500', '12.5000'],
  ])('asks what %s means, and never guesses', (text, whole, fraction) => {
    const read = parseBytes(text);
    expect(!read.ok && read.problems[0]?.code).toBe('size-two-meanings');
    const sentence = read.ok ? '' : read.problems[0]?.sentence;
    // Both ways out that the sentence offers can be read.
    for (const way of [whole, fraction]) {
      expect(sentence).toContain(way);
      expect(parseBytes(way).ok).toBe(true);
    }
  });

  it.each([
    ['8,192 MB', 'point', 8_192_000_000],
    ['8,192 MB', 'comma', 8_192_000],
    ['8.192 MB', 'point', 8_192_000],
    ['8.192 MB', 'comma', 8_192_000_000],
    // One meaning only, however the house writes.
    ['8,5 GB', 'point', 8_500_000_000],
    ['8.5 GB', 'comma', 8_500_000_000],
    ['0,125 GB', 'point', 125_000_000],
    ['1.024,5 MB', 'point', 1_024_500_000],
  ] as const)('reads %s in a house that writes with a %s', (text, mark, bytes) => {
    expect(parseBytes(text, 'decimal', mark)).toEqual({ ok: true, value: bytes });
  });

  it.each([
    [['8,192 MB', '7,5 GB'], 'comma'],
    [['8,192', '1,024,000'], 'point'],
    [['8.192', '16384', '1.048.576'], 'comma'],
    [['4 GB', '8192 MB'], undefined],
    // A list that two people wrote.
    [['7,5 GB', '7.5 GB'], undefined],
    [['8,192 MB', '4,096 MB'], undefined],
  ] as const)('sees how the column %j writes its numbers', (texts, mark) => {
    expect(markOfColumn(texts)).toBe(mark);
  });

  it('reads every number alike that is written as the house or the column writes', () => {
    const seen = { point: 0, comma: 0, asked: 0 };
    fc.assert(
      fc.property(
        fc.oneof(fc.integer({ min: 0, max: 9_999_999 }), fc.integer({ min: 1, max: 999 })),
        fc.oneof(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 100, max: 999 })),
        fc.constantFrom('point' as const, 'comma' as const),
        fc.boolean(),
        (whole, parts, mark, grouping) => {
          const [before, between] = mark === 'point' ? ['.', ','] : [',', '.'];
          // Written by hand, sign by sign: the reference shares nothing with what reads it.
          let digits = String(whole);
          if (grouping) {
            let made = '';
            for (const [index, digit] of [...digits].entries())
              made += (index > 0 && (digits.length - index) % 3 === 0 ? between : '') + digit;
            digits = made;
          }
          const fraction = parts === 0 ? '' : `${before}${String(parts)}`;
          const text = `${digits}${fraction}`;
          const meant = { whole: String(whole), fraction: parts === 0 ? '' : String(parts) };
          expect(readWrittenNumber(text, mark)).toEqual(meant);
          seen[mark] += 1;
          // Where nobody has said how numbers are written it is asked, or means the same.
          const asked = readWrittenNumber(text, 'either');
          if (asked === 'two-meanings') seen.asked += 1;
          else expect(asked).toEqual(meant);
        },
      ),
      { numRuns: 3000 },
    );
    expect(seen.point).toBeGreaterThan(1000);
    expect(seen.comma).toBeGreaterThan(1000);
    expect(seen.asked).toBeGreaterThan(200);
  });

  it.each(['1,23,456 MB', '1,024,5 MB', '1.2.3 GB', '12 34 MB', ',5 GB', '5, GB', '1 0245 MB'])(
    'refuses %s',
    (text) => {
      const read = parseBytes(text);
      expect(!read.ok && read.problems[0]?.code).toBe('size-unreadable');
    },
  );

  it('lets the house say what a lone G means', () => {
    expect(parseBytes('90G', 'binary')).toEqual({ ok: true, value: 90 * 1024 ** 3 });
    expect(parseBytes('90G', 'decimal')).toEqual({ ok: true, value: 90 * 1000 ** 3 });
  });

  it.each(['', 'GB', '-3 GB', '12 apples', '1.2.3 GB', '5 iB', '9999999 PB'])(
    'refuses “%s” with a sentence',
    (text) => {
      const read = parseBytes(text);
      expect(read.ok).toBe(false);
      expect(!read.ok && read.problems[0]?.sentence).toContain(text);
    },
  );

  it('reads back to the byte what it prints exactly, in both families', () => {
    fc.assert(
      fc.property(anyBytes, family, (bytes, units) => {
        expect(parseBytes(printExactBytes(bytes, units))).toEqual({ ok: true, value: bytes });
      }),
    );
  });

  it('is within half of the last printed place when rounded', () => {
    fc.assert(
      fc.property(anyBytes, family, (bytes, units) => {
        const text = printBytes(bytes, units);
        const read = parseBytes(text);
        const base = units === 'decimal' ? 1000 : 1024;
        const step = ['B', 'k', 'K', 'M', 'G', 'T', 'P'].indexOf(text.split(' ')[1]?.[0] ?? 'B');
        const unit = base ** ([0, 1, 1, 2, 3, 4, 5][Math.max(0, step)] ?? 1);
        expect(read.ok && Math.abs(read.value - bytes)).toBeLessThanOrEqual(unit * 0.05 + 1);
      }),
    );
  });
});

describe('counts', () => {
  it('say one file and many files, with their thousands apart', () => {
    expect([0, 1, 999, 1000, 18_204, 1_234_567].map((count) => printCount(count, 'file'))).toEqual([
      '0 files',
      '1 file',
      '999 files',
      '1,000 files',
      '18,204 files',
      '1,234,567 files',
    ]);
  });
});

describe('days and minutes', () => {
  it('counts days over the end of a month, leap year or not', () => {
    expect(daysBetween('2026-02-27', '2026-03-02')).toBe(3);
    expect(daysBetween('2028-02-27', '2028-03-02')).toBe(4);
    expect(daysBetween('2026-03-02T23:59:00.000Z', '2026-03-01')).toBe(-1);
  });

  it('adds and counts alike', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4000, max: 4000 }), (days) => {
        expect(daysBetween('2026-03-02', addDays('2026-03-02', days))).toBe(days);
      }),
    );
    expect(minutesBetween('2026-03-02T09:00:00.000Z', addMinutes('2026-03-02T09:00:00.000Z', 95))).toBe(95);
  });

  it('prints minutes as people say them', () => {
    expect([0, 59, 60, 80, 2880].map(printMinutes)).toEqual(['0 min', '59 min', '1 h', '1 h 20 min', '48 h']);
  });
});
