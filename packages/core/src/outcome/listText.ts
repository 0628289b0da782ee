import { fail, succeed, type Outcome } from './outcome';

/** The usual code pages, by the labels of the Encoding Standard, and whose letters they hold. */
const codePages = [
  ['cp1252', 'Western European'],
  ['cp1250', 'Central European'],
  ['cp1251', 'Cyrillic'],
  ['cp1253', 'Greek'],
  ['cp1254', 'Turkish'],
  ['cp1255', 'Hebrew'],
  ['cp1256', 'Arabic'],
  ['cp1257', 'Baltic'],
  ['mac', 'Western European, another way'],
  ['koi8-r', 'Cyrillic, another way'],
  ['cp866', 'Cyrillic, of the command line'],
  ['shift_jis', 'Japanese'],
  ['gb18030', 'Chinese'],
  ['big5', 'Chinese, traditional'],
  ['euc-kr', 'Korean'],
] as const;

/** One way to read the letters of a file. */
export type LetterReading = {
  readonly encoding: string;
  readonly name: string;
  /** Lines that tell the ways apart, as this one reads them. */
  readonly sample: readonly string[];
};

/**
 * The text of a list that somebody exported: UTF-8, or UTF-16 where its first bytes or its pattern of zeros say so. One
 * byte a letter says nothing of itself: it is read as `encoding`, of `letterReadings`, that somebody chose by sight, and
 * refused before: letters that are guessed wrong would be imported unseen.
 */
export function decodeListText(bytes: Uint8Array, encoding?: string): Outcome<string> {
  const [first, second] = bytes;
  const sixteen =
    (first === 0xff && second === 0xfe) || looksLike(bytes, 1)
      ? 'utf-16le'
      : (first === 0xfe && second === 0xff) || looksLike(bytes, 0)
        ? 'utf-16be'
        : undefined;
  const text = decoded(bytes, encoding ?? sixteen ?? 'utf-8');
  return text === undefined
    ? fail(
        'unknown-letters',
        '',
        'The file is neither UTF-8 nor UTF-16: say how its letters are to be read, or save it in the spreadsheet as “CSV UTF-8”, and take that.',
      )
    : succeed(text);
}

function decoded(bytes: Uint8Array, encoding: string): string | undefined {
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
}

/** Controls are in no list: where a reading shows them it is not the right one. */
// eslint-disable-next-line no-control-regex
const controls = /[\u0000-\u0008\u000e-\u001f\u007f-\u009f\ufffd]/;
const sampleLines = 3;

/**
 * The ways in which the letters of a file can be read that is neither UTF-8 nor UTF-16, each once, with the lines that
 * tell them apart. Which of them is right is seen, not computed.
 * @param likely labels of encodings, the likeliest first, as a detector says
 */
export function letterReadings(bytes: Uint8Array, likely: readonly string[]): readonly LetterReading[] {
  const rank = (encoding: string) => {
    const at = likely.findIndex((label) => sameEncoding(label, encoding));
    return at < 0 ? likely.length : at;
  };
  const seen = new Set<string>();
  return codePages
    .toSorted(([a], [b]) => rank(a) - rank(b))
    .flatMap(([encoding, name]) => {
      const text = decoded(bytes, encoding);
      if (text === undefined || controls.test(text) || seen.has(text)) return [];
      seen.add(text);
      const sample = text
        .split(/[\r\n]+/)
        // eslint-disable-next-line no-control-regex
        .filter((line) => /[^\u0000-\u007f]/.test(line))
        .slice(0, sampleLines);
      return sample.length === 0 ? [] : [{ encoding, name, sample }];
    });
}

function sameEncoding(one: string, other: string): boolean {
  try {
    return new TextDecoder(one).encoding === new TextDecoder(other).encoding;
  } catch {
    return false;
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
