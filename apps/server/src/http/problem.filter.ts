import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Problem } from '@ulvane/core';
import type { Request, Response } from 'express';
import { ProblemError, problemDetails } from './problem';

/** Answers every refusal and fault as RFC 9457 problem details; faults are logged, not shown. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const http = host.switchToHttp();
    const request = http.getRequest<Request>();
    const response = http.getResponse<Response>();
    const { status, problems } = this.read(error, request);
    response
      .status(status)
      .type('application/problem+json')
      .send(JSON.stringify(problemDetails(status, problems, request.originalUrl)));
  }

  private read(
    error: unknown,
    request: Request,
  ): { readonly status: number; readonly problems: readonly Problem[] } {
    if (error instanceof ProblemError) return { status: error.status, problems: error.problems };
    const one = (status: number, code: string, sentence: string) => ({
      status,
      problems: [{ code, path: '', sentence }],
    });
    if (error instanceof HttpException) {
      const status = error.getStatus();
      if (status === 404)
        return one(404, 'no-such-place', `There is nothing at ${request.method} ${request.path}.`);
      if (status === 429) return one(429, 'too-many-tries', 'Too many tries: wait a minute and try again.');
      if (status === 400) return one(400, 'not-json', 'The body is not well-formed JSON.');
      return one(status, 'refused', error.message);
    }
    // The body parser's own refusal of a large body is no HttpException.
    if (error instanceof Error && 'status' in error && error.status === 413)
      return one(413, 'too-large', 'The request is larger than Ulvane takes (16 MiB).');
    this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return one(500, 'fault', 'Ulvane could not do that; nothing was changed. The server’s log says why.');
  }
}
