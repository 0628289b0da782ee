import { pathOf, ProblemDetailsSchema, type Endpoint, type ProblemDetails } from '@ulvane/contract';
import type { z } from 'zod';

/** A refusal by the server, with every problem and its place. */
class ProblemError extends Error {
  constructor(readonly problem: ProblemDetails) {
    super(problem.detail);
  }
}

export function isProblem(error: unknown): error is ProblemError {
  return error instanceof ProblemError;
}

/** What to show of an error: its problems' sentences, or that the server cannot be reached. */
export function sentencesOf(error: unknown): readonly string[] {
  if (isProblem(error))
    return error.problem.problems.length > 0
      ? error.problem.problems.map(({ sentence }) => sentence)
      : [error.problem.title];
  return ['Ulvane’s server does not answer. Nothing was saved; check that it runs, then try again.'];
}

type Given<B extends z.ZodType, Q extends z.ZodType> = {
  readonly params?: Readonly<Record<string, string>>;
  readonly body?: z.input<B>;
  readonly query?: z.input<Q>;
};

export function addressOf(
  entry: Endpoint,
  given: { readonly params?: Readonly<Record<string, string>>; readonly query?: object } = {},
): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(given.query ?? {}))
    if (value !== undefined && value !== '') query.set(name, String(value));
  const search = query.toString();
  return `/api/v1${pathOf(entry.path, given.params ?? {})}${search === '' ? '' : `?${search}`}`;
}

/** Calls an entry of the contract; the answer is parsed by its schema, a refusal is thrown. */
export async function call<B extends z.ZodType, Q extends z.ZodType, R extends z.ZodType>(
  entry: Endpoint<B, Q, R>,
  given: Given<B, Q> = {},
): Promise<z.output<R>> {
  const query = typeof given.query === 'object' && given.query !== null ? { query: given.query } : {};
  const address = addressOf(entry, { ...(given.params ? { params: given.params } : {}), ...query });
  const writes = entry.method !== 'GET';
  const response = await fetch(address, {
    method: entry.method,
    credentials: 'same-origin',
    ...(writes
      ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(given.body ?? {}) }
      : {}),
  });
  const answer: unknown = await response.json();
  if (!response.ok) throw new ProblemError(ProblemDetailsSchema.parse(answer));
  return entry.response.parse(answer);
}

/** Sends a body that is a stream of its own kind, as the entry says; the answer is parsed by its schema. */
export async function upload<Q extends z.ZodType, R extends z.ZodType>(
  entry: Endpoint<z.ZodType, Q, R>,
  given: { readonly params: Readonly<Record<string, string>>; readonly query: object; readonly body: Blob },
): Promise<z.output<R>> {
  const response = await fetch(addressOf(entry, given), {
    method: entry.method,
    credentials: 'same-origin',
    headers: { 'content-type': entry.consumes ?? 'application/octet-stream' },
    body: given.body,
  });
  const answer: unknown = await response.json();
  if (!response.ok) throw new ProblemError(ProblemDetailsSchema.parse(answer));
  return entry.response.parse(answer);
}
