import { renamer } from '@ulvane/core/backup';
import {
  differencesOf,
  folderOfDifference,
  pathAt,
  reconcile,
  rowsWhere,
  type Difference,
  type PackedList,
} from '@ulvane/core/manifest';
import type { Move, Reconciled } from '@ulvane/core/record';
import { writeCopyText, type Cell } from './copyText';

export type CheckInput = {
  readonly before: PackedList;
  readonly copy: PackedList;
  /** The copy's list is of drawn files only. */
  readonly sampled: boolean;
};

type Checked = {
  readonly whole: number;
  readonly compared: number;
  readonly count: number;
  readonly files: readonly { readonly kind: Difference['kind']; readonly path: string }[];
};

const filesNamed = 200;

/** Compares a copy with the data set, as a whole or in the files that were drawn. */
export function checkCopy({ before: all, copy, sampled }: CheckInput): Checked {
  const drawn = sampled
    ? new Set(Array.from({ length: copy.count }, (_none, row) => pathAt(copy, row)))
    : null;
  const before = drawn ? rowsWhere(all, (row) => drawn.has(pathAt(all, row))) : all;
  const files: Checked['files'][number][] = [];
  let count = 0;
  // What is on the copy besides is no fault of the copy; whatever was there before has to be on it as it was.
  for (const { kind, pathBefore } of differencesOf(reconcile(before, copy), before, copy)) {
    if (pathBefore === null) continue;
    count += 1;
    if (files.length < filesNamed) files.push({ kind, path: pathBefore });
  }
  return { whole: all.count, compared: before.count, count, files };
}

export type ReconcileInput = {
  readonly id: string;
  readonly move: Pick<Move, 'renames' | 'destinations'>;
  readonly dataSetId: string;
  readonly before: PackedList;
  readonly after: PackedList;
  readonly noise: readonly string[];
  /** The file that the differences are written to, as COPY's text. */
  readonly into: string;
};

export const differenceColumns = [
  'reconciliation_id',
  'ordinal',
  'kind',
  'folder',
  'path_before',
  'path_after',
  'size_before',
  'size_after',
  'sha256_after',
  'noise',
  'trouble',
  'reason',
  'reason_by',
] as const;

/** Compares a data set before and after, and writes what differs for the database. */
export async function reconcileLists(input: ReconcileInput): Promise<Reconciled['counts']> {
  const { before, after, noise } = input;
  const found = reconcile(before, after);
  await writeCopyText(input.into, rowsOf(input, differencesOf(found, before, after, noise)));
  return found.counts;
}

/** Rows for the database; a name that is still the one of a destination is explained by its list of names. */
function* rowsOf(
  { id, move, dataSetId }: ReconcileInput,
  differences: Iterable<Difference>,
): Generator<readonly Cell[]> {
  const renames = move.renames
    .filter((entry) => entry.dataSetId === dataSetId)
    .map(({ destinationId, names }) => ({
      there: renamer(names),
      name: move.destinations.find((destination) => destination.id === destinationId)?.name ?? destinationId,
    }));
  let ordinal = 0;
  for (const difference of differences) {
    const { kind, pathBefore, pathAfter, sizeBefore, sizeAfter, sha256After, noise, trouble } = difference;
    const renamed =
      pathBefore !== null && pathAfter !== null && pathBefore !== pathAfter
        ? renames.find(({ there }) => there(pathBefore) === pathAfter)
        : undefined;
    yield [
      id,
      ordinal,
      kind,
      folderOfDifference(difference),
      pathBefore,
      pathAfter,
      sizeBefore,
      sizeAfter,
      sha256After,
      noise,
      trouble,
      renamed
        ? `Still has the name that it got for ${renamed.name}; the list of names says which it was.`
        : null,
      renamed ? 'the list of names' : null,
    ];
    ordinal += 1;
  }
}
