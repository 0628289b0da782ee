import type { FoundFile } from './hashRun';

type Named = { readonly path: string; readonly file: File | null };

/**
 * Asks each file for its size and time, once. The browser looks each of them up on the disk: with a
 * pause now and then, so that the page goes on answering.
 */
async function sized(
  named: readonly Named[],
  onFound: (count: number) => void,
): Promise<readonly FoundFile[]> {
  const found: FoundFile[] = [];
  let since = performance.now();
  for (const { path, file } of named) {
    found.push({
      path,
      file,
      sizeBytes: file?.size ?? 0,
      modifiedMs: file ? Math.trunc(file.lastModified) : null,
    });
    if (performance.now() - since < 40) continue;
    onFound(found.length);
    await new Promise((resolve) => setTimeout(resolve));
    since = performance.now();
  }
  return found.sort(byPath);
}

/** The files of a folder that was picked: the folder's own name is left off their paths. */
export function pickedFiles(list: FileList, onFound: (count: number) => void): Promise<readonly FoundFile[]> {
  return sized(
    Array.from(list, (file) => ({
      path: file.webkitRelativePath.slice(file.webkitRelativePath.indexOf('/') + 1) || file.name,
      file,
    })),
    onFound,
  );
}

const byPath = (a: FoundFile, b: FoundFile) => (a.path < b.path ? -1 : a.path > b.path ? 1 : 0);

function readAll(reader: FileSystemDirectoryReader): Promise<readonly FileSystemEntry[]> {
  return new Promise((resolve, reject) => {
    const found: FileSystemEntry[] = [];
    const more = () =>
      // A folder's entries come a hundred at a time, until none comes.
      reader.readEntries((entries) => {
        if (entries.length === 0) return resolve(found);
        found.push(...entries);
        return more();
      }, reject);
    more();
  });
}

const isFolder = (entry: FileSystemEntry): entry is FileSystemDirectoryEntry => entry.isDirectory;
const isFile = (entry: FileSystemEntry): entry is FileSystemFileEntry => entry.isFile;

/**
 * The files of what was dropped. One folder: its own name is left off; several things: each keeps its
 * name. What cannot be read, file or folder, is found without a file, and so listed.
 */
export async function droppedFiles(
  items: readonly FileSystemEntry[],
  onFound: (count: number) => void,
): Promise<readonly FoundFile[]> {
  const found: Named[] = [];
  const visit = async (entry: FileSystemEntry, path: string): Promise<void> => {
    try {
      if (isFolder(entry)) {
        for (const child of await readAll(entry.createReader()))
          await visit(child, path === '' ? child.name : `${path}/${child.name}`);
        onFound(found.length);
      } else if (isFile(entry))
        found.push({ path, file: await new Promise<File>((resolve, reject) => entry.file(resolve, reject)) });
    } catch {
      found.push({ path: path === '' ? entry.name : path, file: null });
    }
  };
  const [only] = items;
  if (items.length === 1 && only && isFolder(only)) await visit(only, '');
  else for (const item of items) await visit(item, item.name);
  return sized(found, onFound);
}
