import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { foldedName, planRenames, renameBack, renamer } from '../../src/backup';
import { fileSystems } from '../../src/catalogue';
import {
  bagItReader,
  chanceOfFinding,
  checksumListReader,
  csvListHeader,
  csvListReader,
  entriesOf,
  packList,
  printBagItLine,
  printChecksumLine,
  reconcile,
  sampleSizeFor,
  type ListReader,
} from '../../src/manifest';
import { formulaCell } from '../../src/outcome';
import { file, readText, sha } from '../fixtures/fileList';

// References here are written anew and share no code with what they check; every law says how often it was tried.

describe('comparing lists', () => {
  type Tree = Readonly<Record<string, string>>;
  const names = ['a', 'b', 'c/a', 'c/b', 'd/x', 'e', 'f/a', 'f/b', 'g', 'h/x', 'h/y', 'i'];
  const tree = fc.dictionary(fc.constantFrom(...names), fc.constantFrom('', 'one', 'two', 'three'), {
    minKeys: 2,
    maxKeys: 8,
    size: 'max',
  });

  /** Pairs as many as can be of those that may be paired (augmenting paths, Kuhn 1955). */
  function maxPairs(left: number, right: number, may: (l: number, r: number) => boolean): number {
    const takenBy = new Array<number>(right).fill(-1);
    const find = (l: number, seen: Set<number>): boolean => {
      for (let r = 0; r < right; r += 1) {
        if (seen.has(r) || !may(l, r)) continue;
        seen.add(r);
        const holder = takenBy[r] ?? -1;
        if (holder >= 0 && !find(holder, seen)) continue;
        takenBy[r] = l;
        return true;
      }
      return false;
    };
    let pairs = 0;
    for (let l = 0; l < left; l += 1) if (find(l, new Set())) pairs += 1;
    return pairs;
  }

  it('pairs as many files by their content as can be paired, two thousand times', () => {
    const list = (files: Tree) =>
      packList(Object.entries(files).map(([path, content]) => file(path, content)));
    let compared = 0;
    let paired = 0;
    fc.assert(
      fc.property(tree, tree, (before: Tree, after: Tree) => {
        const { counts } = reconcile(list(before), list(after));
        const both = Object.keys(before).filter((path) => path in after);
        const kept = both.filter((path) => before[path] === after[path]);
        const left = Object.entries(before).filter(([path]) => !(path in after));
        const right = Object.entries(after).filter(([path]) => !(path in before));
        const pairs = maxPairs(
          left.length,
          right.length,
          (l, r) => left[l]?.[1] !== '' && left[l]?.[1] === right[r]?.[1],
        );
        expect(counts.same).toBe(kept.length);
        expect(counts.changed).toBe(both.length - kept.length);
        expect(counts.renamed + counts.moved).toBe(pairs);
        // Every file of both lists is told, once.
        expect(counts.same + counts.changed + pairs + counts.missing + counts.merged).toBe(
          Object.keys(before).length,
        );
        expect(counts.same + counts.changed + pairs + counts.added + counts.duplicated).toBe(
          Object.keys(after).length,
        );
        // Missing is only what is nowhere on the other side any more.
        const contents = new Set(Object.values(after));
        const lost = left.filter(([, content]) => content === '' || !contents.has(content)).length;
        expect(counts.missing).toBe(lost);
        compared += 1;
        paired += pairs;
      }),
      { numRuns: 2000 },
    );
    expect(compared).toBe(2000);
    expect(paired).toBeGreaterThan(500);
  });
});

describe('awkward names', () => {
  /** Every sign that some format or system treats as its own, and what people write. */
  const signs = [
    ...Array.from({ length: 0x7f }, (_none, code) => String.fromCharCode(code + 1)).filter(
      (sign) => sign !== '/',
    ),
    ...['\u00a0', '\u2028', '\ufeff', 'é', 'e\u0301', 'ß', 'İ', 'ק', 'ع', '写', '🙂', '\u200b', '\u202e'],
  ];
  const shapes = [
    (sign: string) => sign,
    (sign: string) => `${sign}name.txt`,
    (sign: string) => `na${sign}me.txt`,
    (sign: string) => `name${sign}`,
    (sign: string) => `folder${sign}/in it`,
    (sign: string) => `  ${sign}  two blanks`,
    (sign: string) => `${sign}${sign}${sign}`,
    (sign: string) => `"${sign}" 'x' \\${sign}`,
    (sign: string) => `${sign}=1+1`,
  ];
  const paths = [...new Set(signs.flatMap((sign) => shapes.map((shape) => shape(sign))))].filter((path) =>
    path.split('/').every((name) => name !== '' && name !== '.' && name !== '..'),
  );

  const backFrom = (reader: ListReader, text: string) => {
    const read = readText(reader, text, 11);
    if (!read.ok) throw new Error(read.problems[0]?.sentence);
    return [...entriesOf(read.value.list)].map(({ path, sha256 }) => [path, sha256]);
  };
  const meant = paths.map((path) => [path, sha(path)]);

  it('are more than a thousand, and come back from each format as they went', () => {
    expect(paths.length).toBeGreaterThan(1000);
    const printed = (line: (entry: { path: string; sha256: string }) => string | null) =>
      paths.map((path) => line({ path, sha256: sha(path) }) ?? '').join('');
    expect(backFrom(checksumListReader(), printed(printChecksumLine))).toEqual(meant);
    expect(backFrom(bagItReader(), printed(printBagItLine))).toEqual(meant);
    // Our own CSV, as the server writes it and the page reads it.
    const csv = `${csvListHeader}\n${Papa.unparse(
      paths.map((path) => [path, '', '', sha(path), '']),
      { newline: '\n', escapeFormulae: formulaCell },
    )}`;
    const reader = csvListReader();
    const [header = [], ...rows] = Papa.parse<string[]>(csv, { newline: '\n' }).data;
    reader.header(header);
    rows.forEach((row) => reader.row(row));
    const read = reader.end();
    expect(read.ok && [...entriesOf(read.value.list)].map(({ path, sha256 }) => [path, sha256])).toEqual(
      meant,
    );
  });
});

