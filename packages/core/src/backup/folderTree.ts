import { pathAt, sizeAt, type PackedList } from '../manifest/packed';

/** A folder or a file of a list, with what lies below it summed up. */
export type TreeNode = {
  /** Below the data set's folder; '' is the whole. */
  readonly path: string;
  readonly sizeBytes: number;
  readonly fileCount: number;
  readonly largestFileBytes: number;
  readonly children: readonly TreeNode[];
};

type Growing = {
  sizeBytes: number;
  fileCount: number;
  largestFileBytes: number;
  readonly children: Map<string, Growing>;
};

const empty = (): Growing => ({ sizeBytes: 0, fileCount: 0, largestFileBytes: 0, children: new Map() });

/** The tree of a list's folders and files. A size that is not known counts as nought. */
export function folderTree(list: PackedList): TreeNode {
  const root = empty();
  for (let row = 0; row < list.count; row += 1) {
    const sizeBytes = sizeAt(list, row) ?? 0;
    let node = root;
    const grow = (to: Growing) => {
      to.sizeBytes += sizeBytes;
      to.fileCount += 1;
      to.largestFileBytes = Math.max(to.largestFileBytes, sizeBytes);
    };
    grow(root);
    for (const name of pathAt(list, row).split('/')) {
      const next = node.children.get(name) ?? empty();
      node.children.set(name, next);
      grow(next);
      node = next;
    }
  }
  const finish = (node: Growing, path: string): TreeNode => ({
    path,
    sizeBytes: node.sizeBytes,
    fileCount: node.fileCount,
    largestFileBytes: node.largestFileBytes,
    children: [...node.children].map(([name, child]) =>
      finish(child, path === '' ? name : `${path}/${name}`),
    ),
  });
  return finish(root, '');
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
