import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { Files, ListFormat } from '@ulvane/contract';
import { listOf, type FileListHead } from '@ulvane/core/backup';
import {
  bagDeclaration,
  drawSample,
  fileTroubles,
  ListBuilder,
  markOf,
  csvListHeader,
  printBagInfo,
  printBagItLine,
  printChecksumLine,
  printTagManifest,
  type FileEntry,
  type FileTrouble,
  type PackedList,
} from '@ulvane/core/manifest';
import { formulaCell } from '@ulvane/core/outcome';
import type { Move } from '@ulvane/core/record';
import Papa from 'papaparse';
import { DataSource, type EntityManager } from 'typeorm';
import { refuse } from '../http/problem';
import { MovesReader } from '../moves/moves.reader';

type Row = {
  readonly ordinal: number;
  readonly path: string;
  readonly size_bytes: string | null;
  readonly sha256: Buffer | null;
  readonly modified_ms: string | null;
  readonly trouble: string | null;
};

const columns = 'ordinal, path, size_bytes, sha256, modified_ms, trouble';
const rowsARead = 20_000;

const encoder = new TextEncoder();
const numberOf = (text: string | null) => (text === null ? null : Number(text));
const troubleOf = (text: string | null): FileTrouble | null =>
  fileTroubles.find((trouble) => trouble === text) ?? null;

function entryOf(row: Row): FileEntry {
  return {
    path: row.path,
    sizeBytes: numberOf(row.size_bytes),
    sha256: row.sha256?.toString('hex') ?? null,
    modifiedMs: numberOf(row.modified_ms),
    trouble: troubleOf(row.trouble),
  };
}

/** Reads lists of files, a stretch at a time. */
@Injectable()
export class FileListsReader {
  constructor(
    private readonly dataSource: DataSource,
    private readonly moves: MovesReader,
  ) {}

  async headOf(
    reference: string,
    listId: string,
  ): Promise<{ readonly move: Move; readonly head: FileListHead }> {
    const { move } = await this.moves.one(reference);
    const head = move.fileLists.find(({ id }) => id === listId);
    if (!head)
      throw refuse(
        'no-such-list',
        'The move has no such list: it may have been read again. Reload the page.',
      );
    return { move, head };
  }

