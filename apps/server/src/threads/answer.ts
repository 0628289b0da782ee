import type { Problem } from '@ulvane/core/outcome';
import { ProblemError } from '../http/problem';

/** What comes back from another thread: errors lose their class on the way, so a refusal is a value. */
export type Answer<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly status: number; readonly problems: readonly Problem[] };

/** Runs a task in the worker and turns its refusal into a value. */
export async function answer<T>(task: () => Promise<T> | T): Promise<Answer<T>> {
  try {
    return { ok: true, value: await task() };
  } catch (error) {
    if (error instanceof ProblemError) return { ok: false, status: error.status, problems: error.problems };
    throw error;
  }
}

/** The value, or the refusal again. */
export function valueOfAnswer<T>(given: Answer<T>): T {
  if (given.ok) return given.value;
  throw new ProblemError(given.problems, given.status);
}
