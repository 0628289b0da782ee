/**
 * How numbers are written: which mark stands before what is less than one. `either`: both are met, so a number that may
 * mean two things is asked about.
 */
export const numberMarks = ['either', 'point', 'comma'] as const;
export type NumberMark = (typeof numberMarks)[number];

/** A number's digits before and behind its mark. */
type WrittenNumber = { readonly whole: string; readonly fraction: string };

const grouped = (groups: readonly string[]) =>
  /^\d{1,3}$/.test(groups[0] ?? '') && groups.slice(1).every((group) => /^\d{3}$/.test(group));

/**
 * Reads digits with marks: blanks or apostrophes between thousands; a point or a comma before what is less than one, the
 * other one between thousands. One mark before exactly three digits may be either; `mark` says which, and `either` never
 * guesses.
 * @returns undefined where it is no number
 * @example readWrittenNumber('8,192', 'point')  // { whole: '8192', fraction: '' }
 * @example readWrittenNumber('8,192', 'comma')  // { whole: '8', fraction: '192' }
 * @example readWrittenNumber('8,192', 'either') // 'two-meanings'
 */
export function readWrittenNumber(
  written: string,
  mark: NumberMark,
): WrittenNumber | 'two-meanings' | undefined {
  const parts = written.split(/[\u0020\u00a0\u202f\u2009'’]/);
  if (parts.length > 1 && parts.slice(1).some((part) => !/^\d{3}(?:$|[.,])/.test(part))) return undefined;
  const text = parts.join('');
  const marks = [...text].filter((sign) => sign === '.' || sign === ',');
  const last = marks.at(-1);
  if (!/^[\d.,]+$/.test(text)) return undefined;
  if (last === undefined) return { whole: text, fraction: '' };
  const pieces = text.split(/[.,]/);
  const front = pieces.slice(0, -1);
  const behind = pieces.at(-1) ?? '';
  if (new Set(marks).size === 2) {
    // Two kinds: the last stands before what is less than one, once; the other between thousands.
    const once = marks.filter((one) => one === last).length === 1;
    return once && grouped(front) && behind !== '' ? { whole: front.join(''), fraction: behind } : undefined;
  }
  if (marks.length > 1) return grouped(pieces) ? { whole: pieces.join(''), fraction: '' } : undefined;
  const [first = ''] = front;
  if (first === '' || behind === '') return undefined;
  const asFraction = { whole: first, fraction: behind };
  const mayGroup = parts.length === 1 && behind.length === 3 && /^[1-9]\d{0,2}$/.test(first);
  if (!mayGroup) return asFraction;
  if (mark === 'either') return 'two-meanings';
  return (mark === 'point') === (last === '.') ? asFraction : { whole: `${first}${behind}`, fraction: '' };
}

/**
 * What stands behind a point, so that the number means one thing however numbers are written: three digits alone could
 * be taken for thousands.
 * @example unmistakable('192') // '1920'
 */
export function unmistakable(fraction: string): string {
  return fraction.length === 3 ? `${fraction}0` : fraction;
}

/**
 * How a whole column writes its numbers, from those that mean one thing only; undefined where none does, or where they
 * differ.
 * @param texts cells, each a number with or without its unit
 * @example markOfColumn(['8,192 MB', '7,5 GB']) // 'comma'
 */
export function markOfColumn(texts: readonly string[]): Exclude<NumberMark, 'either'> | undefined {
  const found = new Set<'point' | 'comma'>();
  for (const text of texts) {
    const number = /^\s*([\d.,'’\u0020\u00a0\u202f\u2009]*\d)/.exec(text)?.[1];
    if (number === undefined) continue;
    const [asPoint, asComma] = (['point', 'comma'] as const).map((mark) => readWrittenNumber(number, mark));
    if (typeof asPoint !== 'object' || typeof asComma !== 'object') continue;
    // Read alike either way: what marks it has say how this list writes.
    if (asPoint.whole !== asComma.whole || asPoint.fraction !== asComma.fraction) continue;
    const signs = [...number].filter((sign) => sign === '.' || sign === ',');
    const last = signs.at(-1);
    if (last === undefined) continue;
    const before = asPoint.fraction !== '' ? last : last === '.' ? ',' : '.';
    found.add(before === '.' ? 'point' : 'comma');
  }
  const [only] = found;
  return found.size === 1 ? only : undefined;
}
