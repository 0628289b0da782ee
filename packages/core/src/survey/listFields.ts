import { activationKinds, type Catalogue } from '../catalogue/catalogue';
import { releaseTitle } from '../catalogue/find';
import { fail, succeed, type Outcome, type Problem } from '../outcome/outcome';
import { parseBytes, printBytes } from '../quantity/bytes';
import { DaySchema } from '../quantity/daySchema';
import { markOfColumn, type NumberMark } from '../quantity/writtenNumber';
import { factTexts } from './describe';
import { factValueSchemas, noSystem, type FactKey } from './facts';

/** Columns of a device list that tell whose device it is, not what it is. */
const identityFields = ['owner', 'site', 'dueOn'] as const;
type IdentityField = (typeof identityFields)[number];

/** Facts that fit into one cell of a list. */
const factFields = [
  'serial',
  'maker',
  'model',
  'year',
  'chassis',
  'processorName',
  'wordBits',
  'cores',
  'clockMhz',
  'cpuFlags',
  'memoryBytes',
  'firmwareMode',
  'secureBoot',
  'tpm',
  'graphicsTier',
  'screenWidth',
  'screenHeight',
  'presentRelease',
  'presentLanguage',
  'activation',
  'diskEncryption',
  'fastStart',
  'applications',
] as const satisfies readonly FactKey[];
type FactField = (typeof factFields)[number];

type ListField = IdentityField | FactField;
export const listFields: readonly ListField[] = [...identityFields, ...factFields];

const identityLabels: Record<IdentityField, string> = { owner: 'Owner', site: 'Site', dueOn: 'Due' };

export function isListField(text: string): text is ListField {
  return listFields.some((field) => field === text);
}

function isIdentity(field: ListField): field is IdentityField {
  return identityFields.some((known) => known === field);
}

/** @example listFieldLabel('memoryBytes') // 'Memory' */
export function listFieldLabel(field: ListField): string {
  return isIdentity(field) ? identityLabels[field] : factTexts[field].label;
}

const fold = (text: string) => text.toLowerCase().replace(/[^a-z0-9]+/g, '');

/** Other words for a column that lists use. */
const alsoCalled: Partial<Record<ListField, readonly string[]>> = {
  serial: ['serialnumber', 'serialno', 'sn'],
  maker: ['make', 'manufacturer', 'vendor', 'brand'],
  memoryBytes: ['ram', ...['mb', 'mib', 'gb', 'gib'].flatMap((unit) => [`memory${unit}`, `ram${unit}`])],
  presentRelease: ['os', 'system', 'release', 'operatingsystem'],
  wordBits: ['bits', 'wordsize'],
  clockMhz: ['mhz', 'clockmhz'],
  owner: ['user', 'person'],
  site: ['location', 'place', 'pier', 'office'],
  dueOn: ['due', 'dueon', 'deadline'],
  tpm: ['tpm', 'securitychip'],
  presentLanguage: ['language', 'lang'],
  chassis: ['kind', 'type', 'chassis'],
};

/** Which field each column of a list is likely to be; empty where it cannot be told. Each field is given once. */
export function guessMapping(headers: readonly string[]): Readonly<Record<string, ListField | ''>> {
  const taken = new Set<ListField>();
  return Object.fromEntries(
    headers.map((header) => {
      const word = fold(header);
      const field = listFields.find(
        (one) =>
          !taken.has(one) &&
          (word === fold(one) ||
            word === fold(listFieldLabel(one)) ||
            (alsoCalled[one] ?? []).includes(word)),
      );
      if (field) taken.add(field);
      return [header, field ?? ''];
    }),
  );
}

const wholeNumber = /^\d{1,9}$/;

/** No device of a list has more memory than so many GiB, nor less than so many MiB: between them a bare number is asked about. */
const maxBareGibibytes = 256;

