import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bagDeclaration,
  bagItReader,
  bagProblems,
  checksumListReader,
  csvListReader,
  kindOfList,
  printTagManifest,
  type BagPaper,
  type BagPayload,
  entriesOf,
  packList,
  printBagInfo,
  printBagItLine,
  printChecksumLine,
  readPayloadOxum,
  summarise,
  type FileEntry,
  type ListReader,
} from '../../src/manifest';
import { anyPath, file, readAll, readText, sha } from '../fixtures/fileList';

const a = sha('a');
const b = sha('b');

function codesOf(reader: ListReader, text: string): readonly string[] {
  const outcome = readText(reader, text);
  return outcome.ok ? [] : outcome.problems.map(({ code }) => code);
}

function pathsOf(reader: ListReader, text: string): readonly string[] {
  const outcome = readText(reader, text);
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return [...entriesOf(outcome.value.list)].map(({ path }) => path);
}

describe('a checksum list', () => {
  it('is read as the usual tool writes it: two spaces, or a star for binary', () => {
    const outcome = readText(checksumListReader(), `${a}  letters/a b.txt\n${b} *b.bin\n`);
    expect(outcome).toMatchObject({ ok: true });
    expect(outcome.ok && [...entriesOf(outcome.value.list)]).toEqual([
      { path: 'letters/a b.txt', sizeBytes: null, sha256: a, modifiedMs: null, trouble: null },
      { path: 'b.bin', sizeBytes: null, sha256: b, modifiedMs: null, trouble: null },
    ]);
  });

  it('takes the escapes that the tool writes for backslash, line feed and carriage return', () => {
    expect(pathsOf(checksumListReader(), `\\${a}  odd\\\\na\\nme\\r.txt\n`)).toEqual(['odd\\na\nme\r.txt']);
  });

  it('leaves off CR, a byte order mark and ./, folds a line that is listed twice, and says so', () => {
    const outcome = readText(checksumListReader(), `\uFEFF${a}  ./x\r\n${a}  x\r\n${b}  y//z\r\n`);
    expect(outcome.ok && [...entriesOf(outcome.value.list)].map(({ path }) => path)).toEqual(['x', 'y/z']);
    expect(outcome.ok && outcome.value.notes.map(({ code, count }) => [code, count])).toEqual([
      ['crlf', 3],
      ['doubled-lines', 1],
    ]);
  });

  it('reads backslashes without an escape mark as separators, and says so', () => {
    const outcome = readText(checksumListReader(), `${a}  letters\\2019\\a.txt\n`);
    expect(outcome.ok && [...entriesOf(outcome.value.list)].map(({ path }) => path)).toEqual([
      'letters/2019/a.txt',
    ]);
    expect(outcome.ok && outcome.value.notes[0]?.code).toBe('backslashes');
  });

  it.each([
    ['an MD5', `${'0'.repeat(32)}  x\n`, 'odd-hash'],
    ['sixty-three digits', `${'0'.repeat(63)}  x\n`, 'odd-hash'],
    ['no digits', 'hello\n', 'odd-hash'],
    ['one space', `${a} x\n`, 'malformed-line'],
    ['an escape that is none', `\\${a}  x\\t\n`, 'malformed-line'],
    ['an absolute path', `${a}  /home/a/x\n`, 'absolute-path'],
    ['a drive letter', `${a}  D:\\x\n`, 'absolute-path'],
    ['a climbing path', `${a}  x/../../y\n`, 'climbing-path'],
    ['a folder', `${a}  x/\n`, 'names-a-folder'],
    ['no path', `${a}  \n`, 'no-path'],
    ['one path with two checksums', `${a}  x\n${b}  x\n`, 'contradicting-lines'],
    ['nothing at all', '\n\n', 'empty-list'],
  ])('is refused whole for %s', (_what, text, code) => {
    expect(codesOf(checksumListReader(), text)).toContain(code);
  });

  it('refuses bytes that are no UTF-8, and names the line', () => {
    const bytes = Uint8Array.from([...new TextEncoder().encode(`${a}  x\n${b}  `), 0xff, 0xfe, 0x0a]);
    const outcome = readAll(checksumListReader(), bytes);
    expect(!outcome.ok && outcome.problems).toMatchObject([{ code: 'invalid-utf8', path: '/lines/2' }]);
  });

  it('names the folder that absolute paths have in common, and takes them as relative to it', () => {
    const text = `${a}  /home/a/x\n${b}  /home/a/y/z\n`;
    const refused = readText(checksumListReader(), text);
    const root = refused.ok
      ? ''
      : (refused.problems.find(({ code }) => code === 'common-folder')?.path ?? '');
    expect(root).toBe('/home/a');
    expect(pathsOf(checksumListReader({ below: root }), text)).toEqual(['x', 'y/z']);
  });

  it('may be read through one buffer that is filled again and again', () => {
    const text = Buffer.from(`${a}  first name.txt\n${b}  second name.txt\n`);
    const reader = checksumListReader();
    const buffer = Buffer.alloc(11);
    for (let start = 0; start < text.length; start += 11)
      reader.push(buffer.subarray(0, text.copy(buffer, 0, start, start + 11)));
    const outcome = reader.end();
    expect(outcome.ok && [...entriesOf(outcome.value.list)].map(({ path }) => path)).toEqual([
      'first name.txt',
      'second name.txt',
    ]);
  });

  it('keeps fifty faults of a kind word for word and counts the rest', () => {
    const outcome = readText(checksumListReader(), 'no\n'.repeat(1000), 64);
    expect(!outcome.ok && outcome.problems).toHaveLength(51);
    expect(!outcome.ok && outcome.problems.at(-1)?.sentence).toContain('950 more lines');
  });

  it('is the list again after being printed, whatever the names', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(anyPath, { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 40 }),
        (paths, piece) => {
          const text = paths.map((path) => printChecksumLine({ path, sha256: sha(path) })).join('');
          const outcome = readText(checksumListReader(), text, piece);
          expect(
            outcome.ok && [...entriesOf(outcome.value.list)].map(({ path, sha256 }) => [path, sha256]),
          ).toEqual(paths.map((path) => [path, sha(path)]));
        },
      ),
    );
  });

  it('takes lines of the other usual kind, escaped ones and brackets in names among them', () => {
    expect(
      pathsOf(checksumListReader(), `SHA256 (a (1).txt) = ${a}\n\\SHA256 (b\\nc) = ${a}\n${a}  d\n`),
    ).toEqual(['a (1).txt', 'b\nc', 'd']);
    expect(codesOf(checksumListReader(), `MD5 (a) = ${'0'.repeat(32)}\n`)).toEqual(['odd-hash']);
    expect(codesOf(checksumListReader(), `SHA256 (a) = ${'0'.repeat(63)}\n`)).toEqual(['odd-hash']);
  });

  it('is the list of the system’s own tool, in both kinds', () => {
    const folder = mkdtempSync(join(tmpdir(), 'ulvane-sums-'));
    try {
      for (const name of ['a (1).txt', 'b) = c', '\uFEFFmarked', 'line\nfeed', 'back\\slash'])
        writeFileSync(join(folder, name), name);
      const names = readdirSync(folder);
      for (const kind of [[], ['--tag']]) {
        const text = execFileSync('sha256sum', [...kind, '--', ...names], { cwd: folder, encoding: 'utf8' });
        const read = readText(checksumListReader(), text);
        expect(read.ok && [...entriesOf(read.value.list)].map(({ path, sha256 }) => [path, sha256])).toEqual(
          names.map((name) => [name, sha(name)]),
        );
      }
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('has no line for a file without a checksum', () => {
    expect(printChecksumLine({ path: 'x', sha256: null })).toBeNull();
  });
});

describe('a bag', () => {
  it('has its payload below data/, with line ends and per cent encoded', () => {
    expect(printBagItLine({ path: '50%\n.txt', sha256: a })).toBe(`${a}  data/50%25%0A.txt\n`);
    expect(pathsOf(bagItReader(), `${a}   data/50%25%0a.txt\n`)).toEqual(['50%\n.txt']);
  });

  it('refuses what lies outside data/', () => {
    expect(codesOf(bagItReader(), `${a}  notes.txt\n`)).toEqual(['not-below-data']);
    expect(codesOf(bagItReader(), `${a}  data/../notes.txt\n`)).toEqual(['climbing-path']);
  });

  it('is the list again after being printed, whatever its lines end in', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(anyPath, { minLength: 1, maxLength: 12 }),
        fc.constantFrom('\n', '\r\n', '\r'),
        (paths, end) => {
          const text = paths
            .map((path) => printBagItLine({ path, sha256: sha(path) })?.replace('\n', end))
            .join('');
          expect(pathsOf(bagItReader(), text)).toEqual(paths);
        },
      ),
    );
  });

  it('states octets and files, as in the example of RFC 8493', () => {
    // RFC 8493, section 2.2.2: "Payload-Oxum: 279164409832.1198".
    const info = printBagInfo({
      externalIdentifier: 'MV-0001',
      description: 'Letters\nof Ada',
      baggingDate: '2026-03-02',
      sizeBytes: 279_164_409_832,
      fileCount: 1198,
    });
    expect(info).toContain('Payload-Oxum: 279164409832.1198\n');
    expect(info).toContain('External-Description: Letters of Ada\n');
    expect(readPayloadOxum(info)).toEqual({
      ok: true,
      value: { sizeBytes: 279_164_409_832, fileCount: 1198 },
    });
    // A sum of sizes that are not known is no sum.
    expect(
      printBagInfo({
        externalIdentifier: 'MV-0001',
        description: 'Letters',
        baggingDate: '2026-03-02',
        sizeBytes: null,
        fileCount: 3,
      }),
    ).not.toContain('Payload-Oxum');
    expect(readPayloadOxum('Payload-Oxum: many\n').ok).toBe(false);
    expect(readPayloadOxum('Bagging-Date: 2026-03-02\n')).toEqual({ ok: true, value: null });
  });
});

