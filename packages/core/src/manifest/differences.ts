import { noiseOf } from './noise';
import { pathAt, sha256At, sizeAt, troubleAt, type PackedList } from './packed';
import { fileKinds, type FileKind, type Reconciliation } from './reconcile';

export type DifferenceKind = Exclude<FileKind, 'same'>;
export const differenceKinds = fileKinds.filter((kind): kind is DifferenceKind => kind !== 'same');

/** One file that is not the same on both sides. */
export type Difference = {
  readonly kind: DifferenceKind;
  readonly pathBefore: string | null;
  readonly pathAfter: string | null;
  readonly sizeBefore: number | null;
  readonly sizeAfter: number | null;
  /** What the file holds now, where it is there and its checksum is known. */
  readonly sha256After: string | null;
  /** The noise rule that excuses it; null where none does, and for whatever was there before. */
  readonly noise: string | null;
  /** What a list says of the file itself: it could not be read there. */
  readonly trouble: string | null;
};

const kindWords: Record<DifferenceKind, string> = {
  changed: 'changed: other content under the same name',
  unproven: 'not proven: nothing to compare by',
  renamed: 'renamed in its folder',
  moved: 'moved to another folder',
  missing: 'missing: not at its place, and its content not found anywhere',
  merged: 'gone from here; the same content is elsewhere',
  added: 'added: was not there before',
  duplicated: 'one more copy of what is there',
};

/**
 * A kind of difference in words. Empty files are all equal, so a missing one is looked for by its name only.
 * @param sizeBytes bytes of all files of that kind
 */
export function describeKind(kind: DifferenceKind, sizeBytes: number): string {
  return kind === 'missing' && sizeBytes === 0
    ? 'missing: not at its place; an empty file can be looked for by its name only'
    : kindWords[kind];
}

/** The folder that a difference is grouped under: where the file was, else where it is. */
export function folderOfDifference({ pathBefore, pathAfter }: Difference): string {
  const path = pathBefore ?? pathAfter ?? '';
  return path.slice(0, Math.max(0, path.lastIndexOf('/')));
}

/**
 * Every difference: first those of the list before in its order, then what only the list after has.
 * @param noisePatterns globs of the families beside the general ones, see `noiseOf`
 */
export function* differencesOf(
  { kindsBefore, kindsAfter, partners }: Reconciliation,
  before: PackedList,
  after: PackedList,
  noisePatterns: readonly string[] = [],
): Generator<Difference, void, void> {
  const noise = noiseOf(noisePatterns);
  for (let row = 0; row < before.count; row += 1) {
    const kind = fileKinds[kindsBefore[row] ?? 0] ?? 'same';
    if (kind === 'same') continue;
    const partner = partners[row] ?? -1;
    const pathBefore = pathAt(before, row);
    const pathAfter = partner < 0 ? null : pathAt(after, partner);
    yield {
      kind,
      pathBefore,
      pathAfter,
      sizeBefore: sizeAt(before, row),
      sizeAfter: partner < 0 ? null : sizeAt(after, partner),
      sha256After: partner < 0 ? null : sha256At(after, partner),
      // A rule excuses what a system made by itself, never what was there and is missing or changed.
      noise: null,
      trouble: troubleAt(before, row) ?? (partner < 0 ? null : troubleAt(after, partner)),
    };
  }
  for (let row = 0; row < after.count; row += 1) {
    const kind = fileKinds[kindsAfter[row] ?? 0] ?? 'same';
    if (kind !== 'added' && kind !== 'duplicated') continue;
    const pathAfter = pathAt(after, row);
    yield {
      kind,
      pathBefore: null,
      pathAfter,
      sizeBefore: null,
      sizeAfter: sizeAt(after, row),
      sha256After: sha256At(after, row),
      noise: noise(pathAfter),
      trouble: troubleAt(after, row),
    };
  }
}
