import {
  checkFiles,
  clusterOf,
  folderTree,
  emptyShelf,
  pack,
  packHelp,
  placesTest,
  type DataSet,
  type FileFit,
  type PackHelp,
  type Packing,
  type Shelf,
  type TreeNode,
} from '@ulvane/core/backup';
import type { FileSystemId } from '@ulvane/core/catalogue';
import {
  bagItReader,
  bagProblems,
  checksumListReader,
  differencesOf,
  reconcile,
  csvListReader,
  entryAt,
  FileEntrySchema,
  kindOfList,
  LineSplitter,
  ListBuilder,
  rowsWhere,
  pathAt,
  summarise,
  type Difference,
  type Reconciliation,
  type ListKind,
  type ListSummary,
  type Note,
  type PackedList,
  type ReadList,
} from '@ulvane/core/manifest';
import { type Outcome, type Problem, formulaCell } from '@ulvane/core/outcome';
import { expose, transfer } from 'comlink';
import { createSHA256 } from 'hash-wasm';
import Papa from 'papaparse';
import { buffersOf } from './buffersOf';

export type ListReading =
  | {
      readonly ok: true;
      readonly summary: ListSummary;
      readonly notes: readonly Note[];
      /** The list as JSON Lines, for the server. */
      readonly lines: Blob;
    }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** A data set with its list on the server, if it has one. */
export type Listed = {
  readonly dataSet: DataSet;
  /** Address of its list as JSON Lines; null without a list. */
  readonly address: string | null;
  readonly copies: number;
};

const rowsAPiece = 5000;

function linesOf(list: PackedList): Blob {
  const pieces: string[] = [];
  for (let from = 0; from < list.count; from += rowsAPiece) {
    let text = '';
    for (let row = from; row < Math.min(from + rowsAPiece, list.count); row += 1)
      text += `${JSON.stringify(entryAt(list, row))}\n`;
    pieces.push(text);
  }
  return new Blob(pieces, { type: 'application/x-ndjson' });
}

async function eachChunk(
  stream: ReadableStream<Uint8Array>,
  onChunk: (chunk: Uint8Array) => void,
): Promise<void> {
  const reader = stream.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    onChunk(value);
  }
}

function readCsv(
  file: File,
  below: string | undefined,
  onBytes: (bytes: number) => void,
): Promise<Outcome<ReadList>> {
  const reader = csvListReader(below === undefined ? {} : { below });
  let first = true;
  return new Promise((resolve, reject) =>
    Papa.parse<string[]>(file, {
      step: ({ data, meta }) => {
        if (first) reader.header(data);
        else reader.row(data);
        first = false;
        onBytes(meta.cursor);
      },
      complete: () => resolve(reader.end()),
      error: reject,
    }),
  );
}

async function readWhole(
  file: File,
  kind: ListKind,
  below: string | undefined,
  onBytes: (bytes: number) => void,
): Promise<Outcome<ReadList>> {
  if (kind === 'csv') return readCsv(file, below, onBytes);
  const options = { totalBytes: file.size, ...(below === undefined ? {} : { below }) };
  const reader = kind === 'bag' ? bagItReader(options) : checksumListReader(options);
  let bytes = 0;
  await eachChunk(file.stream(), (chunk) => {
    reader.push(chunk);
    bytes += chunk.length;
    onBytes(bytes);
  });
  return reader.end();
}

const firstShown = 200;

/** One list in memory at a time: comparing names on one file system after the other reads it once. */
let kept: { readonly address: string; readonly list: PackedList } | undefined;

async function listAt(address: string): Promise<PackedList> {
  if (kept?.address === address) return kept.list;
  const response = await fetch(address, { credentials: 'same-origin' });
  if (!response.ok || !response.body) throw new Error('the list could not be read from the server');
  const builder = new ListBuilder();
  const decoder = new TextDecoder();
  const splitter = new LineSplitter((bytes, start, end) => {
    builder.add(FileEntrySchema.parse(JSON.parse(decoder.decode(bytes.subarray(start, end)))));
  });
  await eachChunk(response.body, (chunk) => splitter.push(chunk));
  splitter.end();
  kept = { address, list: builder.finish() };
  return kept.list;
}

async function filesOf({ dataSet, address }: Listed): Promise<PackedList | undefined> {
  if (address === null) return undefined;
  const list = await listAt(address);
  if (!dataSet.part) return list;
  const lies = placesTest(dataSet.part.places);
  return rowsWhere(list, (row) => lies(pathAt(list, row)));
}

function asOne({ dataSet }: Listed): TreeNode {
  const { sizeBytes, fileCount, largestFileBytes } = dataSet;
  return { path: '', sizeBytes, fileCount, largestFileBytes, children: [] };
}

