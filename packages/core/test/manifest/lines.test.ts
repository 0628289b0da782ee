import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bagItReader,
  checksumListReader,
  csvListReader,
  differencesOf,
  packList,
  pathAt,
  reconcile,
  type ReadList,
} from '../../src/manifest';
import type { Outcome } from '../../src/outcome';
import { file, readAll, readText, sha } from '../fixtures/fileList';

/** Path, digest, size and mark of every row: what a reader has made of a text. */
function rowsOf(read: Outcome<ReadList>) {
  if (!read.ok) return read.problems.map(({ code, path }) => [code, path]);
  const { list } = read.value;
  return Array.from({ length: list.count }, (_none, row) => [
    pathAt(list, row),
    Buffer.from(list.digests.subarray(row * 32, row * 32 + 32)).toString('hex'),
    String(list.sizes[row]),
  ]);
}

const bytesOf = (text: string) => new TextEncoder().encode(text);

describe('a checksum list that is read in one piece', () => {
  const plainName = fc
    .array(fc.constantFrom(...'abcXYZ019 ._-()'), { minLength: 1, maxLength: 12 })
    .map((signs) => signs.join(''))
    .filter((name) => name !== '.' && name !== '..');
  const path = fc.array(plainName, { minLength: 1, maxLength: 4 }).map((names) => names.join('/'));

  it('is the same as in pieces of any length: every digit, every path', () => {
    let lines = 0;
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(path, fc.string()), {
          selector: ([name]) => name,
          minLength: 1,
          maxLength: 8,
        }),
        fc.boolean(),
        fc.integer({ min: 1, max: 90 }),
        (files, upper, piece) => {
          const text = files
            .map(([name, content]) => `${upper ? sha(content).toUpperCase() : sha(content)}  ${name}\n`)
            .join('');
          const whole = rowsOf(readAll(checksumListReader(), bytesOf(text), text.length));
          // What Node's own hash says is in each row, digit by digit.
          expect(whole).toEqual(files.map(([name, content]) => [name, sha(content), 'NaN']));
          expect(rowsOf(readAll(checksumListReader(), bytesOf(text), piece))).toEqual(whole);
          lines += files.length;
        },
      ),
      { numRuns: 300, seed: 6 },
    );
    expect(lines).toBeGreaterThan(500);
  });

  it('is refused in the same places, wherever the wrong sign stands', () => {
    const good = `${sha('a')}  a.txt\n`;
    const codes = (text: string, piece: number) =>
      rowsOf(readAll(checksumListReader(), bytesOf(good + text + good.replace('a.txt', 'b.txt')), piece));
    let refused = 0;
    const spoilt = [
      ...Array.from({ length: 66 }, (_none, at) => `${good.slice(0, at)}x${good.slice(at + 1)}`),
      `${sha('a')}  ../up.txt\n`,
      `${sha('a')}  /root.txt\n`,
      `${sha('a')}  two//slashes.txt\n`,
      `${sha('a')}  \n`,
      `${sha('a')} short.txt\n`,
    ];
    for (const text of spoilt) {
      const whole = codes(text, 10_000);
      expect([text, codes(text, 7)]).toEqual([text, whole]);
      if (whole.some(([code]) => typeof code === 'string' && !code.endsWith('.txt'))) refused += 1;
    }
    expect(refused).toBeGreaterThan(65);
  });
});

describe('lines of a bag’s manifest', () => {
  it('end in LF, CR or CR LF, in any mixture, wherever a piece of the file ends', () => {
    let returns = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: 99 }), fc.constantFrom('\n', '\r', '\r\n')), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.integer({ min: 1, max: 80 }),
        (lines, piece) => {
          const text = lines
            .map(([content, end], index) => `${sha(String(content))}  data/${index}.txt${end}`)
            .join('');
          const read = readText(bagItReader(), text, piece);
          expect(rowsOf(read)).toEqual(
            lines.map(([content], index) => [`${index}.txt`, sha(String(content)), 'NaN']),
          );
          returns += lines.filter(([, end]) => end !== '\n').length;
        },
      ),
      { numRuns: 300, seed: 7 },
    );
    expect(returns).toBeGreaterThan(300);
  });

  it('are counted as they are written: a wrong one is named by its own number', () => {
    const line = (index: number) => `${sha(String(index))}  data/${index}`;
    for (const end of ['\n', '\r', '\r\n'])
      for (const piece of [1, 7, 66, 10_000])
        expect(
          rowsOf(readText(bagItReader(), [line(1), line(2), 'short  data/3', ''].join(end), piece)),
        ).toEqual([['odd-hash', '/lines/3']]);
  });
});

describe('a CSV list', () => {
  it('may have spaces around its checksums and numbers', () => {
    const reader = csvListReader();
    reader.header(['path', 'bytes', 'sha256']);
    reader.row(['a.txt', ' 5 ', ` ${sha('a')} `]);
    reader.row(['b.txt', '7', sha('b')]);
    reader.row(['c.txt', '9', '']);
    const read = reader.end();
    expect(rowsOf(read)).toEqual([
      ['a.txt', sha('a'), '5'],
      ['b.txt', sha('b'), '7'],
      ['c.txt', '0'.repeat(64), '9'],
    ]);
  });
});

describe('equal files that no name and no folder tells apart', () => {
  it('are paired in the order of their paths, however the lists are sorted', () => {
    const names = ['d', 'b', 'e', 'a', 'c'];
    let turns = 0;
    fc.assert(
      fc.property(
        fc.shuffledSubarray(names, { minLength: 5 }),
        fc.shuffledSubarray(names, { minLength: 5 }),
        (before, after) => {
          const was = packList(before.map((name) => file(`was-${name}/one-${name}`, 'same')));
          const is = packList(after.map((name) => file(`is-${name}/two-${name}`, 'same')));
          const pairs = [...differencesOf(reconcile(was, is), was, is)].map(
            ({ pathBefore, pathAfter }) => `${pathBefore ?? ''} ${pathAfter ?? ''}`,
          );
          expect(pairs.toSorted()).toEqual(
            names.toSorted().map((name) => `was-${name}/one-${name} is-${name}/two-${name}`),
          );
          turns += 1;
        },
      ),
      { numRuns: 60, seed: 8 },
    );
    expect(turns).toBe(60);
  });
});
