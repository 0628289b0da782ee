import { ShapeCounter, type FileListHead } from '@ulvane/core/backup';
import {
  FileEntrySchema,
  LineSplitter,
  ListBuilder,
  listLimitRows,
  readListPath,
  RowTable,
  byPath,
  pathAt,
  summarise,
  type FileEntry,
  type ListSummary,
} from '@ulvane/core/manifest';
import { refuse } from '../http/problem';
import { ContentDigest } from './contentDigest';

/** What a list sums up to, and what only who receives it can tell. */
export type ReceivedSummary = ListSummary & Pick<FileListHead, 'contentDigest' | 'shape'>;

const encoder = new TextEncoder();
const decoder = new TextDecoder('utf-8', { fatal: true });
/** U+FEFF at the beginning of a name is a letter of it. */
const nameDecoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
const longestLineBytes = 256 * 1024;

/**
 * Reads JSON Lines as they come in, each line parsed, and hands on the entries; afterwards says what
 * the list sums up to. Refused with the line's number: what is no entry, an absolute or climbing path,
 * a path that is listed twice, more lines than a list may have.
 */
export class IncomingList {
  private readonly builder = new ListBuilder();
  private readonly digest = new ContentDigest();
  private readonly shape = new ShapeCounter();
  private ready: FileEntry[] = [];
  private sinceLine = 0;
  private readonly splitter = new LineSplitter((bytes, start, end, line) => {
    this.sinceLine = 0;
    if (end > start) this.take(bytes.subarray(start, end), line);
  });

  private take(bytes: Uint8Array, line: number): void {
    const entry = this.parse(bytes, line);
    if (this.builder.length >= listLimitRows)
      throw refuse(
        'list-too-long',
        `A list has up to ${listLimitRows.toLocaleString('en')} files: split it by folder, and take each part as a data set.`,
      );
    this.builder.add(entry);
    this.digest.add(entry);
    this.shape.add(entry.path, entry.sizeBytes ?? 0);
    this.ready.push(entry);
  }

  private parse(bytes: Uint8Array, line: number): FileEntry {
    let raw: unknown;
    try {
      raw = JSON.parse(decoder.decode(bytes));
    } catch {
      throw refuse(
        'malformed-line',
        `Line ${line} is not JSON in UTF-8. Nothing was recorded.`,
        `/lines/${line}`,
      );
    }
    const parsed = FileEntrySchema.safeParse(raw);
    if (!parsed.success)
      throw refuse(
        'malformed-line',
        `Line ${line}: ${parsed.error.issues[0]?.message ?? 'not an entry'}. Nothing was recorded.`,
        `/lines/${line}`,
      );
    const path = readListPath(encoder.encode(parsed.data.path), true);
    if (!path.ok || nameDecoder.decode(path.bytes) !== parsed.data.path)
      throw refuse(
        path.ok ? 'malformed-path' : path.code,
        `Line ${line}: the path has to lie below the folder of the list, with / between names. Nothing was recorded.`,
        `/lines/${line}`,
      );
    return parsed.data;
  }

  /** Entries as they come; to be iterated once. */
  async *entries(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<FileEntry> {
    for await (const chunk of chunks) {
      this.sinceLine += chunk.length;
      this.splitter.push(chunk);
      if (this.sinceLine > longestLineBytes + chunk.length)
        throw refuse('line-too-long', 'A line of the list is longer than any path. Nothing was recorded.');
      const ready = this.ready;
      this.ready = [];
      yield* ready;
    }
    this.splitter.end();
    yield* this.ready;
  }

  /** What came in, once it is all there. */
  finish(): ReceivedSummary {
    const list = this.builder.finish();
    if (list.count === 0)
      throw refuse('empty-list', 'The list holds no file: nothing was recorded. Is it the right folder?');
    const table = new RowTable(list, byPath);
    for (let row = 0; row < list.count; row += 1)
      if (table.put(row) >= 0)
        throw refuse(
          'doubled-path',
          `${pathAt(list, row)} is listed twice. Nothing was recorded.`,
          `/lines/${row + 1}`,
        );
    const summary = { ...summarise(list), shape: this.shape.value() };
    return summary.withoutDigest > 0 ? summary : { ...summary, contentDigest: this.digest.value() };
  }
}