describe('samples', () => {
  const choose = (of: number, count: number): bigint => {
    if (count < 0 || count > of) return 0n;
    let ways = 1n;
    for (let step = 1; step <= count; step += 1) ways = (ways * BigInt(of - step + 1)) / BigInt(step);
    return ways;
  };
  /** 1 − C(files − bad, sample) ÷ C(files, sample), in whole numbers to twelve places. */
  const exact = (files: number, bad: number, sample: number) => {
    if (bad === 0 || sample === 0) return 0;
    const all = choose(files, sample);
    return Number(((all - choose(files - bad, sample)) * 10n ** 12n) / all) / 1e12;
  };

  it('find with the exact chance, for every number up to thirty files', () => {
    let tried = 0;
    for (let files = 1; files <= 30; files += 1)
      for (let bad = 0; bad <= files; bad += 1)
        for (let sample = 0; sample <= files; sample += 1) {
          expect(Math.abs(chanceOfFinding(files, bad, sample) - exact(files, bad, sample))).toBeLessThan(
            1e-9,
          );
          tried += 1;
        }
    expect(tried).toBeGreaterThan(9000);
  });

  it('are the smallest that do, for every number up to thirty files', () => {
    let tried = 0;
    for (let files = 1; files <= 30; files += 1)
      for (let bad = 1; bad <= files; bad += 1)
        for (const confidence of [0.5, 0.9, 0.95, 0.99]) {
          let smallest = 0;
          while (exact(files, bad, smallest) < confidence) smallest += 1;
          expect(sampleSizeFor(files, bad, confidence)).toBe(smallest);
          tried += 1;
        }
    expect(tried).toBeGreaterThan(1800);
  });
});

describe('other names for a drive', () => {
  const forbidden = new Set('<>:"\\|?*');
  const devices = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;
  /** What a strict file system takes, written from its published rules alone. */
  const taken = (name: string) =>
    name.length <= 255 &&
    ![...name].some((sign) => forbidden.has(sign) || sign < ' ') &&
    !name.endsWith('.') &&
    !name.endsWith(' ') &&
    !devices.test(name);

  it('are taken, told apart, and lead back: three thousand folders', () => {
    let folders = 0;
    let renamed = 0;
    const piece = fc.constantFrom(
      'a',
      'A',
      'b',
      'con',
      'aux.c',
      '?',
      ':',
      '.',
      ' ',
      'é',
      'É',
      'x'.repeat(200),
      '_',
    );
    const name = fc
      .array(piece, { minLength: 1, maxLength: 4 })
      .map((parts) => parts.join(''))
      .filter((one) => one !== '.' && one !== '..');
    const path = fc.array(name, { minLength: 1, maxLength: 3 }).map((parts) => parts.join('/'));
    const anyStrict = fc.constantFrom(...fileSystems.filter(({ names }) => names === 'strict'));
    fc.assert(
      fc.property(fc.uniqueArray(path, { maxLength: 12 }), anyStrict, (paths, limit) => {
        // A path that is a folder of another one is no file.
        const files = paths.filter((one) => !paths.some((other) => other.startsWith(`${one}/`)));
        const renames = planRenames(files, limit);
        const there = renamer(renames);
        const back = renameBack(renames);
        const placed = files.map(there);
        for (const [index, one] of placed.entries()) {
          expect(one.split('/').filter((part) => !taken(part))).toEqual([]);
          expect(back(one)).toBe(files[index]);
        }
        const keys = placed.map((one) =>
          one
            .split('/')
            .map((part) => foldedName(part, limit))
            .join('/'),
        );
        expect(new Set(keys).size).toBe(files.length);
        folders += 1;
        renamed += renames.length;
      }),
      { numRuns: 3000 },
    );
    expect(folders).toBe(3000);
    expect(renamed).toBeGreaterThan(3000);
  });
});
