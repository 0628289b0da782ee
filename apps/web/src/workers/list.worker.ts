import { plainCell } from '@ulvane/core';
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
  read: (text: string): ListFile => {
    const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
      header: true,
      skipEmptyLines: false,
      transformHeader: (header, index) => header.trim() || `column ${index + 1}`,
    });
    const headers = parsed.meta.fields ?? [];
    const rows = parsed.data
      .map((cells, index) => ({
        row: index + 2,
        cells: Object.fromEntries(headers.map((header) => [header, plainCell(String(cells[header] ?? ''))])),
      }))
      .filter(({ cells }) => Object.values(cells).some((cell) => cell.trim() !== ''));
    const problems = parsed.errors
      .filter(({ code }) => code === 'MissingQuotes' || code === 'InvalidQuotes' || code === 'TooManyFields')
      .map(({ message, row }) => `Row ${(row ?? 0) + 2}: ${message}.`);
    return { headers, rows, problems };
  },
};

export type ListWork = typeof work;

expose(work);
