import { decodeListText, plainCell, readyListText, type Outcome } from '@ulvane/core';
import { expose } from 'comlink';
import Papa from 'papaparse';

export type ListFile = {
  readonly headers: readonly string[];
  readonly rows: readonly { readonly row: number; readonly cells: Readonly<Record<string, string>> }[];
  /** What is wrong with the file as CSV, a sentence each. */
  readonly problems: readonly string[];
};

const work = {
  /** Reads a list: the first row names the columns; empty rows are left out. Rows are counted as a spreadsheet does. */
  read: (bytes: ArrayBuffer): Outcome<ListFile> => {
    const decoded = decodeListText(new Uint8Array(bytes));
    if (!decoded.ok) return decoded;
    const { text, separator, rowsBefore } = readyListText(decoded.value);
    const parsed = Papa.parse<Record<string, string>>(text, {
      header: true,
      newline: '\n',
      ...(separator === undefined ? {} : { delimiter: separator }),
      skipEmptyLines: false,
      transformHeader: (header, index) => header.trim() || `column ${index + 1}`,
    });
    const headers = parsed.meta.fields ?? [];
    const rows = parsed.data
      .map((cells, index) => ({
        row: index + 2 + rowsBefore,
        cells: Object.fromEntries(headers.map((header) => [header, plainCell(String(cells[header] ?? ''))])),
      }))
      .filter(({ cells }) => Object.values(cells).some((cell) => cell.trim() !== ''));
    const problems = parsed.errors
      .filter(({ code }) => code === 'MissingQuotes' || code === 'InvalidQuotes' || code === 'TooManyFields')
      .map(({ message, row }) => `Row ${(row ?? 0) + 2 + rowsBefore}: ${message}.`);
    return { ok: true, value: { headers, rows, problems } };
  },
};

export type ListWork = typeof work;

expose(work);
