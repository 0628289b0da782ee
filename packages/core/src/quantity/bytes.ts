import { fail, succeed, type Outcome } from '../outcome/outcome';
import { readWrittenNumber, unmistakable, type NumberMark } from './writtenNumber';

/** Decimal: 1 GB = 1000³ bytes (SI). Binary: 1 GiB = 1024³ bytes (IEC 80000-13). */
export type UnitFamily = 'decimal' | 'binary';

export const mebibyteBytes = 1024 ** 2;
export const gibibyteBytes = 1024 ** 3;
export const gigabyteBytes = 1000 ** 3;

const suffixes: Record<UnitFamily, readonly string[]> = {
  decimal: ['B', 'kB', 'MB', 'GB', 'TB', 'PB'],
  binary: ['B', 'KiB', 'MiB', 'GiB', 'TiB', 'PiB'],
};

const bases: Record<UnitFamily, number> = { decimal: 1000, binary: 1024 };

/**
 * Bytes for reading, rounded to `digits` places: the largest unit that leaves at least 1.
 * @param sizeBytes a whole number of bytes, 0 or more
 * @example printBytes(256060514304, 'decimal') // '256.1 GB'
 * @example printBytes(256060514304, 'binary')  // '238.5 GiB'
 */
export function printBytes(sizeBytes: number, family: UnitFamily, digits = 1): string {
  if (digits !== 1) return roundedBytes(sizeBytes, family, digits);
  const printed = printedBytes[family];
  const known = printed.get(sizeBytes);
  if (known !== undefined) return known;
  const text = roundedBytes(sizeBytes, family, digits);
  if (printed.size >= 4096) printed.clear();
  printed.set(sizeBytes, text);
  return text;
}

/** Sizes come again and again (requirements, disks as sold), and rounding to digits is slow. */
const printedBytes: Readonly<Record<UnitFamily, Map<number, string>>> = {
  decimal: new Map(),
  binary: new Map(),
};

function roundedBytes(sizeBytes: number, family: UnitFamily, digits: number): string {
  const base = bases[family];
  let value = sizeBytes;
  let step = 0;
  // What would be rounded up to a whole next unit counts as one: 999.96 MB reads as 1.0 GB.
  const nearlyNext = base - 0.5 * 10 ** -digits;
  while (step < 5 && value >= (step === 0 ? base : nearlyNext)) {
    value /= base;
    step += 1;
  }
  return step === 0 ? `${value} B` : `${value.toFixed(digits)} ${suffixes[family][step] ?? 'B'}`;
}

/**
 * Both families, the one that is meant in conversation first.
 * @example printBothUnits(256060514304) // '256.1 GB (238.5 GiB)'
 */
export function printBothUnits(sizeBytes: number, first: UnitFamily = 'decimal', digits = 1): string {
  const second = first === 'decimal' ? 'binary' : 'decimal';
  return `${printBytes(sizeBytes, first, digits)} (${printBytes(sizeBytes, second, digits)})`;
}

/** More digits than this are read by nobody: then every byte is printed. */
const maxDigits = 3;

/**
 * A size that is compared with others: with the fewest digits at which it reads otherwise than each of them that it is not
 * equal to. So a sentence never says “4.0 GiB of 4.0 GiB needed” where something is short.
 * @example printApart(4266967296, [4294967296], 'binary') // '3.97 GiB', beside 4.00 GiB
 */
export function printApart(
  sizeBytes: number,
  others: readonly number[],
  print: UnitFamily | ((sizeBytes: number, digits: number) => string),
): string {
  const printed =
    typeof print === 'function' ? print : (size: number, digits: number) => printBytes(size, print, digits);
  for (let digits = 1; digits <= maxDigits; digits += 1) {
    const text = printed(sizeBytes, digits);
    if (others.every((other) => other === sizeBytes || printed(other, digits) !== text)) return text;
  }
  return `${sizeBytes.toLocaleString('en')} bytes`;
}

