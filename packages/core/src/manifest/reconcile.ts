import { byText } from '../quantity/order';
import { hasDigest, pathAt, type PackedList } from './packed';
import { byDigest, byPath, RowTable, sameDigest } from './rowTable';

/**
 * What became of a file. Beside each other: the same seen from the other list.
 * - `same`: same path, same checksum
 * - `changed`: same path, another checksum or another size
 * - `unproven`: same path, and nothing to compare by (a checksum is missing on one side)
 * - `renamed`, `moved`: another name in the same folder, another folder; found by checksum
 * - `missing` / `added`: on one side only
 * - `merged` / `duplicated`: on one side only, but the same content is on the other side elsewhere
 */
export const fileKinds = [
  'same',
  'changed',
  'unproven',
  'renamed',
  'moved',
  'missing',
  'merged',
  'added',
  'duplicated',
] as const;
export type FileKind = (typeof fileKinds)[number];

const kind = (name: FileKind) => fileKinds.indexOf(name);
// Places in `fileKinds`: rows are judged by the million, and numbers are quick.
const same = kind('same');
const changed = kind('changed');
const unproven = kind('unproven');
const renamed = kind('renamed');
const moved = kind('moved');
const missing = kind('missing');
const merged = kind('merged');
const added = kind('added');
const duplicated = kind('duplicated');

export type Reconciliation = {
  /** Place in `fileKinds` of every row of the list before. */
  readonly kindsBefore: Uint8Array;
  readonly kindsAfter: Uint8Array;
  /** Row of the list after that a row before was paired with; -1 for none. */
  readonly partners: Int32Array;
  readonly partnersAfter: Int32Array;
  /** How many of each; a pair counts once. */
  readonly counts: Readonly<Record<FileKind, number>>;
};

const unset = 255;
const rowsBetweenPauses = 100_000;

/** Rows with a checksum and at least one byte: empty files are all equal, and say nothing. */
function tellsByDigest(list: PackedList, row: number): boolean {
  return hasDigest(list, row) && !isEmptyDigest(list, row);
}

/** SHA-256 of nothing (FIPS 180-4 test value), first bytes e3 b0 c4 42 98 fc 1c 14. */
const emptyDigest = [
  0xe3, 0xb0, 0xc4, 0x42, 0x98, 0xfc, 0x1c, 0x14, 0x9a, 0xfb, 0xf4, 0xc8, 0x99, 0x6f, 0xb9, 0x24, 0x27, 0xae,
  0x41, 0xe4, 0x64, 0x9b, 0x93, 0x4c, 0xa4, 0x95, 0x99, 0x1b, 0x78, 0x52, 0xb8, 0x55,
];

function isEmptyDigest(list: PackedList, row: number): boolean {
  for (let index = 0; index < 32; index += 1)
    if (list.digests[row * 32 + index] !== emptyDigest[index]) return false;
  return true;
}

function compareSamePath(before: PackedList, row: number, after: PackedList, partner: number): number {
  const sizeBefore = before.sizes[row] ?? Number.NaN;
  const sizeAfter = after.sizes[partner] ?? Number.NaN;
  if (!Number.isNaN(sizeBefore) && !Number.isNaN(sizeAfter) && sizeBefore !== sizeAfter) return changed;
  if (!hasDigest(before, row) || !hasDigest(after, partner)) return unproven;
  return sameDigest(before, row, after, partner) ? same : changed;
}

const nameOf = (path: string) => path.slice(path.lastIndexOf('/') + 1);
const folderOf = (path: string) => path.slice(0, Math.max(0, path.lastIndexOf('/')));

type Located = { readonly row: number; readonly path: string };

/** Pairs the nth of each key on one side with the nth of the same key on the other; gives those left. */
function pairBy(
  before: readonly Located[],
  after: readonly Located[],
  keyOf: (path: string) => string,
  pair: (before: Located, after: Located) => void,
): readonly [readonly Located[], readonly Located[]] {
  const waiting = new Map<string, Located[]>();
  for (const one of after) {
    const key = keyOf(one.path);
    const list = waiting.get(key);
    if (list) list.push(one);
    else waiting.set(key, [one]);
  }
  for (const list of waiting.values()) list.reverse();
  const paired = new Set<Located>();
  const left = before.filter((one) => {
    const partner = waiting.get(keyOf(one.path))?.pop();
    if (!partner) return true;
    paired.add(partner);
    pair(one, partner);
    return false;
  });
  return [left, after.filter((one) => !paired.has(one))];
}

/**
 * Compares two lists, with a pause now and then (it yields the share done, 0 to 1) so that a page or a
 * server may do something else or give up.
 *
 * Files are matched by path first; what is left on both sides is matched by checksum: same name first,
 * then same folder, then in order of path. Swapping the lists gives the mirror image.
 */
