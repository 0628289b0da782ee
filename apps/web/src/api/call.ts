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
  if (error instanceof NoAnswer)
    return [
      error.wrote
        ? 'Ulvane’s server did not answer. What you sent may have been saved or not: check that the server runs, reload, and send it again only if it is not there.'
        : 'Ulvane’s server does not answer: check that it runs, then try again.',
    ];
  if (error instanceof UnreadableAnswer)
    return [
      `Ulvane’s server answered, and this page cannot read the answer: the page may be older than the server. Reload it${error.wrote ? ', and check whether what you sent was saved' : ''}.`,
    ];
  return [
    'This page has a fault and could not do that. Reload it; if it happens again, tell a lead what you did.',
  ];
}

/** The server answered with what the contract does not say. */
class UnreadableAnswer extends Error {
  constructor(readonly wrote: boolean) {
    super('unreadable answer');
  }
}

/** The line to the server broke, before or after it had done what was asked. */
export class NoAnswer extends Error {
  constructor(readonly wrote: boolean) {
    super('no answer');
  }
}

/** The answer, parsed by the entry's schema; a refusal is thrown. */
function read<R extends z.ZodType>(
  { method, response: schema }: { readonly method: Endpoint['method']; readonly response: R },
  ok: boolean,
  text: string,
): z.output<R> {
  const wrote = method !== 'GET';
  let answer: unknown;
  try {
    answer = JSON.parse(text);
  } catch {
    throw new UnreadableAnswer(wrote);
  }
  if (!ok) {
    const problem = ProblemDetailsSchema.safeParse(answer);
    throw problem.success ? new ProblemError(problem.data) : new UnreadableAnswer(wrote);
  }
  const parsed = schema.safeParse(answer);
  if (!parsed.success) throw new UnreadableAnswer(wrote);
  return parsed.data;
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
  let response: Response;
  let text: string;
  try {
    response = await fetch(address, {
      method: entry.method,
      credentials: 'same-origin',
      ...(writes
        ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(given.body ?? {}) }
        : {}),
    });
    text = await response.text();
  } catch {
    throw new NoAnswer(writes);
  }
  return read(entry, response.ok, text);
}

/**
 * Sends a body that is a stream of its own kind, as the entry says; the answer is parsed by its schema.
 * @param onProgress gets how much of it has been sent, from 0 to 1
 */
export function upload<Q extends z.ZodType, R extends z.ZodType>(
  entry: Endpoint<z.ZodType, Q, R>,
  given: { readonly params: Readonly<Record<string, string>>; readonly query: object; readonly body: Blob },
  onProgress: (share: number) => void = () => undefined,
): Promise<z.output<R>> {
  // `fetch` does not tell how much has been sent.
  const request = new XMLHttpRequest();
  return new Promise<z.output<R>>((resolve, reject) => {
    request.upload.addEventListener(
      'progress',
      ({ loaded, total }) => total > 0 && onProgress(loaded / total),
    );
    request.addEventListener('error', () => reject(new NoAnswer(true)));
    request.addEventListener('abort', () => reject(new NoAnswer(true)));
    request.addEventListener('load', () => {
      try {
        resolve(read(entry, request.status >= 200 && request.status < 300, request.responseText));
      } catch (problem) {
        reject(problem);
      }
    });
    request.open(entry.method, addressOf(entry, given));
    request.setRequestHeader('content-type', entry.consumes ?? 'application/octet-stream');
    request.send(given.body);
  });
}
