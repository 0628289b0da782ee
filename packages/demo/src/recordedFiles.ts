import type { Difference, FileEntry } from '@ulvane/core/manifest';

/** The lines of a list of files, beside the move. */
export type RecordedList = { readonly id: string; readonly entries: readonly FileEntry[] };
export type RecordedDifference = Difference & { readonly folder: string; readonly reason: string | null };
export type RecordedDifferences = {
  readonly id: string;
  readonly by: string;
  readonly rows: readonly RecordedDifference[];
};
