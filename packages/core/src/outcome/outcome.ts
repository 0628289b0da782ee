import type { ProblemCode } from './problemCodes';

/**
 * What a function that takes outside data gives back: the value, or every problem found.
 * A problem's sentence is written for the technician who has to act on it.
 */
export type Problem = {
  readonly code: ProblemCode;
  /** Where it is: a JSON-pointer-like path, `''` for the whole. */
  readonly path: string;
  readonly sentence: string;
};

export type Outcome<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problems: readonly Problem[] };

/** @example succeed(4).value // 4 */
export function succeed<T>(value: T): Outcome<T> {
  return { ok: true, value };
}

/** @example fail('too-large', '/disks/0', 'The disk is larger than 2 TiB.').ok // false */
export function fail(code: ProblemCode, path: string, sentence: string): Outcome<never> {
  return { ok: false, problems: [{ code, path, sentence }] };
}
