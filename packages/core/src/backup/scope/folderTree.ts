import { pathAt, sizeAt, type PackedList } from '../../manifest/packed';
import { entriesOfName, type Shape } from '../destinations/allocation';

/** A folder or a file of a list, with what lies below it summed up. */
export type TreeNode = {
  /** Below the data set's folder; '' is the whole. */
  readonly path: string;
  readonly sizeBytes: number;
  readonly fileCount: number;
  readonly largestFileBytes: number;
  /** What decides how much room it takes, for the cluster sizes that were asked for. */
  readonly shape?: Shape;
  readonly children: readonly TreeNode[];
};

type Growing = {
  readonly sums: number[];
  sizeBytes: number;
  fileCount: number;
  largestFileBytes: number;
  readonly children: Map<string, Growing>;
};

const empty = (): Growing => ({
  sums: [],
  sizeBytes: 0,
  fileCount: 0,
  largestFileBytes: 0,
  children: new Map(),
});

/**
 * The tree of a list's folders and files. A size that is not known counts as zero.
 * @param clusters sizes of clusters for which the room is calculated, bytes
 */
export function folderTree(list: PackedList, clusters: readonly number[] = []): TreeNode {
  const root = empty();
  for (let row = 0; row < list.count; row += 1) {
    const sizeBytes = sizeAt(list, row) ?? 0;
    let node = root;
    const grow = (to: Growing) => {
      to.sizeBytes += sizeBytes;
      to.fileCount += 1;
      to.largestFileBytes = Math.max(to.largestFileBytes, sizeBytes);
      for (const [index, cluster] of clusters.entries())
        to.sums[index] = (to.sums[index] ?? 0) + Math.ceil(sizeBytes / cluster) * cluster;
    };
    grow(root);
    for (const name of pathAt(list, row).split('/')) {
      const next = node.children.get(name) ?? empty();
      node.children.set(name, next);
      grow(next);
      node = next;
    }
  }
  const finish = (node: Growing, path: string): TreeNode => {
    const children = [...node.children].map(([name, child]) =>
      finish(child, path === '' ? name : `${path}/${name}`),
    );
    return {
      path,
      sizeBytes: node.sizeBytes,
      fileCount: node.fileCount,
      largestFileBytes: node.largestFileBytes,
      ...(clusters.length > 0 ? { shape: shapeOf(node, children, clusters) } : {}),
      children,
    };
  };
  return finish(root, '');
}

/** A folder with its names, its children's among them; a file has its own name only. */
function shapeOf({ sums }: Growing, children: readonly TreeNode[], clusters: readonly number[]): Shape {
  const below = (of: (shape: Shape) => number) =>
    children.reduce((sum, { shape }) => sum + (shape ? of(shape) : 0), 0);
  const names = children.map(({ path }) => entriesOfName(path.slice(path.lastIndexOf('/') + 1)));
  return {
    folders: (children.length > 0 ? 1 : 0) + below(({ folders }) => folders),
    fatEntries: names.reduce((sum, { fat }) => sum + fat, 0) + below(({ fatEntries }) => fatEntries),
    exfatEntries:
      names.reduce((sum, { exfat }) => sum + exfat, 0) + below(({ exfatEntries }) => exfatEntries),
    sums: Object.fromEntries(clusters.map((cluster, index) => [String(cluster), sums[index] ?? 0])),
  };
}

/** Whether a file lies in one of the folders (or is one of the files); '' is everything. */
export function liesIn(path: string, places: readonly string[]): boolean {
  return places.some((place) => place === '' || path === place || path.startsWith(`${place}/`));
}

/** The same as a test for many paths: quick however many places there are. */
export function placesTest(places: readonly string[]): (path: string) => boolean {
  const set = new Set(places);
  if (set.has('')) return () => true;
  return (path) => {
    for (let end = path.length; end > 0; end = path.lastIndexOf('/', end - 1))
      if (set.has(path.slice(0, end))) return true;
    return false;
  };
}
