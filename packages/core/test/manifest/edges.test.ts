import { describe, expect, it } from 'vitest';
import {
  bagDeclaration,
  bagProblems,
  checksumListReader,
  csvListReader,
  describeSample,
  entriesOf,
  printBagInfo,
  readPayloadOxum,
  type ReadList,
} from '../../src/manifest';
import type { Outcome } from '../../src/outcome';
import { readText, sha } from '../fixtures/fileList';

const paths = (read: Outcome<ReadList>) =>
  read.ok ? [...entriesOf(read.value.list)].map(({ path }) => path) : read.problems.map(({ code }) => code);
const notes = (read: Outcome<ReadList>) => (read.ok ? read.value.notes.map(({ sentence }) => sentence) : []);
const a = sha('a');
const b = sha('b');

describe('absolute paths', () => {
  const list = `${a}  /home/ab/x/1.txt\n${b}  /home/ab/y.txt\n`;

  it('are refused with the folder that all of them are in, and taken below it', () => {
    const refused = readText(checksumListReader(), list);
    expect(!refused.ok && refused.problems.find(({ code }) => code === 'common-folder')?.path).toBe(
      '/home/ab',
    );
    expect(paths(readText(checksumListReader({ below: '/home/ab' }), list))).toEqual(['x/1.txt', 'y.txt']);
    // Of one file it is its own folder.
    const one = readText(checksumListReader(), `${a}  /home/ab/x/1.txt\n`);
    expect(!one.ok && one.problems.find(({ code }) => code === 'common-folder')?.path).toBe('/home/ab/x');
    // Nothing but the root in common: no folder is offered.
    const apart = readText(checksumListReader(), `${a}  /home/1\n${b}  /srv/2\n`);
    expect(!apart.ok && apart.problems.some(({ code }) => code === 'common-folder')).toBe(false);
  });

  it('of a folder whose name only begins the same are not below it', () => {
    expect(paths(readText(checksumListReader({ below: '/home/a' }), list))).toContain('absolute-path');
    // What is relative already stays as it is.
    expect(paths(readText(checksumListReader({ below: '/home/a' }), `${a}  z.txt\n`))).toEqual(['z.txt']);
    expect(paths(readText(checksumListReader(), `${a}  C:\\Users\\x.txt\n`))).toContain('absolute-path');
  });
});

describe('a file that is listed twice', () => {
  const csv = (...rows: readonly (readonly string[])[]) => {
    const reader = csvListReader();
    reader.header(['path', 'bytes', 'sha256']);
    for (const row of rows) reader.row(row);
    return reader.end();
  };

  it('is taken once when both lines agree, as far as each says anything', () => {
    expect(paths(csv(['x', '5', a], ['x', '5', a]))).toEqual(['x']);
    expect(paths(csv(['x', '', a], ['x', '5', a]))).toEqual(['x']);
    expect(paths(csv(['x', '5', ''], ['x', '5', a]))).toEqual(['x']);
    expect(notes(csv(['x', '5', a], ['x', '5', a], ['y', '1', b]))).toEqual([
      '1 line is listed twice; it was taken once.',
    ]);
    expect(notes(csv(['x', '5', a], ['x', '5', a], ['x', '5', a]))).toEqual([
      '2 lines are listed twice; each was taken once.',
    ]);
    expect(notes(csv(['x', '5', a], ['y', '5', a]))).toEqual([]);
  });

  it('is refused when size or checksum differ', () => {
    expect(paths(csv(['x', '5', a], ['x', '6', a]))).toEqual(['contradicting-lines']);
    expect(paths(csv(['x', '5', a], ['x', '5', b]))).toEqual(['contradicting-lines']);
    expect(paths(csv(['x', '5', ''], ['x', '6', '']))).toEqual(['contradicting-lines']);
  });
});

