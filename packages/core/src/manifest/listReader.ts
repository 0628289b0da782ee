import { printCount } from '../quantity/count';
import { fail, type Outcome } from '../outcome/outcome';
import type { FileTrouble } from './entry';
import { Findings, type Note } from './findings';
import { commonFolder, pathRefusals, readListPath } from './listPath';
import { hasDigest, ListBuilder, markOf, pathAt, wordsOf, type PackedList } from './packed';
import { byPath, RowTable, sameDigest } from './rowTable';

/** Lists longer than this are refused: split them by folder. */
export const listLimitRows = 5_000_000;

export type ReadList = { readonly list: PackedList; readonly notes: readonly Note[] };

export type ListOptions = {
  /** Absolute paths below this folder are taken as relative to it. */
  readonly below?: string;
  /** How long the whole file is, for making room. */
  readonly totalBytes?: number;
};

/** Reads bytes as they come; `end` gives the list, or everything that is wrong with it. */
export type ListReader = {
  readonly push: (chunk: Uint8Array) => void;
  readonly end: () => Outcome<ReadList>;
  /** Rows so far. */
  readonly rows: () => number;
};

type Row = {
  readonly line: number;
  readonly path: Uint8Array;
  readonly digest: Uint8Array | undefined;
  readonly sizeBytes?: number | null;
  readonly modifiedMs?: number | null;
  readonly trouble?: FileTrouble | null;
  /** A backslash is part of a name here. */
  readonly literalBackslashes: boolean;
};

const decoder = new TextDecoder('utf-8', { ignoreBOM: true });

/** What every format has in common: paths put right or refused, duplicates folded, limits. */
export class ListCollector {
  readonly findings = new Findings();
  private readonly builder = new ListBuilder();
  private root: string | undefined;
  private guessed = false;

  private readonly quick: boolean;

  constructor(private readonly options: ListOptions = {}) {
    this.quick = options.below === undefined;
  }

  get rows(): number {
    return this.builder.length;
  }

  add({ line, path, digest, sizeBytes, modifiedMs, trouble, literalBackslashes }: Row): void {
    const reading = readListPath(path, literalBackslashes, this.options.below);
    if (!reading.ok) {
      this.findings.refuse(reading.code, line, pathRefusals[reading.code](line));
      if (reading.code === 'absolute-path') this.metAbsolute(path, literalBackslashes);
      return;
    }
    if (reading.hadBackslashes)
      this.findings.note(
        'backslashes',
        (count) =>
          `${printCount(count, 'path')} ${count === 1 ? 'has' : 'have'} backslashes: they were read as separators between folders.`,
      );
    if (this.builder.length > listLimitRows) return;
    this.builder.addBytes(
      reading.bytes,
      0,
      reading.bytes.length,
      digest ?? null,
      sizeBytes ?? Number.NaN,
      modifiedMs ?? Number.NaN,
      markOf(digest !== undefined, trouble ?? null),
    );
  }

  /** The quick way, for lines that need nothing put right; see `ListBuilder.addLine`. */
  addLine(bytes: Uint8Array, start: number): number {
    return this.quick && this.builder.length <= listLimitRows ? this.builder.addLine(bytes, start) : -1;
  }

  /** Tells how far the file is read: once the length of a line can be guessed, room is made for all at once. */
  readUpTo(bytesSoFar: number): void {
    const { totalBytes } = this.options;
    if (this.guessed || totalBytes === undefined || this.builder.length < 1000) return;
    this.guessed = true;
    const rows = Math.ceil((totalBytes / bytesSoFar) * this.builder.length * 1.02);
    this.builder.reserve(Math.min(rows, listLimitRows + 1));
  }

  private metAbsolute(path: Uint8Array, literalBackslashes: boolean): void {
    const text = decoder.decode(path);
    const plain = literalBackslashes ? text : text.replaceAll('\\', '/');
    this.root =
      this.root === undefined
        ? plain.slice(0, plain.lastIndexOf('/'))
        : commonFolder(`${this.root}/-`, plain);
  }

