import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { packList, type FileEntry, type ListReader, type PackedList, type ReadList } from '../src/manifest';
import type { Outcome } from '../src/outcome';

/** SHA-256 of a text, by Node’s own implementation. */
export function sha(text: string): string {
  return createHash('sha256').update(text).digest('hex');
}

/** A file with this content, as a list has it. */
export function file(path: string, content: string, more: Partial<FileEntry> = {}): FileEntry {
  return {
    path,
    sizeBytes: Buffer.byteLength(content),
    sha256: sha(content),
    modifiedMs: null,
    trouble: null,
    ...more,
  };
}

export function listOf(files: Readonly<Record<string, string>>): PackedList {
  return packList(Object.entries(files).map(([path, content]) => file(path, content)));
}

/** Feeds a reader in pieces of a given length. */
export function readAll(reader: ListReader, bytes: Uint8Array, pieceBytes = 7): Outcome<ReadList> {
  for (let start = 0; start < bytes.length; start += pieceBytes)
    reader.push(bytes.subarray(start, start + pieceBytes));
  return reader.end();
}

export function readText(reader: ListReader, text: string, pieceBytes = 7): Outcome<ReadList> {
  return readAll(reader, new TextEncoder().encode(text), pieceBytes);
}

/** Names with everything that a file system of the easy-going kind takes: not NUL, not a slash. */
const name = fc
  .string({
    unit: fc.constantFrom(
      'a',
      'B',
      'ä',
      '\u0301',
      '語',
      '😀',
      ' ',
      '\\',
      '\n',
      '\r',
      '%',
      '*',
      '.',
      '"',
      '~',
    ),
    minLength: 1,
    maxLength: 6,
  })
  .filter((text) => text !== '.' && text !== '..');

export const anyPath = fc.array(name, { minLength: 1, maxLength: 4 }).map((parts) => parts.join('/'));

/** Small contents from few choices, so that equal files at several places are common. */
const content = fc.constantFrom('', 'one', 'two', 'three', 'four');

/** A tree of files: every path once, and no path that is another's folder matters not to lists. */
export const anyTree = fc.dictionary(
  fc
    .tuple(fc.constantFrom('a', 'b', 'c/d', 'c/e', 'f'), fc.constantFrom('x', 'y', 'z', 'w'))
    .map(([folder, leaf]) => `${folder}/${leaf}`),
  content,
  { maxKeys: 14, noNullPrototype: true },
);
