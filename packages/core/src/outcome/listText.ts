import { fail, succeed, type Outcome } from './outcome';

/**
 * The text of a list that somebody exported: UTF-8, or UTF-16 where its first bytes or its pattern of zeros say so. Anything
 * else is refused with the way to export it: letters that are guessed wrong would be taken in unseen.
 */
export function decodeListText(bytes: Uint8Array): Outcome<string> {
  const [first, second] = bytes;
  const sixteen =
    (first === 0xff && second === 0xfe) || looksLike(bytes, 1)
      ? 'utf-16le'
      : (first === 0xfe && second === 0xff) || looksLike(bytes, 0)
        ? 'utf-16be'
        : undefined;
  try {
    return succeed(new TextDecoder(sixteen ?? 'utf-8', { fatal: true }).decode(bytes));
  } catch {
    return fail(
      'unknown-letters',
      '',
      'The file is neither UTF-8 nor UTF-16, so letters with accents would be read wrong: save it in the spreadsheet as “CSV UTF-8”, and take that.',
    );
  }
}

/** UTF-16 of mostly plain letters has a zero in every second byte. */
function looksLike(bytes: Uint8Array, zeroAt: 0 | 1): boolean {
  const seen = bytes.subarray(0, 200);
  if (seen.length < 8) return false;
  let zeros = 0;
  let others = 0;
  for (let index = 0; index + 1 < seen.length; index += 2) {
    if (seen[index + zeroAt] === 0) zeros += 1;
    if (seen[index + 1 - zeroAt] === 0) others += 1;
  }
  return others === 0 && zeros > seen.length / 4;
}

/**
 * A list as it is parsed: every kind of line end made one, so that no row is swallowed by another; a line `sep=;` at the
 * top says the separator, and counts as a row.
 */
export function readyListText(text: string): {
  readonly text: string;
  readonly separator: string | undefined;
  readonly rowsBefore: number;
} {
  const lines = text.replace(/\r\n?/g, '\n');
  const sep = /^"?sep=(.)"?\n/i.exec(lines);
  return sep
    ? { text: lines.slice(sep[0].length), separator: sep[1], rowsBefore: 1 }
    : { text: lines, separator: undefined, rowsBefore: 0 };
}
