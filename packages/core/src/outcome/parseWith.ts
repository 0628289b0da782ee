import { z } from 'zod';
import { isProblemCode } from './problemCodes';
import type { Outcome, Problem } from './outcome';

/**
 * Parses `input` with a Zod schema and turns Zod's issues into problems with a path and a sentence in plain words.
 * @example parseWith(z.number(), 'x') // { ok: false, problems: [{ code: 'invalid-type', path: '', … }] }
 */
export function parseWith<S extends z.ZodType>(schema: S, input: unknown): Outcome<z.output<S>> {
  const result = schema.safeParse(input);
  if (result.success) return { ok: true, value: result.data };
  return { ok: false, problems: result.error.issues.map((issue) => problemOf(issue, input)) };
}

/** One Zod issue as a problem: `“disks”, entry 1, “sectors” has to be a number, and is a text.` */
function problemOf(issue: z.core.$ZodIssue, input: unknown): Problem {
  const path = issue.path.map((part) => `/${String(part)}`).join('');
  const code = issue.code.replaceAll('_', '-');
  return {
    code: isProblemCode(code) ? code : 'custom',
    path,
    sentence: `${placeOf(issue.path)} ${whatIsWrong(issue, valueAt(input, issue.path))}.`,
  };
}

/** @example placeOf(['disks', 0, 'sectors']) // '“disks”, entry 1, “sectors”' */
function placeOf(path: readonly PropertyKey[]): string {
  if (path.length === 0) return 'The document';
  const words = path.map((part) => (typeof part === 'number' ? `entry ${part + 1}` : `“${String(part)}”`));
  const [first = '', ...rest] = words;
  return [typeof path[0] === 'number' ? `E${first.slice(1)}` : first, ...rest].join(', ');
}

const FieldsSchema = z.record(z.string(), z.unknown());

function valueAt(input: unknown, path: readonly PropertyKey[]): unknown {
  return path.reduce<unknown>((at, part) => {
    if (Array.isArray(at)) return typeof part === 'number' ? (at as readonly unknown[])[part] : undefined;
    const fields = FieldsSchema.safeParse(at);
    return fields.success ? fields.data[String(part)] : undefined;
  }, input);
}

const kinds: Readonly<Partial<Record<string, string>>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'a group of fields',
  record: 'a group of fields',
  null: 'null',
};

function kindOf(value: unknown): string {
  if (value === null) return 'null';
  if (Array.isArray(value)) return 'a list';
  return typeof value === 'object' ? 'a group of fields' : (kinds[typeof value] ?? 'something else');
}

const units: Readonly<Partial<Record<string, readonly [one: string, several: string]>>> = {
  string: ['character', 'characters'],
  array: ['entry', 'entries'],
  set: ['entry', 'entries'],
};

/** @example amount('string', 3) // '3 characters' */
function amount(origin: string, count: number | bigint): string {
  const unit = units[origin];
  return unit ? `${String(count)} ${unit[Number(count) === 1 ? 0 : 1]}` : String(count);
}

function whatIsWrong(issue: z.core.$ZodIssue, value: unknown): string {
  switch (issue.code) {
    case 'invalid_type': {
      const needed = kinds[issue.expected] ?? issue.expected;
      if (value === undefined) return `is missing: it has to be ${needed}`;
      return `has to be ${needed}, and is ${typeof value === 'number' ? String(value) : kindOf(value)}`;
    }
    case 'too_small':
      if (issue.origin === 'string' && value === '') return 'is empty';
      return `needs ${amount(issue.origin, issue.minimum)} ${issue.inclusive === false ? 'and more' : 'at least'}`;
    case 'too_big':
      return `may have ${amount(issue.origin, issue.maximum)} ${issue.inclusive === false ? 'and less' : 'at most'}`;
    case 'invalid_value':
      return value === undefined
        ? `is missing: it has to be ${choices(issue.values)}`
        : `has to be ${choices(issue.values)}`;
    case 'unrecognized_keys':
      return `has ${issue.keys.length === 1 ? 'a field that is' : 'fields that are'} not known here: ${issue.keys.map((key) => `“${key}”`).join(', ')}`;
    case 'invalid_format':
      return `has not the form that is needed (${issue.format === 'regex' ? (issue.pattern ?? 'a pattern') : issue.format})`;
    case 'not_multiple_of':
      return `has to be a multiple of ${issue.divisor}`;
    case 'invalid_union':
      return value === undefined ? 'is missing' : 'is none of the forms that it may have';
    case 'custom':
    case 'invalid_key':
    case 'invalid_element':
      return `cannot be taken: ${issue.message.replace(/\.$/, '')}`;
  }
}

/** So many values are named; a list of hundreds helps nobody. */
const maxChoices = 12;

function choices(values: readonly unknown[]): string {
  const named = values
    .slice(0, maxChoices)
    .map((value) => (typeof value === 'string' ? `“${value}”` : String(value)));
  const more = values.length - named.length;
  return named.length === 1 && more === 0
    ? (named[0] ?? '')
    : `one of ${named.join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}
