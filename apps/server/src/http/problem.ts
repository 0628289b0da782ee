import type { ProblemDetails } from '@ulvane/contract';
import type { Problem } from '@ulvane/core/outcome';
import type { Request, Response } from 'express';

const titles: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  415: 'Not of a kind that is read',
  421: 'Not for this server',
  408: 'Took too long',
  404: 'Not found',
  409: 'Changed in the meantime',
  413: 'Too large',
  422: 'Cannot be taken',
  429: 'Too many tries',
  500: 'Something broke in Ulvane',
  503: 'Not ready',
};

/** A refusal with its status; the filter turns it into problem details. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly problems: readonly Problem[],
  ) {
    super(problems.map(({ sentence }) => sentence).join(' '));
  }
}

export function refuse(status: number, code: string, sentence: string, path = ''): ProblemError {
  return new ProblemError(status, [{ code, path, sentence }]);
}

/** Somebody else is at it, or too many ask at once: the same again in a moment may well be done. */
export function busy(): ProblemError {
  return refuse(
    503,
    'busy',
    'Too much is asked at once just now: nothing was saved. Wait a second or two and do it again.',
  );
}

const statusByCode: Readonly<Record<string, number>> = {
  'only-leads': 403,
  'step-conflict': 409,
  'already-verified': 409,
  'handed-over': 409,
  'gate-not-closed': 409,
};

/** The status for problems that core found: by the first one's code, else 422. */
export function statusOf(problems: readonly Problem[]): number {
  return statusByCode[problems[0]?.code ?? ''] ?? 422;
}

export function problemDetails(
  status: number,
  problems: readonly Problem[],
  instance: string,
): ProblemDetails {
  return {
    type: problems[0] ? `urn:ulvane:problem:${problems[0].code}` : 'about:blank',
    title: titles[status] ?? 'Refused',
    status,
    detail: problems.map(({ sentence }) => sentence).join(' '),
    instance,
    problems: [...problems],
  };
}

/** Answers with one problem, from outside Nest. */
export function sendProblem(
  request: Request,
  response: Response,
  status: number,
  code: string,
  sentence: string,
  path = '',
): void {
  if (status === 503) response.setHeader('Retry-After', '2');
  response
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify(problemDetails(status, [{ code, path, sentence }], request.originalUrl)));
}
