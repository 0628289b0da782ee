import type { ProblemDetails } from '@ulvane/contract';
import { statusOf, titleOf, typeOf, type Problem, type ProblemCode } from '@ulvane/core/outcome';
import type { Request, Response } from 'express';

/** A refusal with its status; the filter turns it into problem details. */
export class ProblemError extends Error {
  constructor(
    readonly problems: readonly Problem[],
    /** Else that of the first problem's code. */
    readonly status: number = statusFor(problems),
  ) {
    super(problems.map(({ sentence }) => sentence).join(' '));
  }
}

export function refuse(code: ProblemCode, sentence: string, path = ''): ProblemError {
  return new ProblemError([{ code, path, sentence }]);
}

/** Somebody else is at it, or too many ask at once: the same again in a moment may well be done. */
export function busy(): ProblemError {
  return refuse(
    'busy',
    'Too much is asked at once just now: nothing was saved. Wait a second or two and do it again.',
  );
}

/** The status for several problems: by the first one's code. */
function statusFor(problems: readonly Problem[]): number {
  return problems[0] ? statusOf(problems[0].code) : 422;
}

export function problemDetails(
  status: number,
  problems: readonly Problem[],
  instance: string,
): ProblemDetails {
  return {
    type: problems[0] ? typeOf(problems[0].code) : 'about:blank',
    title: titleOf(status),
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
  code: ProblemCode,
  sentence: string,
  path = '',
): void {
  const status = statusOf(code);
  if (status === 503) response.setHeader('Retry-After', '2');
  response
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify(problemDetails(status, [{ code, path, sentence }], request.originalUrl)));
}
