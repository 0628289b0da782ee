import {
  pathOf,
  ProblemDetailsSchema,
  type Endpoint,
  type Given,
  type Giving,
  type PathParams,
  type ProblemDetails,
} from '@ulvane/contract';
import type { ProblemCode } from '@ulvane/core/outcome';
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

const isOf = (error: unknown, codes: readonly ProblemCode[]) =>
  isProblem(error) && error.problem.problems.some(({ code }) => codes.some((one) => one === code));

/** Too much was asked at once, and nothing of it was done. */
const isBusy = (error: unknown) => isOf(error, ['busy']);

/** Nothing was done, and the same may be asked again in a moment without doing anything twice. */
export const passesByItself = (error: unknown) => isOf(error, ['busy', 'database-down']);

/** What to show of an error: its problems' sentences, or that the server cannot be reached. */
export function sentencesOf(error: unknown): readonly string[] {
  if (isProblem(error))
    return error.problem.problems.length > 0
      ? error.problem.problems.map(({ sentence }) => sentence)
      : [error.problem.title];
  if (error instanceof UnfitFile) return [error.message];
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

/** A file that was picked or dropped is not what is asked for; its sentence says what to do. */
export class UnfitFile extends Error {}

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

/** An entry's address, with what it is asked with. */
export function addressOf<E extends Endpoint>(entry: E, ...[given]: Giving<E>): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(given?.query ?? {}))
    if (value !== undefined && value !== '') query.set(name, String(value));
  const search = query.toString();
  const params = (given?.params ?? {}) as PathParams<E['path']>;
  return `/api/v1${pathOf(entry.path, params)}${search === '' ? '' : `?${search}`}`;
}

/** Calls an entry of the contract; the answer is parsed by its schema, a refusal is thrown. */
export async function call<E extends Endpoint>(
  entry: E,
  ...giving: Giving<E>
): Promise<z.output<E['response']>> {
  const [given] = giving;
  const address = addressOf(entry, ...giving);
  const writes = entry.method !== 'GET';
  const ask = async () => {
    try {
      const response = await fetch(address, {
        method: entry.method,
        credentials: 'same-origin',
        ...(writes
          ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(given?.body ?? {}) }
          : {}),
      });
      const afterMs = 1000 * Number(response.headers.get('retry-after') ?? 0);
      return { ok: response.ok, text: await response.text(), afterMs };
    } catch {
      throw new NoAnswer(writes);
    }
  };
  const answer = await ask();
  try {
    return read<E['response']>(entry, answer.ok, answer.text);
  } catch (problem) {
    if (!isBusy(problem)) throw problem;
    // Nothing was done, and the server says when to come again: once, before anybody is troubled with it.
    await new Promise((resolve) => setTimeout(resolve, answer.afterMs));
    const again = await ask();
    return read<E['response']>(entry, again.ok, again.text);
  }
}

/**
 * Sends a body that is a stream of its own kind, as the entry says; the answer is parsed by its schema.
 * @param onProgress gets how much of it has been sent, from 0 to 1
 */
export function upload<E extends Endpoint>(
  entry: E,
  given: Given<E>,
  content: Blob,
  onProgress: (share: number) => void = () => undefined,
): Promise<z.output<E['response']>> {
  // `fetch` does not tell how much has been sent.
  const request = new XMLHttpRequest();
  return new Promise<z.output<E['response']>>((resolve, reject) => {
    request.upload.addEventListener(
      'progress',
      ({ loaded, total }) => total > 0 && onProgress(loaded / total),
    );
    request.addEventListener('error', () => reject(new NoAnswer(true)));
    request.addEventListener('abort', () => reject(new NoAnswer(true)));
    request.addEventListener('load', () => {
      try {
        resolve(
          read<E['response']>(entry, request.status >= 200 && request.status < 300, request.responseText),
        );
      } catch (problem) {
        reject(problem);
      }
    });
    request.open(entry.method, addressOf<E>(entry, ...([given] as Giving<E>)));
    request.setRequestHeader('content-type', entry.consumes ?? 'application/octet-stream');
    request.send(content);
  });
}
