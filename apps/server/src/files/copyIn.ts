import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { QueryRunner } from 'typeorm';

type Cell = string | number | null;

/** One cell of PostgreSQL's COPY text format: backslash and the three separators are escaped. */
function cellText(cell: Cell): string {
  if (cell === null) return '\\N';
  if (typeof cell === 'number') return String(cell);
  return /[\\\n\r\t]/.test(cell)
    ? cell.replaceAll('\\', '\\\\').replaceAll('\n', '\\n').replaceAll('\r', '\\r').replaceAll('\t', '\\t')
    : cell;
}

const rowsAPiece = 2000;

async function* inPieces(
  rows: AsyncIterable<readonly Cell[]> | Iterable<readonly Cell[]>,
): AsyncGenerator<string> {
  let piece: string[] = [];
  for await (const row of rows) {
    piece.push(row.map(cellText).join('\t'));
    if (piece.length < rowsAPiece) continue;
    yield `${piece.join('\n')}\n`;
    piece = [];
  }
  if (piece.length > 0) yield `${piece.join('\n')}\n`;
}

/**
 * Writes rows into a table with COPY, within the runner's transaction: a million in seconds, and all
 * of them or none.
 */
export async function copyIn(
  runner: QueryRunner,
  table: string,
  columns: readonly string[],
  rows: AsyncIterable<readonly Cell[]> | Iterable<readonly Cell[]>,
): Promise<void> {
  // TypeORM's PostgreSQL driver connects with a client of `pg`.
  const client = (await runner.connect()) as PoolClient;
  const into = client.query(copyFrom(`COPY ${table} (${columns.join(', ')}) FROM STDIN`));
  await pipeline(Readable.from(inPieces(rows)), into);
}