  finish(): Outcome<ReadList> {
    if (this.builder.length > listLimitRows)
      return fail(
        'list-too-long',
        '',
        `The list has more than ${listLimitRows.toLocaleString('en')} files. Split it by folder, and take each part as a data set.`,
      );
    const list = this.foldDuplicates(this.builder.finish());
    const { problems } = this.findings;
    if (problems.length > 0)
      return {
        ok: false,
        problems:
          this.root !== undefined && this.root !== ''
            ? [
                ...problems,
                {
                  code: 'common-folder',
                  path: this.root,
                  sentence: `Every absolute path is below ${this.root}: the list can be taken as relative to it.`,
                },
              ]
            : problems,
      };
    if (list.count === 0) return fail('empty-list', '', 'The list holds no file. Is it the right one?');
    return { ok: true, value: { list, notes: this.findings.notes } };
  }

  /** The same file twice is one file; the same path with two checksums is a contradiction. */
  private foldDuplicates(list: PackedList): PackedList {
    const table = new RowTable(list, byPath);
    const doubled: number[] = [];
    for (let row = 0; row < list.count; row += 1) {
      const present = table.put(row);
      if (present < 0) continue;
      if (contradict(list, present, row))
        this.findings.refuse(
          'contradicting-lines',
          row + 1,
          `${pathAt(list, row)} is listed twice with different checksums or sizes: entries ${present + 1} and ${row + 1}. Make the list again.`,
        );
      else
        this.findings.note('doubled-lines', (count) =>
          count === 1
            ? '1 line is listed twice; it was taken once.'
            : `${printCount(count, 'line')} are listed twice; each was taken once.`,
        );
      doubled.push(row);
    }
    return doubled.length === 0 ? list : without(list, new Set(doubled));
  }
}

function contradict(list: PackedList, a: number, b: number): boolean {
  if (hasDigest(list, a) && hasDigest(list, b) && !sameDigest(list, a, list, b)) return true;
  const sizeA = list.sizes[a] ?? Number.NaN;
  const sizeB = list.sizes[b] ?? Number.NaN;
  return !Number.isNaN(sizeA) && !Number.isNaN(sizeB) && sizeA !== sizeB;
}

/** The list without some rows. */
function without(list: PackedList, left: ReadonlySet<number>): PackedList {
  return rowsWhere(list, (row) => !left.has(row));
}

/** The rows that `keep` says yes to, in their order. */
export function rowsWhere(list: PackedList, keep: (row: number) => boolean): PackedList {
  const rows: number[] = [];
  for (let row = 0; row < list.count; row += 1) if (keep(row)) rows.push(row);
  const pathStarts = new Uint32Array(rows.length + 1);
  rows.forEach((row, index) => {
    pathStarts[index + 1] =
      (pathStarts[index] ?? 0) + (list.pathStarts[row + 1] ?? 0) - (list.pathStarts[row] ?? 0);
  });
  const pathBytes = new Uint8Array(pathStarts[rows.length] ?? 0);
  const digests = new Uint8Array(rows.length * 32);
  rows.forEach((row, index) => {
    pathBytes.set(list.pathBytes.subarray(list.pathStarts[row], list.pathStarts[row + 1]), pathStarts[index]);
    digests.set(list.digests.subarray(row * 32, row * 32 + 32), index * 32);
  });
  return {
    count: rows.length,
    pathBytes,
    pathStarts,
    sizes: Float64Array.from(rows, (row) => list.sizes[row] ?? Number.NaN),
    times: Float64Array.from(rows, (row) => list.times[row] ?? Number.NaN),
    digests,
    digestWords: wordsOf(digests),
    marks: Uint8Array.from(rows, (row) => list.marks[row] ?? 0),
    hashes: Uint32Array.from(rows, (row) => list.hashes[row] ?? 0),
  };
}
