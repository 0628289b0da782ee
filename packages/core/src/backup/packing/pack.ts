import { fileSystemLimit } from '../../catalogue/fileSystems';
import { printBothUnits } from '../../quantity/bytes';
import { neededOn, type Formatted } from '../destinations/allocation';
import type { TreeNode } from '../scope/folderTree';

/** What is to be placed. Without a tree a data set goes whole or not at all. */
export type Parcel = {
  readonly dataSetId: string;
  readonly name: string;
  readonly tree: TreeNode;
  /** How many copies, each on another drive. */
  readonly copies: number;
};

export type Shelf = {
  readonly id: string;
  readonly name: string;
  readonly freeBytes: number;
} & Formatted;

/** One folder, file or whole data set on one drive. */
type Placement = {
  readonly shelfId: string;
  readonly dataSetId: string;
  readonly path: string;
  readonly sizeBytes: number;
  readonly fileCount: number;
  readonly largestFileBytes: number;
};

export type Packing = {
  readonly placements: readonly Placement[];
  /** What found no place, with why; `packHelp` says what would do. */
  readonly left: readonly {
    readonly dataSetId: string;
    readonly path: string;
    readonly copy: number;
    readonly sizeBytes: number;
    readonly fileCount: number;
    readonly largestFileBytes: number;
    readonly sentence: string;
  }[];
  readonly freeAfter: Readonly<Record<string, number>>;
};

/** What of a data set lies on a drive, by path; tells quickly whether anything of a folder is there. */
class Held {
  private readonly placed = new Set<string>();
  private readonly above = new Set<string>();

  add(path: string): void {
    this.placed.add(path);
    for (const folder of foldersAbove(path)) this.above.add(folder);
  }

  /** Whether the path, something in it or something around it is there already. */
  touches(path: string): boolean {
    return (
      this.above.has(path) ||
      this.placed.has(path) ||
      foldersAbove(path).some((folder) => this.placed.has(folder))
    );
  }
}

/** @example foldersAbove('a/b/c') // ['', 'a', 'a/b'] */
function foldersAbove(path: string): readonly string[] {
  if (path === '') return [];
  const names = path.split('/');
  return names.map((_name, index) => names.slice(0, index).join('/'));
}

/**
 * Packs data sets onto drives: all of them whole, in every copy, where that is possible (tried in full for few sets and
 * drives); else the largest first, whole where a drive has room (the fullest drive that still takes it), else by
 * folder, else by file. Two copies of anything never share a drive.
 * A drive is never filled beyond its free bytes, and every file of every copy is either placed once
 * or among what is left.
 */
export function pack(parcels: readonly Parcel[], shelves: readonly Shelf[]): Packing {
  const free = new Map(shelves.map(({ id, freeBytes }) => [id, freeBytes]));
  const placements: Placement[] = [];
  const held = new Map<string, Held>();
  const on = (shelf: Shelf, dataSetId: string) => held.get(`${shelf.id} ${dataSetId}`);
  const left: Packing['left'][number][] = [];
  const bySize = (a: { readonly sizeBytes: number }, b: { readonly sizeBytes: number }) =>
    b.sizeBytes - a.sizeBytes;

  const mayHold = (shelf: Shelf, dataSetId: string, node: TreeNode): boolean => {
    const { largestFileBytes } = fileSystemLimit(shelf.fileSystem);
    return (
      (free.get(shelf.id) ?? 0) >= neededOn(node, shelf).bytes &&
      (largestFileBytes === null || node.largestFileBytes <= largestFileBytes) &&
      !on(shelf, dataSetId)?.touches(node.path)
    );
  };
  const put = (shelf: Shelf, dataSetId: string, node: TreeNode) => {
    const { path, sizeBytes, fileCount, largestFileBytes } = node;
    free.set(shelf.id, (free.get(shelf.id) ?? 0) - neededOn(node, shelf).bytes);
    const here = on(shelf, dataSetId) ?? new Held();
    here.add(path);
    held.set(`${shelf.id} ${dataSetId}`, here);
    placements.push({ shelfId: shelf.id, dataSetId, path, sizeBytes, fileCount, largestFileBytes });
  };
  const place = (parcel: Parcel, node: TreeNode, copy: number, split: boolean): void => {
    const able = shelves.filter((shelf) => mayHold(shelf, parcel.dataSetId, node));
    // Whole things go where they leave least room; parts stay together where their like is.
    const [best] = [...able].sort(
      (a, b) =>
        (split
          ? Number(on(b, parcel.dataSetId) !== undefined) - Number(on(a, parcel.dataSetId) !== undefined)
          : 0) || (free.get(a.id) ?? 0) - (free.get(b.id) ?? 0),
    );
    if (best) return put(best, parcel.dataSetId, node);
    if (node.children.length > 0) {
      for (const child of [...node.children].sort(bySize)) place(parcel, child, copy, true);
      return undefined;
    }
    left.push({
      dataSetId: parcel.dataSetId,
      path: node.path,
      copy,
      sizeBytes: node.sizeBytes,
      fileCount: node.fileCount,
      largestFileBytes: node.largestFileBytes,
      sentence: whyLeft(parcel, node, shelves, free),
    });
    return undefined;
  };
  const whole = allWhole(parcels, shelves);
  if (whole) {
    for (const { parcel, on: drives } of whole)
      for (const shelf of drives) put(shelf, parcel.dataSetId, parcel.tree);
    return { placements, left, freeAfter: Object.fromEntries(free) };
  }
  const max = Math.max(0, ...parcels.map(({ copies }) => copies));
  // All first copies before any second one: one good copy of everything comes first.
  for (let copy = 1; copy <= max; copy += 1)
    for (const parcel of [...parcels].sort((a, b) => bySize(a.tree, b.tree)))
      if (parcel.copies >= copy) place(parcel, parcel.tree, copy, false);
  return { placements, left, freeAfter: Object.fromEntries(free) };
}

