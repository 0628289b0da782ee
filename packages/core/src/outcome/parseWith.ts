import type { z } from 'zod';
import { isProblemCode } from './problemCodes';
import type { Outcome, Problem } from './outcome';

/**
 * Parses `input` with a Zod schema and turns Zod's issues into problems with a path.
 * @example parseWith(z.number(), 'x') // { ok: false, problems: [{ code: 'invalid-type', path: '', … }] }
 */
export function parseWith<S extends z.ZodType>(schema: S, input: unknown): Outcome<z.output<S>> {
  const result = schema.safeParse(input);
  if (result.success) return { ok: true, value: result.data };
  return { ok: false, problems: result.error.issues.map(problemOf) };
}

/** One Zod issue as a problem: `/disks/0/sectors: Invalid input: expected number, received string`. */
function problemOf(issue: z.core.$ZodIssue): Problem {
  const path = issue.path.map((part) => `/${String(part)}`).join('');
  const place = path === '' ? 'The document' : path;
  const code = issue.code.replaceAll('_', '-');
  return { code: isProblemCode(code) ? code : 'custom', path, sentence: `${place}: ${issue.message}.` };
}