describe('the papers of a bag', () => {
  const manifest = `${a}  data/x\n${a}  data/y\n`;
  const digest = (text: string) => createHash('sha256').update(text).digest('hex');
  const paper = (name: string, text: string) => ({ name, text, sha256: digest(text) });
  const info = 'Bagging-Date: 2026-03-02\nPayload-Oxum: 30.2\n';
  const whole = () => {
    const papers = [
      paper('bagit.txt', bagDeclaration),
      paper('bag-info.txt', info),
      paper('manifest-sha256.txt', manifest),
    ];
    return [...papers, paper('tagmanifest-sha256.txt', printTagManifest(papers))];
  };
  const payload = { fileCount: 2, sizeBytes: null };
  const codes = (papers: readonly BagPaper[], of: BagPayload = payload) =>
    bagProblems(of, papers).map(({ code }) => code);

  it('agree where nothing was changed, however many of them are given', () => {
    expect(codes(whole())).toEqual([]);
    expect(codes(whole().slice(2))).toEqual([]);
    expect(codes([])).toEqual([]);
    expect(codes(whole(), { fileCount: 2, sizeBytes: 30 })).toEqual([]);
  });

  it('tell on one another when any one of them was changed by a single sign', () => {
    let told = 0;
    for (const index of [0, 1, 2]) {
      const papers = whole();
      const old = papers[index];
      if (old) papers[index] = paper(old.name, `${old.text} `);
      expect(codes(papers)).toContain('tag-differs');
      told += 1;
    }
    expect(told).toBe(3);
  });

  it('say when they are of another bag, are still to be fetched, or are in other letters', () => {
    expect(codes(whole(), { fileCount: 3, sizeBytes: null })).toEqual(['oxum-files']);
    expect(codes(whole(), { fileCount: 2, sizeBytes: 31 })).toEqual(['oxum-bytes']);
    expect(codes([...whole(), paper('fetch.txt', 'https://example.org/x 3 data/x\n')])).toEqual([
      'bag-with-fetch',
    ]);
    expect(codes([...whole(), paper('fetch.txt', '\n')])).toEqual([]);
    expect(codes([paper('bagit.txt', 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-16\n')])).toEqual([
      'bag-encoding',
    ]);
    expect(codes([paper('tagmanifest-sha256.txt', 'nothing of the kind\n')])).toEqual(['odd-hash']);
  });
});

describe('what a list is', () => {
  it.each([
    ['sums.txt', `${a}  x\n`, 'checksum-list'],
    ['sums.txt', `\\${a}  x\\ny\n`, 'checksum-list'],
    ['sums.txt', `SHA256 (x) = ${a}\n`, 'checksum-list'],
    ['manifest-sha256.txt', `${a}  data/x\n`, 'bag'],
    ['sums.txt', `${a}  data/x\n`, 'checksum-list'],
    ['list.csv', 'path,bytes\nx,1\n', 'csv'],
  ])('%s that begins with “%s” is a %s', (name, head, kind) => {
    expect(kindOfList(name, head)).toEqual({ ok: true, value: kind });
  });

  it('other papers of a bag are refused, with the one to take', () => {
    for (const name of ['fetch.txt', 'tagmanifest-sha256.txt']) {
      const kind = kindOfList(name, `${a}  bag-info.txt\n`);
      expect(!kind.ok && kind.problems[0]?.sentence).toContain('manifest-sha256.txt');
    }
  });
});

describe('a CSV list', () => {
  it('counts lines as the file has them, after blank rows and rows of several lines too', () => {
    const reader = csvListReader();
    reader.header(['path', 'bytes']);
    reader.row(['one\ntwo\r\nthree.txt', '3']);
    reader.row(['']);
    reader.row(['x.txt', 'many']);
    const read = reader.end();
    // Line 1 names the columns, 2 to 4 are the first file, 5 is blank.
    expect(!read.ok && read.problems[0]?.sentence).toContain('Line 6:');
  });

  const read = (header: readonly string[], ...rows: readonly (readonly string[])[]) => {
    const reader = csvListReader();
    reader.header(header);
    for (const row of rows) reader.row(row);
    return reader.end();
  };

  it('has path, bytes and time, under the names that tools give them', () => {
    const outcome = read(
      ['FullName', 'Length', 'LastWriteTime'],
      ['a\\b.txt', '1 204', '2026-03-02 10:00:00'],
      ['c.txt', '', ''],
    );
    expect(outcome.ok && [...entriesOf(outcome.value.list)]).toEqual([
      { path: 'a/b.txt', sizeBytes: 1204, sha256: null, modifiedMs: Date.UTC(2026, 2, 2, 10), trouble: null },
      { path: 'c.txt', sizeBytes: null, sha256: null, modifiedMs: null, trouble: null },
    ]);
  });

  it('takes the full name for the path, wherever the name alone stands', () => {
    const outcome = read(['Name', 'FullName'], ['b.txt', 'a/b.txt']);
    expect(outcome.ok && [...entriesOf(outcome.value.list)].map(({ path }) => path)).toEqual(['a/b.txt']);
  });

  it('of our own holds names as they are, backslashes among them', () => {
    const outcome = read(['path', 'bytes', 'time', 'sha256', 'trouble'], ['a\\b.txt', '1', '', '', '']);
    expect(outcome.ok && [...entriesOf(outcome.value.list)].map(({ path }) => path)).toEqual(['a\\b.txt']);
  });

  it.each(['1,5', '1.5', '12,34', '1,2345'])('refuses %s bytes', (text) => {
    const outcome = read(['path', 'bytes'], ['a', text]);
    expect(!outcome.ok && outcome.problems[0]?.code).toBe('unreadable-bytes');
  });

  it('names each cell that cannot be read', () => {
    const outcome = read(
      ['path', 'bytes', 'time', 'sha256'],
      ['a', 'many', '', ''],
      ['b', '1', 'yesterday', ''],
      ['c', '1', '', 'abc'],
    );
    expect(!outcome.ok && outcome.problems.map(({ code, path }) => [code, path])).toEqual([
      ['unreadable-bytes', '/lines/2'],
      ['unreadable-time', '/lines/3'],
      ['odd-hash', '/lines/4'],
    ]);
  });

  it('needs a column of paths', () => {
    const outcome = read(['what', 'bytes'], ['a', '1']);
    expect(!outcome.ok && outcome.problems[0]?.code).toBe('no-path-column');
  });
});

describe('a packed list', () => {
  const anyEntry = fc.record<FileEntry>({
    path: anyPath,
    sizeBytes: fc.option(fc.nat({ max: 1e12 })),
    sha256: fc.option(
      fc.uint8Array({ minLength: 32, maxLength: 32 }).map((bytes) => Buffer.from(bytes).toString('hex')),
    ),
    modifiedMs: fc.option(fc.integer({ min: 0, max: 2e12 })),
    trouble: fc.constantFrom(null, 'unreadable', 'changed-while-read', 'link'),
  });

  it('gives back what was put in, and keeps every file and byte', () => {
    fc.assert(
      fc.property(fc.array(anyEntry, { maxLength: 30 }), (entries) => {
        const list = packList(entries);
        expect([...entriesOf(list)]).toEqual(entries);
        const summary = summarise(list);
        expect(summary.fileCount).toBe(entries.length);
        expect(summary.sizeBytes).toBe(entries.reduce((sum, { sizeBytes }) => sum + (sizeBytes ?? 0), 0));
        expect(summary.withoutDigest).toBe(entries.filter(({ sha256 }) => sha256 === null).length);
      }),
    );
  });

  it('grows past its first guess', () => {
    const list = packList(
      Array.from({ length: 5000 }, (_none, index) => file(`folder/${index}`, String(index))),
    );
    expect([...entriesOf(list)].at(4999)).toMatchObject({
      path: 'folder/4999',
      sha256: createHash('sha256').update('4999').digest('hex'),
    });
  });
});
