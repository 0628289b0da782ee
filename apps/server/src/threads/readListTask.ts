import { createReadStream } from 'node:fs';
import type { FileEntry } from '@ulvane/core/manifest';
import { writeCopyText, type Cell } from './copyText';
import { IncomingList, type ReceivedSummary } from './incoming';

export const fileEntryColumns = [
  'list_id',
  'ordinal',
  'path',
  'size_bytes',
  'sha256',
  'modified_ms',
  'trouble',
] as const;

export type ReadListInput = {
  readonly listId: string;
  /** The file that holds the list, a JSON object a line. */
  readonly from: string;
  /** The file that it is written to, as COPY's text. */
  readonly into: string;
};

/** Reads a received list, writes it for the database, and says what it sums up to. */
export async function readList({ listId, from, into }: ReadListInput): Promise<ReceivedSummary> {
  const incoming = new IncomingList();
  await writeCopyText(into, rowsOf(listId, incoming.entries(createReadStream(from))));
  return incoming.finish();
}

async function* rowsOf(listId: string, entries: AsyncIterable<FileEntry>): AsyncGenerator<readonly Cell[]> {
  let ordinal = 0;
  for await (const { path, sizeBytes, sha256, modifiedMs, trouble } of entries) {
    yield [listId, ordinal, path, sizeBytes, sha256 === null ? null : `\\x${sha256}`, modifiedMs, trouble];
    ordinal += 1;
  }
}