/** What there is and what is needed, in both families, so that they read apart where they differ. */
export function printHasAndNeeds(
  hasBytes: number,
  needsBytes: number,
): readonly [has: string, needs: string] {
  const both = (sizeBytes: number, digits: number) => printBothUnits(sizeBytes, 'decimal', digits);
  return [printApart(hasBytes, [needsBytes], both), printApart(needsBytes, [hasBytes], both)];
}

/**
 * Bytes with every digit, so that `parseBytes` gives the same number back, however numbers are written.
 * @example printExactBytes(1500, 'decimal') // '1.5 kB'
 * @example printExactBytes(1536, 'binary')  // '1.5 KiB'
 */
export function printExactBytes(sizeBytes: number, family: UnitFamily): string {
  const base = BigInt(bases[family]);
  let unit = 1n;
  let step = 0;
  while (step < 5 && BigInt(sizeBytes) >= unit * base) {
    unit *= base;
    step += 1;
  }
  const whole = BigInt(sizeBytes) / unit;
  let rest = BigInt(sizeBytes) % unit;
  let fraction = '';
  while (rest > 0n) {
    rest *= 10n;
    fraction += (rest / unit).toString();
    rest %= unit;
  }
  return `${whole}${fraction === '' ? '' : `.${unmistakable(fraction)}`} ${suffixes[family][step] ?? 'B'}`;
}

const written = /^\s*(\d[\d.,'’\u0020\u00a0\u202f\u2009]*?)\s*([kmgtp]?)(i?)(b?)\s*$/i;

/**
 * Reads a size as people write it. `GB` is 1000³ and `GiB` 1024³; a bare number is bytes.
 * @param bareFamily what a lone `G` means (house rules: some say G and mean 1024³)
 * @param mark how numbers are written here (house rules, or the column that it stands in)
 * @returns whole bytes (rounded to the nearest), or why it cannot be read or may mean two things
 * @example parseBytes('74.2 GB') // 74200000000
 * @example parseBytes('1.5 KiB') // 1536
 */
export function parseBytes(
  text: string,
  bareFamily: UnitFamily = 'decimal',
  mark: NumberMark = 'either',
): Outcome<number> {
  const match = written.exec(text);
  const number = match?.[1] === undefined ? undefined : readWrittenNumber(match[1], mark);
  if (!match || number === undefined)
    return fail('size-unreadable', '', `“${text}” is not a size: write for example 74.2 GB or 69 GiB.`);
  const [, , prefix = '', binaryMark = '', byteMark = ''] = match;
  if (number === 'two-meanings') {
    const [whole = '', rest = ''] = (match[1] ?? '').split(/[.,]/);
    const unit = prefix + binaryMark + byteMark;
    const both = [`${whole}${rest}`, `${whole}.${rest}0`].map((one) =>
      unit === '' ? one : `${one} ${unit}`,
    );
    return fail(
      'size-two-meanings',
      '',
      `“${text}” may mean ${both[0]} or ${both[1]}: write one of them so. A lead can set how this house writes numbers.`,
    );
  }
  const { whole, fraction } = number;
  const step = ['', 'k', 'm', 'g', 't', 'p'].indexOf(prefix.toLowerCase());
  if (step === 0 && binaryMark !== '')
    return fail('size-unreadable', '', `“${text}” has no unit before the i.`);
  const family = binaryMark !== '' ? 'binary' : byteMark !== '' || step === 0 ? 'decimal' : bareFamily;
  const unit = BigInt(bases[family]) ** BigInt(step);
  const scale = 10n ** BigInt(fraction.length);
  const scaled = (BigInt(whole) * scale + BigInt(fraction === '' ? '0' : fraction)) * unit;
  const bytes = Number((scaled * 2n + scale) / (scale * 2n));
  if (!Number.isSafeInteger(bytes))
    return fail('size-too-large', '', `“${text}” is more than Ulvane counts.`);
  return succeed(bytes);
}
