const decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
const encoder = new TextEncoder();

type PathReading =
  | { readonly ok: true; readonly bytes: Uint8Array; readonly hadBackslashes: boolean }
  | {
      readonly ok: false;
      readonly code: 'invalid-utf8' | 'absolute-path' | 'climbing-path' | 'no-path' | 'names-a-folder';
    };

const refused = (code: Exclude<PathReading, { ok: true }>['code']): PathReading => ({ ok: false, code });

function isLetter(byte: number | undefined): boolean {
  return byte !== undefined && (byte | 0x20) >= 0x61 && (byte | 0x20) <= 0x7a;
}

/**
 * A path of a list, below the folder that the list is of: `./` at its front and doubled separators go.
 * Refused: bytes that are no UTF-8, absolute paths (drive letters too), `..`, and names of folders.
 * @param literalBackslashes a backslash is part of a name (the list escapes them), not a separator
 * @param below absolute paths below this folder are taken as relative to it
 */
export function readListPath(bytes: Uint8Array, literalBackslashes: boolean, below = ''): PathReading {
  let path: string;
  try {
    path = decoder.decode(bytes);
  } catch {
    return refused('invalid-utf8');
  }
  if (path.includes('\0')) return refused('invalid-utf8');
  const hadBackslashes = !literalBackslashes && path.includes('\\');
  if (hadBackslashes) path = path.replaceAll('\\', '/');
  if (below !== '' && path.startsWith(`${below}/`)) path = path.slice(below.length + 1);
  if (path.startsWith('/') || (isLetter(path.charCodeAt(0)) && /^[a-zA-Z]:\//.test(path)))
    return refused('absolute-path');
  const parts = path.split('/');
  if (parts.includes('..')) return refused('climbing-path');
  const last = parts.at(-1);
  const kept = parts.filter((part) => part !== '' && part !== '.');
  if (kept.length === 0) return refused('no-path');
  if (last === '' || last === '.') return refused('names-a-folder');
  return { ok: true, bytes: encoder.encode(kept.join('/')), hadBackslashes };
}

/** What is wrong with a line's path, and what to do. */
export const pathRefusals: Readonly<
  Record<Exclude<PathReading, { ok: true }>['code'], (line: number) => string>
> = {
  'invalid-utf8': (line) =>
    `Line ${line}: the name is not valid UTF-8. Make the list with a UTF-8 locale, or rename the file first.`,
  'absolute-path': (line) =>
    `Line ${line}: the path is absolute. Take the list as relative to the folder that all of it is in.`,
  'climbing-path': (line) =>
    `Line ${line}: the path climbs out of its folder with “..”. Make the list from inside the folder.`,
  'no-path': (line) => `Line ${line}: there is no file name after the checksum.`,
  'names-a-folder': (line) => `Line ${line}: the path names a folder, not a file.`,
};

/**
 * The folder that absolute paths have in common, so that a list may be taken as relative to it.
 * @example commonFolder('/home/a/x', '/home/a/y/z') // '/home/a'
 */
export function commonFolder(a: string, b: string): string {
  const left = a.split('/').slice(0, -1);
  const right = b.split('/').slice(0, -1);
  let shared = 0;
  while (shared < Math.min(left.length, right.length) && left[shared] === right[shared]) shared += 1;
  return left.slice(0, shared).join('/');
}