/** Up to so many sets and drives every way is tried. */
const exactSets = 8;
const exactShelves = 4;

/**
 * Every set whole, each of its copies on another drive; undefined where that cannot be, or where there are too many to
 * try. Of the ways that there are, one that leaves the emptiest drives empty.
 */
function allWhole(
  parcels: readonly Parcel[],
  shelves: readonly Shelf[],
): readonly { readonly parcel: Parcel; readonly on: readonly Shelf[] }[] | undefined {
  if (parcels.length > exactSets || shelves.length > exactShelves) return undefined;
  const inOrder = [...parcels].sort((a, b) => b.tree.sizeBytes - a.tree.sizeBytes);
  const takes = (shelf: Shelf, { largestFileBytes: largest }: TreeNode) => {
    const { largestFileBytes } = fileSystemLimit(shelf.fileSystem);
    return largestFileBytes === null || largest <= largestFileBytes;
  };
  const needs = inOrder.map(({ tree }) => shelves.map((shelf) => neededOn(tree, shelf).bytes));
  // What all sets from one on need at least, each copy where it takes least.
  const min = inOrder.map((_parcel, index) =>
    inOrder
      .slice(index)
      .reduce((sum, { copies }, at) => sum + copies * Math.min(...(needs[index + at] ?? [0])), 0),
  );
  const from = (index: number, free: readonly number[]): (readonly Shelf[])[] | undefined => {
    const parcel = inOrder[index];
    if (!parcel) return [];
    if (free.reduce((sum, bytes) => sum + bytes, 0) < (min[index] ?? 0)) return undefined;
    const needed = needs[index] ?? [];
    const able = shelves.flatMap((shelf, at) =>
      (free[at] ?? 0) >= (needed[at] ?? 0) && takes(shelf, parcel.tree) ? [at] : [],
    );
    const rest = (drives: readonly number[]) => drives.reduce((sum, at) => sum + (free[at] ?? 0), 0);
    const ways = subsetsOf(able, parcel.copies).sort((a, b) => rest(a) - rest(b));
    for (const way of ways) {
      const left = free.map((bytes, at) => (way.includes(at) ? bytes - (needed[at] ?? 0) : bytes));
      const others = from(index + 1, left);
      if (others) return [way.flatMap((at) => shelves[at] ?? []), ...others];
    }
    return undefined;
  };
  const found = from(
    0,
    shelves.map(({ freeBytes }) => freeBytes),
  );
  return found && inOrder.map((parcel, index) => ({ parcel, on: found[index] ?? [] }));
}

function subsetsOf(places: readonly number[], count: number): number[][] {
  if (count === 0) return [[]];
  return places.flatMap((place, index) =>
    subsetsOf(places.slice(index + 1), count - 1).map((rest) => [place, ...rest]),
  );
}

function whyLeft(
  { name }: Parcel,
  node: TreeNode,
  shelves: readonly Shelf[],
  free: ReadonlyMap<string, number>,
): string {
  const what = node.path === '' ? name : `${name}: ${node.path}`;
  const size = printBothUnits(node.sizeBytes);
  if (shelves.length === 0) return `${what} (${size}): no destination is there.`;
  const room = Math.max(...[...free.values()]);
  const lacks = Math.min(...shelves.map((shelf) => neededOn(node, shelf).bytes - (free.get(shelf.id) ?? 0)));
  if (lacks > 0)
    return `${what} (${size}): the most room that is left on one drive is ${printBothUnits(room)}, ${printBothUnits(lacks)} too little.`;
  const refused = shelves.filter((shelf) => {
    const { largestFileBytes } = fileSystemLimit(shelf.fileSystem);
    return (
      (free.get(shelf.id) ?? 0) >= neededOn(node, shelf).bytes &&
      largestFileBytes !== null &&
      node.largestFileBytes > largestFileBytes
    );
  });
  return refused.length > 0
    ? `${what} (${size}): ${refused.map((shelf) => shelf.name).join(', ')} takes no file that large.`
    : `${what} (${size}): a second copy needs a second drive.`;
}
