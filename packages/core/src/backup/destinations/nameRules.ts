import type { FileSystemLimit } from '../../catalogue/fileSystems';
import { raised } from './upcase';

/** What can be wrong with one name of a path. */
export const nameFaults = [
  'forbidden-character',
  'forbidden-ending',
  'reserved-name',
  'name-too-long',
] as const;
export type NameFault = (typeof nameFaults)[number];

// Control characters, and those that the strict file systems use themselves.
// eslint-disable-next-line no-control-regex
const forbidden = /[\u0000-\u001f<>:"\\|?*]/g;
/** Names of devices of old, with any ending after a full stop; blanks before it do not count. */
const reserved = /^(con|prn|aux|nul|conin\$|conout\$|com[0-9¹²³]|lpt[0-9¹²³]) *(\..*)?$/i;

const encoder = new TextEncoder();

export function lengthIn(unit: 'utf16' | 'bytes', text: string): number {
  return unit === 'utf16' ? text.length : encoder.encode(text).length;
}

/** The first thing that a file system does not take of a name; null when it takes it. */
export function faultOfName(name: string, limit: FileSystemLimit): NameFault | null {
  if (lengthIn(limit.longestName.unit, name) > limit.longestName.count) return 'name-too-long';
  if (limit.names === 'easy') return name.includes('\0') ? 'forbidden-character' : null;
  forbidden.lastIndex = 0;
  if (forbidden.test(name)) return 'forbidden-character';
  if (/[. ]$/.test(name)) return 'forbidden-ending';
  return reserved.test(name) ? 'reserved-name' : null;
}

/**
 * Names that a file system holds for one and the same have the same key: without regard to case on the strict ones, by
 * their own tables; every name its own on the easy-going. Unicode normal forms are different names on a volume; what a
 * share does with them only its server knows, so there they count as one.
 */
export function foldedName(name: string, limit: Pick<FileSystemLimit, 'id' | 'names'>): string {
  if (limit.names !== 'strict') return name;
  return raised(limit.id === 'network' ? name.normalize('NFC') : name, limit.id);
}

function cut(text: string, unit: 'utf16' | 'bytes', count: number): string {
  let kept = '';
  let length = 0;
  // By whole characters, so that none is cut in two.
  for (const character of text) {
    length += lengthIn(unit, character);
    if (length > count) break;
    kept += character;
  }
  return kept;
}

/**
 * A name that the file system takes and that is none of the taken ones; it stays recognisable.
 * @param isTaken by folded name
 * @example legalName('what?.txt', exfat, () => false) // 'what_.txt'
 */
export function legalName(
  name: string,
  limit: FileSystemLimit,
  isTaken: (folded: string) => boolean,
): string {
  let plain = limit.names === 'strict' ? name.replace(forbidden, '_') : name.replaceAll('\0', '_');
  if (limit.names === 'strict') {
    plain = plain.replace(/[. ]+$/, (ending) => '_'.repeat(ending.length));
    if (reserved.test(plain)) plain = plain.replace(/^[^.]*/, (stem) => `${stem}_`);
  }
  const dot = plain.lastIndexOf('.');
  const ending = dot > 0 && plain.length - dot <= 16 ? plain.slice(dot) : '';
  const stem = ending === '' ? plain : plain.slice(0, dot);
  const { count, unit } = limit.longestName;
  for (let turn = 1; ; turn += 1) {
    const mark = turn === 1 ? '' : ` (${turn})`;
    const room = count - lengthIn(unit, ending) - lengthIn(unit, mark);
    const candidate = `${cut(stem, unit, room)}${mark}${ending}`;
    if (faultOfName(candidate, limit) === null && !isTaken(foldedName(candidate, limit))) return candidate;
  }
}