const work = {
  /** What a file is, by its first line and its name. */
  kindOf: async (file: File): Promise<Outcome<ListKind>> =>
    kindOfList(file.name, await file.slice(0, 4096).text()),

  /** Reads a list that somebody made; `below`: absolute paths are relative to that folder. */
  readList: async (
    file: File,
    kind: ListKind,
    below: string | undefined,
    onProgress: (share: number) => void,
  ): Promise<ListReading> => {
    let told = 0;
    const tell = (bytes: number) => {
      const share = file.size === 0 ? 1 : bytes / file.size;
      if (share - told < 0.01) return;
      told = share;
      onProgress(share);
    };
    const outcome = await readWhole(file, kind, below, tell);
    if (!outcome.ok) return outcome;
    const { list, notes } = outcome.value;
    return { ok: true, summary: summarise(list), notes, lines: linesOf(list) };
  },

  /** Whether the papers of a bag that were given agree with one another and with its payload manifest. */
  checkBag: async (papers: readonly File[], fileCount: number): Promise<readonly Problem[]> => {
    const read = [];
    for (const file of papers) {
      const sha = await createSHA256();
      await eachChunk(file.stream(), (chunk) => sha.update(chunk));
      // The payload manifest may be large, and what it says is in the list already.
      const text = /^manifest-/i.test(file.name) ? '' : await file.text();
      read.push({ name: file.name, sha256: sha.digest('hex'), text });
    }
    return bagProblems({ fileCount, sizeBytes: null }, read);
  },

  /** Reads a list and hands it over, without a copy, for comparing. */
  parse: async (file: File, kind: ListKind): Promise<Outcome<PackedList>> => {
    const outcome = await readWhole(file, kind, undefined, () => undefined);
    if (!outcome.ok) return outcome;
    const { list } = outcome.value;
    return transfer({ ok: true, value: list }, buffersOf(list));
  },

  /** Compares two lists: how many of each kind, and the differences as CSV. */
  compare: (
    before: PackedList,
    after: PackedList,
  ): {
    readonly counts: Reconciliation['counts'];
    readonly first: readonly Difference[];
    readonly csv: Blob;
  } => {
    const found = reconcile(before, after);
    const first: Difference[] = [];
    const pieces: string[] = [];
    let rows: (string | number | null)[][] = [];
    for (const difference of differencesOf(found, before, after)) {
      if (first.length < firstShown) first.push(difference);
      const { kind, pathBefore, pathAfter, sizeBefore, sizeAfter, noise } = difference;
      rows.push([kind, pathBefore, pathAfter, sizeBefore, sizeAfter, noise]);
      if (rows.length < rowsAPiece) continue;
      pieces.push(`${Papa.unparse(rows, { newline: '\n', escapeFormulae: formulaCell })}\n`);
      rows = [];
    }
    if (rows.length > 0)
      pieces.push(`${Papa.unparse(rows, { newline: '\n', escapeFormulae: formulaCell })}\n`);
    const header = 'kind,before,after,bytes before,bytes after,made by the system\n';
    return { counts: found.counts, first, csv: new Blob([header, ...pieces], { type: 'text/csv' }) };
  },

  /** What a destination's file system refuses of the data sets that it takes; one answer for each with a list. */
  check: async (
    listed: readonly Listed[],
    fileSystem: FileSystemId,
  ): Promise<readonly { readonly dataSetId: string; readonly fit: FileFit }[]> => {
    const answers = [];
    for (const one of listed) {
      const list = await filesOf(one);
      if (list) answers.push({ dataSetId: one.dataSet.id, fit: checkFiles(list, fileSystem) });
    }
    return answers;
  },

  /** Packs data sets onto drives; those without a list go whole or not at all. */
  pack: async (
    listed: readonly Listed[],
    shelves: readonly Shelf[],
  ): Promise<{
    readonly packing: Packing;
    readonly trees: Readonly<Record<string, TreeNode>>;
    readonly helps: readonly PackHelp[];
  }> => {
    const parcels = [];
    // Rooms are calculated for drives that could be bought too.
    const clusters = [...shelves, emptyShelf('', 1e12)].map(clusterOf);
    const trees: Record<string, TreeNode> = {};
    for (const one of listed) {
      const list = one.dataSet.part ? undefined : await filesOf(one);
      const tree = list ? folderTree(list, [...new Set(clusters)]) : asOne(one);
      // The data set's own sums count where the list has no sizes.
      const whole = tree.sizeBytes === 0 ? { ...asOne(one), children: [] } : tree;
      trees[one.dataSet.id] = { ...whole, children: [] };
      parcels.push({ dataSetId: one.dataSet.id, name: one.dataSet.name, tree: whole, copies: one.copies });
    }
    return { packing: pack(parcels, shelves), trees, helps: packHelp(parcels, shelves) };
  },
};

export type FilesWork = typeof work;

expose(work);
