import { z } from 'zod';
import type { FileSystemLimit } from '../../catalogue/fileSystems';
import { faultOfName, foldedName, legalName, type NameFault } from './nameRules';

/** One name that is another on a destination; the folder is named as it was before. */
export const RenameSchema = z.strictObject({
  folder: z.string().max(32_768),
  from: z.string().min(1).max(4096),
  to: z.string().min(1).max(4096),
  because: z.enum([
    'forbidden-character',
    'forbidden-ending',
    'reserved-name',
    'name-too-long',
    'same-but-for-case',
    'same-but-for-form',
  ]),
});
export type Rename = z.infer<typeof RenameSchema>;

type Folder = {
  readonly children: Map<string, Folder | null>;
};

function treeOf(paths: Iterable<string>): Folder {
  const root: Folder = { children: new Map() };
  for (const path of paths) {
    const names = path.split('/');
    let folder = root;
    names.forEach((name, index) => {
      const present = folder.children.get(name);
      if (index === names.length - 1) {
        if (present === undefined) folder.children.set(name, null);
        return;
      }
      const next = present ?? { children: new Map<string, Folder | null>() };
      if (!present) folder.children.set(name, next);
      folder = next;
    });
  }
  return root;
}

/**
 * Every name that a file system does not take, or takes for another one of the same folder, with a
 * name to use there instead. Names that may stay keep theirs; nothing else is touched.
 */
export function planRenames(paths: Iterable<string>, limit: FileSystemLimit): readonly Rename[] {
  const renames: Rename[] = [];
  const visit = (folder: Folder, path: string): void => {
    const taken = new Map<string, string>();
    const wanted: { readonly name: string; readonly because: Rename['because'] }[] = [];
    for (const name of folder.children.keys()) {
      const fault: NameFault | null = faultOfName(name, limit);
      const folded = foldedName(name, limit);
      const twin = taken.get(folded);
      if (fault) wanted.push({ name, because: fault });
      else if (twin !== undefined)
        wanted.push({
          name,
          because:
            twin.normalize('NFC') === name.normalize('NFC') ? 'same-but-for-form' : 'same-but-for-case',
        });
      else taken.set(folded, name);
    }
    for (const { name, because } of wanted) {
      const to = legalName(name, limit, (folded) => taken.has(folded));
      taken.set(foldedName(to, limit), name);
      renames.push({ folder: path, from: name, to, because });
    }
    for (const [name, child] of folder.children)
      if (child) visit(child, path === '' ? name : `${path}/${name}`);
  };
  visit(treeOf(paths), '');
  return renames;
}

const key = (folder: string, name: string) => `${folder}\0${name}`;

/** Gives paths as they are on the destination. A path without a renamed part stays as it is. */
export function renamer(renames: readonly Rename[]): (path: string) => string {
  if (renames.length === 0) return (path) => path;
  const names = new Map(renames.map(({ folder, from, to }) => [key(folder, from), to]));
  return (path) => {
    let folder = '';
    return path
      .split('/')
      .map((name) => {
        const to = names.get(key(folder, name)) ?? name;
        folder = folder === '' ? name : `${folder}/${name}`;
        return to;
      })
      .join('/');
  };
}

/** The other way: from a path on the destination to the one it had before. */
export function renameBack(renames: readonly Rename[]): (path: string) => string {
  if (renames.length === 0) return (path) => path;
  const names = new Map(renames.map(({ folder, from, to }) => [key(folder, to), from]));
  return (path) => {
    let folder = '';
    return path
      .split('/')
      .map((name) => {
        const from = names.get(key(folder, name)) ?? name;
        folder = folder === '' ? from : `${folder}/${from}`;
        return from;
      })
      .join('/');
  };
}