/** Memory as people write it: with its unit, or with the one in the column’s title; a small bare number is GiB. */
function readMemory(text: string, header: string, mark: NumberMark): Outcome<number> {
  if (!/^[\d.,'’\s]+$/.test(text)) return parseBytes(text, 'binary', mark);
  const unit = /(mi?b|gi?b)\W*$/i.exec(header)?.[1];
  if (unit !== undefined) return parseBytes(`${text} ${unit.replace(/^([mg])b$/i, '$1iB')}`, 'binary', mark);
  const read = parseBytes(`${text} GiB`, 'binary', mark);
  return read.ok && read.value > maxBareGibibytes * 1024 ** 3
    ? fail(
        'size-without-unit',
        '',
        `“${text}” has no unit: write ${text.trim()} MB, or put the unit into the column’s title, as in Memory (MB).`,
      )
    : read;
}

/**
 * How each column of a list writes its numbers: as its own cells show it, else as the house does.
 * @param columns header → every cell of the column
 */
export function marksOfList(
  columns: Readonly<Record<string, readonly string[]>>,
  house: NumberMark,
): Readonly<Record<string, NumberMark>> {
  return Object.fromEntries(
    Object.entries(columns).map(([header, cells]) => [header, markOfColumn(cells) ?? house]),
  );
}

/** No fact of a device is longer. */
const longestCell = 2000;

/** A cell as the value of a fact. Options are read in any case; sizes as people write them. */
function readCell(
  field: FactField,
  text: string,
  header: string,
  catalogue: Catalogue,
  mark: NumberMark,
): Outcome<unknown> {
  switch (field) {
    case 'memoryBytes':
      return readMemory(text, header, mark);
    case 'year':
    case 'cores':
    case 'clockMhz':
    case 'graphicsTier':
    case 'screenWidth':
    case 'screenHeight':
    case 'wordBits': {
      const digits = text.replace(/\s*(mhz|bits?|-bit|px|pixels|cores?)$/i, '');
      return wholeNumber.test(digits)
        ? succeed(Number(digits))
        : fail('not-a-number', '', `“${text}” is not a whole number.`);
    }
    case 'cpuFlags':
    case 'applications':
      return succeed(
        text
          .split(/[;|]/)
          .map((part) => part.trim())
          .filter((part) => part !== ''),
      );
    case 'presentRelease': {
      if (fold(text) === 'none' || fold(text) === 'nosystem') return succeed(noSystem);
      const release = catalogue.releases.find(
        (entry) =>
          entry.id === text.toLowerCase() || releaseTitle(entry).toLowerCase() === text.toLowerCase(),
      );
      return release
        ? succeed(release.id)
        : fail('no-such-release', '', `“${text}” is not a release of the catalogue.`);
    }
    case 'activation':
      return oneOf(activationKinds, text);
    case 'chassis':
    case 'firmwareMode':
    case 'secureBoot':
    case 'tpm':
    case 'diskEncryption':
    case 'fastStart':
      return oneOf(factValueSchemas[field].options, text);
    default:
      return succeed(text);
  }
}

function oneOf(options: readonly string[], text: string): Outcome<string> {
  const found = options.find((option) => fold(option) === fold(text));
  return found === undefined
    ? fail('not-an-option', '', `“${text}” is none of ${options.join(', ')}.`)
    : succeed(found);
}

/**
 * A cell beside what it would be taken for, before anything is taken; as it is where that is the same.
 * @example shownCell('memoryBytes', '8192', 'Memory (MB)', 'either') // '8192 = 8.0 GiB'
 */
export function shownCell(field: string, text: string, header: string, mark: NumberMark): string {
  if (field !== 'memoryBytes') return text;
  const read = readMemory(text, header, mark);
  return `${text} ${read.ok ? `= ${printBytes(read.value, 'binary')}` : '(is asked about)'}`;
}

/**
 * Rows whose serial stood in an earlier row, with the number of that row.
 * @param mapping header → field
 */
export function firstRowOfSerial(
  rows: readonly { readonly row: number; readonly cells: Readonly<Record<string, string>> }[],
  mapping: Readonly<Record<string, string>>,
): ReadonlyMap<number, number> {
  const header = Object.keys(mapping).find((one) => mapping[one] === 'serial');
  const first = new Map<string, number>();
  const again = new Map<number, number>();
  if (header === undefined) return again;
  for (const { row, cells } of rows) {
    const serial = (cells[header] ?? '').trim().toLowerCase();
    if (serial === '') continue;
    const before = first.get(serial);
    if (before === undefined) first.set(serial, row);
    else again.set(row, before);
  }
  return again;
}

export type ListRow = {
  readonly identity: Partial<Record<IdentityField, string>>;
  readonly facts: readonly { readonly key: FactField; readonly value: unknown }[];
  readonly serial: string;
};

/**
 * Reads one row of a list. A serial is needed: by it the device is known again. Empty cells say
 * nothing. Refused with one problem a cell, its path being the column’s header.
 * @param cells header → text @param mapping header → field
 * @param marks header → how its numbers are written, of `marksOfList`
 */
export function readListRow(
  cells: Readonly<Record<string, string>>,
  mapping: Readonly<Record<string, string>>,
  catalogue: Catalogue,
  marks: Readonly<Record<string, NumberMark>> = {},
): Outcome<ListRow> {
  const problems: Problem[] = [];
  const identity: Partial<Record<IdentityField, string>> = {};
  const facts: { key: FactField; value: unknown }[] = [];
  let serial = '';
  let serialColumn = '';
  for (const [header, field] of Object.entries(mapping)) {
    if (!isListField(field)) continue;
    if (field === 'serial') serialColumn = header;
    const text = (cells[header] ?? '').trim();
    if (text === '') continue;
    if (text.length > longestCell) {
      problems.push({ code: 'too-long', path: header, sentence: `More than ${longestCell} letters.` });
      continue;
    }
    if (isIdentity(field)) {
      if (field === 'dueOn' && !DaySchema.safeParse(text).success)
        problems.push({
          code: 'not-a-day',
          path: header,
          sentence: `“${text}” is not a day: write 2026-03-31.`,
        });
      else if (text.length > 100)
        problems.push({ code: 'too-long', path: header, sentence: 'More than 100 letters.' });
      else identity[field] = text;
      continue;
    }
    const read = readCell(field, text, header, catalogue, marks[header] ?? 'either');
    if (!read.ok) {
      problems.push(...read.problems.map((problem) => ({ ...problem, path: header })));
      continue;
    }
    const fits = factValueSchemas[field].safeParse(read.value);
    if (!fits.success)
      problems.push({
        code: 'fact-unfit',
        path: header,
        sentence: `“${text}” does not fit ${listFieldLabel(field).toLowerCase()}: ${fits.error.issues[0]?.message ?? ''}.`,
      });
    else {
      facts.push({ key: field, value: fits.data });
      if (field === 'serial') serial = text;
    }
  }
  if (serial === '' && !problems.some(({ path }) => path === serialColumn))
    problems.push({
      code: 'no-serial',
      path: serialColumn,
      sentence: 'The serial is missing: without it the device is not known again.',
    });
  return problems.length > 0 ? { ok: false, problems } : succeed({ identity, facts, serial });
}
