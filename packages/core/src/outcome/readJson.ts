import { parse, printParseErrorCode, type ParseError } from 'jsonc-parser';

/** Where JSON stops being well-formed. */
type BrokenJson = {
  /** The text only breaks off: more of it would be well-formed. */
  readonly breaksOff: boolean;
  /** From 1. */
  readonly line: number;
  readonly column: number;
  /** What stands before that place in its line. */
  readonly before: string;
};

const endings: ReadonlySet<string> = new Set(['UnexpectedEndOfString', 'UnexpectedEndOfNumber']);

/** Whether more text could make it well-formed: it ends in the middle of a value, or before one that has to come. */
function breaksOff(text: string, { error, offset, length }: ParseError): boolean {
  const end = text.trimEnd().length;
  if (offset + length < end) return false;
  const rest = text.slice(offset, end);
  return (
    endings.has(printParseErrorCode(error)) ||
    rest === '-' ||
    ['true', 'false', 'null'].some((word) => word.startsWith(rest) && rest.length < word.length)
  );
}

/**
 * Reads strict JSON (RFC 8259), and says where it is not.
 * @example readJson('{"a" 1}') // { ok: false, broken: { breaksOff: false, line: 1, column: 6, before: '{"a" ' } }
 */
export function readJson(
  text: string,
): { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly broken: BrokenJson } {
  try {
    return { ok: true, value: JSON.parse(text) };
  } catch {
    const errors: ParseError[] = [];
    parse(text, errors, { disallowComments: true, allowTrailingComma: false, allowEmptyContent: false });
    const [first] = errors;
    const off = first === undefined || breaksOff(text, first);
    const at = off ? text.length : first.offset;
    const lines = text.slice(0, at).split('\n');
    const before = lines.at(-1) ?? '';
    return { ok: false, broken: { breaksOff: off, line: lines.length, column: before.length + 1, before } };
  }
}

/** What to tell of a file that is not JSON. @example brokenSentence('list.json', …) */
export function brokenSentence(name: string, { breaksOff: off, line, column, before }: BrokenJson): string {
  return off
    ? `${name} breaks off in line ${line}, after “${before.slice(-40)}”. Copy it again, to its last brace.`
    : `${name} is not well-formed JSON at line ${line}, column ${column}. Use the file as it was saved, without editing it.`;
}