describe('lines with the name of their checksum', () => {
  it('are taken for SHA-256 of 64 digits, and nothing else', () => {
    const tagged = (line: string) => paths(readText(checksumListReader(), `${line}\n`));
    expect(tagged(`SHA256 (x.txt) = ${a}`)).toEqual(['x.txt']);
    expect(tagged(`SHA256 (x.txt) = ${a.slice(1)}`)).toEqual(['odd-hash']);
    expect(tagged(`SHA256 (x.txt) = ${a}0`)).toEqual(['odd-hash']);
    expect(tagged(`SHA256 (x.txt) = ${a}z`)).toEqual(['odd-hash']);
    expect(tagged(`SHA512 (x.txt) = ${a}`)).toEqual(['odd-hash']);
    const said = readText(checksumListReader(), `MD5 (x.txt) = ${a.slice(0, 32)}\n`);
    expect(!said.ok && said.problems[0]?.sentence).toContain('the checksum is MD5');
  });

  it('and lines that end in CR LF are counted in the right form', () => {
    expect(notes(readText(checksumListReader(), `${a}  x\r\n${b}  y\n`))).toEqual([
      '1 line ends in CR LF; the CR was left off.',
    ]);
    expect(notes(readText(checksumListReader(), `${a}  x\r\n${b}  y\r\n`))).toEqual([
      '2 lines end in CR LF; the CR was left off.',
    ]);
    expect(notes(readText(checksumListReader(), `${a}  f\\x\n`))).toEqual([
      '1 path has backslashes: they were read as separators between folders.',
    ]);
  });
});

describe('the papers of a bag', () => {
  const payload = { fileCount: 3, sizeBytes: 120 };
  const codes = (bagInfo: string, given: Parameters<typeof bagProblems>[0] = payload) =>
    bagProblems(given, [
      { name: 'bagit.txt', text: bagDeclaration, sha256: sha(bagDeclaration) },
      { name: 'bag-info.txt', text: bagInfo, sha256: sha(bagInfo) },
    ]).map(({ code }) => code);

  it('state bytes and files that the payload has, or nothing', () => {
    expect(codes('Payload-Oxum: 120.3\n')).toEqual([]);
    expect(codes('payload-oxum :  120.3  \n')).toEqual([]);
    expect(codes('Bagging-Date: 2026-03-02\n')).toEqual([]);
    expect(codes('Payload-Oxum: 120.4\n')).toEqual(['oxum-files']);
    expect(codes('Payload-Oxum: 121.3\n')).toEqual(['oxum-bytes']);
    expect(codes('Payload-Oxum: many\n')).toEqual(['payload-oxum']);
    expect(codes('Payload-Oxum: 120\n')).toEqual(['payload-oxum']);
    // Sizes that nobody knows contradict nothing.
    expect(codes('Payload-Oxum: 999.3\n', { fileCount: 3, sizeBytes: null })).toEqual([]);
    expect(readPayloadOxum('Payload-Oxum: 120.3\n')).toEqual({
      ok: true,
      value: { sizeBytes: 120, fileCount: 3 },
    });
  });

  it('have a label and a value a line, whatever is written into them', () => {
    const info = {
      externalIdentifier: '  MV-0042\n',
      description: 'Letters\r\n and  pictures ',
      baggingDate: '2026-03-02',
      sizeBytes: 120,
      fileCount: 3,
    };
    expect(printBagInfo(info)).toBe(
      'External-Identifier: MV-0042\nExternal-Description: Letters and pictures\nBagging-Date: 2026-03-02\nPayload-Oxum: 120.3\n',
    );
    expect(printBagInfo({ ...info, sizeBytes: null })).not.toContain('Oxum');
  });
});

describe('what a sample would find', () => {
  it('is never rounded up to certainty', () => {
    // 9,996 of 10,000 read: a single bad file is found with 99.96 %, which is not all of it.
    expect(describeSample(10_000, 9996).sentence).toContain(
      'if a single one were bad, with more than 99.9 %',
    );
    // With 100 bad ones among them it is certain: no more than 4 are left out.
    expect(describeSample(10_000, 9996).sentence).toContain('finds at least one with 100 %');
    expect(describeSample(10_000, 9994).sentence).toContain('if a single one were bad, with 99 %');
    expect(describeSample(10_000, 10_000).sentence).toBe(
      'Every one of 10,000 files is read: one bad file is found.',
    );
    expect(describeSample(10_000, 950).sentence).toContain('with 9.5 %');
    expect(describeSample(10_000, 1099).sentence).toContain('if a single one were bad, with 10 %');
  });
});
