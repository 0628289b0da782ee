import { plainCell } from '../outcome/csvCell';
import { fail, type Outcome } from '../outcome/outcome';
import { ListCollector, type ListOptions, type ReadList } from './listReader';
import { readDigest } from './checksumList';

const encoder = new TextEncoder();

/** The first row of the lists that are written here. */
export const csvListHeader = 'path,bytes,time,sha256,trouble';

type CsvColumn = 'path' | 'bytes' | 'time' | 'sha256' | 'trouble';

/** What columns of a list of files are called, the surest word first: a full name is a path, a name alone may be one. */
const names: Readonly<Record<CsvColumn, readonly string[]>> = {
  path: ['path', 'fullname', 'filepath', 'file', 'filename', 'name'],
  bytes: ['bytes', 'size', 'length', 'sizebytes'],
  time: ['time', 'modified', 'mtime', 'lastwritetime', 'date'],
  sha256: ['sha256', 'checksum', 'hash'],
  trouble: ['trouble'],
};

type CsvListReader = {
  /** The header's cells; tells which columns are there. */
  readonly header: (cells: readonly string[]) => void;
  readonly row: (cells: readonly string[]) => void;
  readonly rows: () => number;
  readonly end: () => Outcome<ReadList>;
};

/** Bytes as written in a list: digits, maybe in groups of three. Undefined: not readable, “1,5” among it. */
function bytesOf(text: string): number | null | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return null;
  const grouped = /^\d{1,3}(?:([ ,_\u00a0])\d{3})(?:\1\d{3})*$/.test(trimmed);
  const plain = grouped ? trimmed.replaceAll(/[ ,_\u00a0]/g, '') : trimmed;
  const value = Number(plain);
  return /^\d{1,16}$/.test(plain) && Number.isSafeInteger(value) ? value : undefined;
}

/** An instant in ISO 8601 (UTC where it names no zone), or milliseconds or seconds since 1970. */
function timeOf(text: string): number | null | undefined {
  const plain = text.trim();
  if (plain === '') return null;
  if (/^\d{9,11}(\.\d+)?$/.test(plain)) return Math.round(Number(plain) * 1000);
  if (/^\d{12,14}$/.test(plain)) return Number(plain);
  const iso = /^\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?$/.test(plain);
  if (!iso) return undefined;
  const zoned = /(Z|[+-]\d{2}:?\d{2})$/.test(plain) || plain.length === 10;
  const parsed = Date.parse(zoned ? plain.replace(' ', 'T') : `${plain.replace(' ', 'T')}Z`);
  return Number.isNaN(parsed) ? undefined : parsed;
}

/** Reads rows of a CSV list with the columns path, bytes, time and, if there, sha256. */
export function csvListReader(options: ListOptions = {}): CsvListReader {
  const collector = new ListCollector(options);
  const places = new Map<CsvColumn, number>();
  const digest = new Uint8Array(32);
  // A row that holds line ends in its cells takes several lines of the file.
  let next = 1;
  const linesOf = (cells: readonly string[]) =>
    1 + cells.reduce((sum, cell) => sum + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
  let missing: Outcome<never> | undefined;
  // Lists that were written here hold names as they are; in others a backslash stands between folders.
  let own = false;
  return {
    header: (cells) => {
      next += linesOf(cells);
      own = cells.join(',') === csvListHeader;
      const plain = cells.map((cell) => cell.toLowerCase().replaceAll(/[^a-z0-9]/g, ''));
      for (const [column, written] of Object.entries(names) as [CsvColumn, readonly string[]][]) {
        const word = written.find((one) => plain.includes(one));
        if (word !== undefined) places.set(column, plain.indexOf(word));
      }
      if (!places.has('path'))
        missing = fail(
          'no-path-column',
          '/lines/1',
          `No column is called path. The first row names the columns: path, bytes, time, and sha256 if there is one. It has: ${cells.join(', ').slice(0, 200)}.`,
        );
    },
    row: (cells) => {
      const line = next;
      next += linesOf(cells);
      const cell = (column: CsvColumn) => plainCell(cells[places.get(column) ?? -1] ?? '');
      if (cells.every((value) => value.trim() === '')) return;
      const sizeBytes = bytesOf(cell('bytes'));
      const modifiedMs = timeOf(cell('time'));
      const sha256 = cell('sha256').trim();
      if (sizeBytes === undefined) {
        collector.findings.refuse(
          'unreadable-bytes',
          line,
          `Line ${line}: “${cell('bytes')}” is no number of bytes. Write digits only.`,
        );
        return;
      }
      if (modifiedMs === undefined) {
        collector.findings.refuse(
          'unreadable-time',
          line,
          `Line ${line}: “${cell('time')}” is no time. Write it as 2026-03-02T10:00:00Z.`,
        );
        return;
      }
      if (sha256 !== '' && !/^[0-9a-fA-F]{64}$/.test(sha256)) {
        collector.findings.refuse(
          'odd-hash',
          line,
          `Line ${line}: a SHA-256 has 64 hexadecimal digits; “${sha256.slice(0, 12)}…” is none.`,
        );
        return;
      }
      const trouble = cell('trouble').trim();
      collector.add({
        line,
        path: encoder.encode(cell('path')),
        digest: sha256 === '' ? undefined : readDigest(encoder.encode(sha256), 0, digest),
        sizeBytes,
        modifiedMs,
        trouble:
          trouble === 'unreadable' || trouble === 'changed-while-read' || trouble === 'link' ? trouble : null,
        literalBackslashes: own,
      });
    },
    rows: () => collector.rows,
    end: () => missing ?? collector.finish(),
  };
}
