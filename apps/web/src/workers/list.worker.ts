import {
  decodeListText,
  letterReadings,
  plainCell,
  readyListText,
  type LetterReading,
  type Outcome,
} from '@ulvane/core/outcome';
import { analyse } from 'chardet';
import { expose } from 'comlink';
import Papa from 'papaparse';

export type ListFile = {
  readonly headers: readonly string[];
  readonly rows: readonly { readonly row: number; readonly cells: Readonly<Record<string, string>> }[];
  /** What is wrong with the file as CSV, a sentence each. */
  readonly problems: readonly string[];
};

/** A list, or the ways in which its letters could be read where only a look can tell. */
export type ListRead =
  | { readonly kind: 'list'; readonly list: ListFile }
  | { readonly kind: 'letters'; readonly readings: readonly LetterReading[] };

/** Longer names of columns, and longer cells, are no device's: what is cut is refused by its row. */
const longestName = 120;
const longestCell = 2001;

const work = {
  /**
   * Reads a list: the first row names the columns; empty rows are left out. Rows are counted as a spreadsheet does.
   * @param encoding how its letters are to be read, as chosen by `letterReadings`
   */
  read: (bytes: ArrayBuffer, encoding?: string): Outcome<ListRead> => {
    const given = new Uint8Array(bytes);
    const decoded = decodeListText(given, encoding);
    if (!decoded.ok) {
      const likely = analyse(given.subarray(0, 100_000)).map(({ name }) => name);
      const readings = letterReadings(given, likely);
      return readings.length > 0 ? { ok: true, value: { kind: 'letters', readings } } : decoded;
    }
    const { text, separator, rowsBefore } = readyListText(decoded.value);
    const parsed = Papa.parse<Record<string, string>>(text, {
      header: true,
      newline: '\n',
      ...(separator === undefined ? {} : { delimiter: separator }),
      skipEmptyLines: false,
      transformHeader: (header, index) => header.trim().slice(0, longestName) || `column ${index + 1}`,
    });
    const headers = parsed.meta.fields ?? [];
    const rows = parsed.data
      .map((cells, index) => ({
        row: index + 2 + rowsBefore,
        cells: Object.fromEntries(
          headers.map((header) => [header, plainCell(String(cells[header] ?? '')).slice(0, longestCell)]),
        ),
      }))
      .filter(({ cells }) => Object.values(cells).some((cell) => cell.trim() !== ''));
    const problems = parsed.errors
      .filter(({ code }) => code === 'MissingQuotes' || code === 'InvalidQuotes' || code === 'TooManyFields')
      .map(({ message, row }) => `Row ${(row ?? 0) + 2 + rowsBefore}: ${message}.`);
    return { ok: true, value: { kind: 'list', list: { headers, rows, problems } } };
  },
};

export type ListWork = typeof work;

expose(work);
