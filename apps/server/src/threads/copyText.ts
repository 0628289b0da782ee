import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

export type Cell = string | number | null;

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

/** Writes rows as COPY's text format into a file that only this account reads. */
export async function writeCopyText(
  path: string,
  rows: AsyncIterable<readonly Cell[]> | Iterable<readonly Cell[]>,
): Promise<void> {
  await pipeline(Readable.from(inPieces(rows)), createWriteStream(path, { mode: 0o600 }));
}