function* reconcileInSteps(before: PackedList, after: PackedList): Generator<number, Reconciliation, void> {
  const kindsBefore = new Uint8Array(before.count).fill(unset);
  const kindsAfter = new Uint8Array(after.count).fill(unset);
  const partners = new Int32Array(before.count).fill(-1);
  const partnersAfter = new Int32Array(after.count).fill(-1);
  const tally = new Uint32Array(fileKinds.length);
  const pair = (row: number, partner: number, kind: number) => {
    kindsBefore[row] = kind;
    kindsAfter[partner] = kind;
    partners[row] = partner;
    partnersAfter[partner] = row;
    tally[kind] = (tally[kind] ?? 0) + 1;
  };

  const loneBefore = yield* pairByPath(before, after, partnersAfter, (row, partner) =>
    pair(row, partner, compareSamePath(before, row, after, partner)),
  );
  const loneAfter: number[] = [];
  for (let row = 0; row < after.count; row += 1) if (kindsAfter[row] === unset) loneAfter.push(row);

  yield 0.7;
  pairByDigest(before, loneBefore, after, loneAfter, pair);
  yield 0.85;
  const mark = (
    rows: readonly number[],
    kinds: Uint8Array,
    list: PackedList,
    other: PackedList,
    elsewhere: number,
    nowhere: number,
  ) => {
    const open = rows.filter((row) => kinds[row] === unset);
    if (open.length === 0) return;
    const table = new RowTable(other, byDigest);
    for (let row = 0; row < other.count; row += 1) if (tellsByDigest(other, row)) table.put(row);
    for (const row of open) {
      const there = tellsByDigest(list, row) && table.find(list, row) >= 0;
      const kind = there ? elsewhere : nowhere;
      kinds[row] = kind;
      tally[kind] = (tally[kind] ?? 0) + 1;
    }
  };
  mark(loneBefore, kindsBefore, before, after, merged, missing);
  mark(loneAfter, kindsAfter, after, before, duplicated, added);
  const count = (index: number) => tally[index] ?? 0;
  const counts: Readonly<Record<FileKind, number>> = {
    same: count(same),
    changed: count(changed),
    unproven: count(unproven),
    renamed: count(renamed),
    moved: count(moved),
    missing: count(missing),
    merged: count(merged),
    added: count(added),
    duplicated: count(duplicated),
  };
  return { kindsBefore, kindsAfter, partners, partnersAfter, counts };
}

/** How far to look ahead for the partner of a row before the table is asked. */
const lookAhead = 4;

/**
 * Pairs rows that have the same path; gives the rows of `before` that have no partner. Two lists of
 * one folder mostly run in the same order, so the next row is looked at first: that is quick, and
 * only the rows for which it fails need a table.
 */
function* pairByPath(
  before: PackedList,
  after: PackedList,
  partnersAfter: Int32Array,
  pair: (row: number, partner: number) => void,
): Generator<number, number[], void> {
  const unpaired: number[] = [];
  let next = 0;
  for (let row = 0; row < before.count; row += 1) {
    const hash = before.hashes[row];
    let partner = -1;
    for (let ahead = next; ahead < Math.min(next + lookAhead, after.count); ahead += 1)
      if (after.hashes[ahead] === hash && byPath.same(after, ahead, before, row)) {
        partner = ahead;
        break;
      }
    if (partner >= 0) {
      pair(row, partner);
      next = partner + 1;
    } else unpaired.push(row);
    if (row % rowsBetweenPauses === 0) yield 0.5 * (row / before.count);
  }
  if (unpaired.length === 0) return unpaired;
  const table = new RowTable(after, byPath);
  for (let row = 0; row < after.count; row += 1) {
    if ((partnersAfter[row] ?? -1) < 0) table.put(row);
    if (row % rowsBetweenPauses === 0) yield 0.5 + 0.1 * (row / after.count);
  }
  const lone: number[] = [];
  for (const [index, row] of unpaired.entries()) {
    const partner = table.find(before, row);
    if (partner < 0) lone.push(row);
    else pair(row, partner);
    if (index % rowsBetweenPauses === 0) yield 0.6 + 0.1 * (index / unpaired.length);
  }
  return lone;
}

function pairByDigest(
  before: PackedList,
  loneBefore: readonly number[],
  after: PackedList,
  loneAfter: readonly number[],
  pair: (row: number, partner: number, kind: number) => void,
): void {
  const told = loneAfter.filter((row) => tellsByDigest(after, row));
  if (told.length === 0 || loneBefore.length === 0) return;
  const table = new RowTable(after, byDigest);
  const groups = new Map<number, { readonly before: number[]; readonly after: number[] }>();
  for (const row of told) {
    const first = table.put(row);
    if (first < 0) groups.set(row, { before: [], after: [row] });
    else groups.get(first)?.after.push(row);
  }
  for (const row of loneBefore)
    if (tellsByDigest(before, row)) groups.get(table.find(before, row))?.before.push(row);
  const located = (list: PackedList, rows: readonly number[]) =>
    rows.map((row): Located => ({ row, path: pathAt(list, row) })).sort((a, b) => byText(a.path, b.path));
  for (const group of groups.values()) {
    if (group.before.length === 0) continue;
    const together = (one: Located, other: Located) =>
      pair(one.row, other.row, folderOf(one.path) === folderOf(other.path) ? renamed : moved);
    let left: readonly [readonly Located[], readonly Located[]] = [
      located(before, group.before),
      located(after, group.after),
    ];
    for (const keyOf of [nameOf, folderOf, () => '']) left = pairBy(left[0], left[1], keyOf, together);
  }
}

/** As `reconcileInSteps`, in one go. */
export function reconcile(before: PackedList, after: PackedList): Reconciliation {
  const steps = reconcileInSteps(before, after);
  for (;;) {
    const step = steps.next();
    if (step.done === true) return step.value;
  }
}