  async files(
    head: FileListHead,
    { after, limit, search }: { readonly after: number; readonly limit: number; readonly search: string },
  ): Promise<Files> {
    const like = `%${search.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
    const rows: Row[] = await this.dataSource.query(
      `SELECT ${columns} FROM file_entry WHERE list_id = $1 AND ordinal > $2
       ${search === '' ? '' : 'AND path ILIKE $4'} ORDER BY ordinal LIMIT $3`,
      [head.id, after, limit, ...(search === '' ? [] : [like])],
    );
    return {
      files: rows.map((row) => ({ ordinal: row.ordinal, ...entryOf(row) })),
      total: head.fileCount,
    };
  }

  async sample(head: FileListHead, size: number): Promise<readonly FileEntry[]> {
    const ordinals = drawSample(head.fileCount, size, Math.random);
    const rows: Row[] = await this.dataSource.query(
      `SELECT ${columns} FROM file_entry WHERE list_id = $1 AND ordinal = ANY($2) ORDER BY ordinal`,
      [head.id, ordinals],
    );
    return rows.map(entryOf);
  }

  private async *rows(manager: EntityManager, listId: string): AsyncGenerator<readonly Row[]> {
    for (let from = 0; ; from += rowsARead) {
      const rows: Row[] = await manager.query(
        `SELECT ${columns} FROM file_entry WHERE list_id = $1 AND ordinal >= $2 AND ordinal < $3 ORDER BY ordinal`,
        [listId, from, from + rowsARead],
      );
      if (rows.length > 0) yield rows;
      if (rows.length < rowsARead) return;
    }
  }

  /**
   * A whole list, packed.
   * @param keep which files, by path
   * @param rename gives each path as it is to be compared
   */
  async packed(
    manager: EntityManager,
    head: FileListHead,
    keep: (path: string) => boolean = () => true,
    rename: (path: string) => string = (path) => path,
  ): Promise<PackedList> {
    const builder = new ListBuilder(Math.max(16, head.fileCount));
    for await (const rows of this.rows(manager, head.id))
      for (const row of rows) {
        if (!keep(row.path)) continue;
        const path = encoder.encode(rename(row.path));
        builder.addBytes(
          path,
          0,
          path.length,
          row.sha256,
          row.size_bytes === null ? Number.NaN : Number(row.size_bytes),
          row.modified_ms === null ? Number.NaN : Number(row.modified_ms),
          markOf(row.sha256 !== null, troubleOf(row.trouble)),
        );
      }
    return builder.finish();
  }

  /** The papers of a list's bag but for the tag manifest, with their checksums. */
  private async bagPapers(
    move: Move,
    head: FileListHead,
  ): Promise<readonly { readonly name: string; readonly sha256: string }[]> {
    const papers = [
      ['bagit.txt', 'bag-declaration'],
      ['bag-info.txt', 'bag-info'],
      ['manifest-sha256.txt', 'bag-manifest'],
    ] as const;
    const summed = [];
    for (const [name, format] of papers) {
      const hash = createHash('sha256');
      for await (const piece of this.text(move, head, format)) hash.update(piece);
      summed.push({ name, sha256: hash.digest('hex') });
    }
    return summed;
  }

  /** The text of an export, in pieces. */
  async *text(move: Move, head: FileListHead, format: ListFormat): AsyncGenerator<string> {
    if (format === 'bag-declaration') return yield bagDeclaration;
    if (format === 'bag-tag-manifest') return yield printTagManifest(await this.bagPapers(move, head));
    const name = move.dataSets.find(({ id }) => id === head.dataSetId)?.name ?? head.dataSetId;
    if (format === 'bag-info') {
      // Files without a checksum are in no manifest, and so in no sum.
      const [sum]: { bytes: string | null; files: string; unsized: string }[] = await this.dataSource.query(
        'SELECT sum(size_bytes) AS bytes, count(*) AS files, count(*) FILTER (WHERE size_bytes IS NULL) AS unsized FROM file_entry WHERE list_id = $1 AND sha256 IS NOT NULL',
        [head.id],
      );
      return yield printBagInfo({
        externalIdentifier: `${move.reference} ${head.dataSetId}`,
        description: name,
        baggingDate: head.at.slice(0, 10),
        sizeBytes: Number(sum?.unsized ?? 0) > 0 ? null : Number(sum?.bytes ?? 0),
        fileCount: Number(sum?.files ?? 0),
      });
    }
    if (format === 'csv') yield `${csvListHeader}\n`;
    for await (const rows of this.rows(this.dataSource.manager, head.id)) {
      const entries = rows.map(entryOf);
      if (format === 'csv') yield `${csvOf(entries)}\n`;
      else if (format === 'lines') yield entries.map((entry) => `${JSON.stringify(entry)}\n`).join('');
      else
        yield entries
          .map(
            (entry) => (format === 'bag-manifest' ? printBagItLine(entry) : printChecksumLine(entry)) ?? '',
          )
          .join('');
    }
    return undefined;
  }
}

function csvOf(entries: readonly FileEntry[]): string {
  return Papa.unparse(
    entries.map(({ path, sizeBytes, modifiedMs, sha256, trouble }) => [
      path,
      sizeBytes ?? '',
      modifiedMs === null ? '' : new Date(modifiedMs).toISOString(),
      sha256 ?? '',
      trouble ?? '',
    ]),
    { newline: '\n', escapeFormulae: formulaCell },
  );
}

/** The list of a role that a data set of a move has; refused when there is none. */
export function listFor(
  move: Move,
  dataSetId: string,
  role: FileListHead['role'],
  destinationId: string | null = null,
): FileListHead {
  const dataSet = move.dataSets.find(({ id }) => id === dataSetId);
  const head = dataSet && listOf(move.fileLists, dataSet, role, destinationId);
  if (head) return head;
  const words = { before: 'as it is on the device', copy: 'of the copy', after: 'of what came back' };
  throw refuse(
    'no-list',
    `There is no list of ${dataSet?.name ?? 'that data set'} ${words[role]}: read the folder or import a list first.`,
    '/dataSetId',
  );
}
