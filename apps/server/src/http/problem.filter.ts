import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { statusOf, type Problem, type ProblemCode } from '@ulvane/core/outcome';
import type { Request, Response } from 'express';
import { faultOf, type Fault } from '../database/faults';
import { ProblemError, problemDetails } from './problem';

type Read = { readonly status: number; readonly problems: readonly Problem[]; readonly logged?: true };

function one(code: ProblemCode, sentence: string): Read {
  return { status: statusOf(code), problems: [{ code, path: '', sentence }] };
}

const nothingSaved = (request: Request) => (request.method === 'GET' ? '' : ' Nothing was saved.');

/** Names that are taken, by the index that says so. */
const taken: Readonly<Record<string, string>> = {
  account_name_key: 'There is an account of that name already: choose another name.',
  drive_name_key: 'There is a drive of that name already: labels are identified by their names.',
  drive_serial: 'There is a drive with that serial already: is it the same drive?',
  move_reference_key: 'There is a move with that reference already.',
  move_pkey: 'This move is here already.',
};

function readFault(fault: Fault, request: Request): Read {
  switch (fault.kind) {
    case 'down':
      return one(
        'database-down',
        `The database does not answer at the moment.${nothingSaved(request)} Try again in a moment.`,
      );
    case 'outcome-unknown':
      return one(
        'outcome-unknown',
        'The connection to the database broke while this was being saved. It may have been saved or not: reload, look, and do it again only if it was not.',
      );
    case 'busy':
      return one(
        'busy',
        `Too much is asked at once just now.${nothingSaved(request)} Wait a second or two and do it again.`,
      );
    case 'full':
      return one(
        'disk-full',
        'The database’s disk is full. Nothing was saved: free room on it, then do it again.',
      );
    case 'taken':
      return one('taken', taken[fault.constraint] ?? 'Somebody else was first: look, then do it again.');
    case 'not-storable':
      return one(
        'not-storable',
        'A value is too large or too long to be stored, or is no text. Nothing was saved.',
      );
    case 'no-right':
      return {
        ...one(
          'no-right',
          'The database does not let Ulvane do that: its role lacks a right. Start Ulvane again; if it stays so, see README, “A database of your own”.',
        ),
        logged: true,
      };
  }
}

/** What express and its body parser throw: an error with a status, of a kind that is named. */
function readParser(error: Error, status: number, request: Request): Read {
  const kind = 'type' in error ? String(error.type) : '';
  if (status === 413) {
    const limit = 'limit' in error ? Number(error.limit) : 0;
    return one(
      'too-large',
      `The request is larger than is read here${limit > 0 ? ` (${Math.round(limit / 1024)} KiB)` : ''}. Nothing was changed.`,
    );
  }
  if (kind === 'encoding.unsupported')
    return one('encoding', 'This content encoding is not read: send the body as it is, or with gzip.');
  if (kind === 'charset.unsupported') return one('charset', 'JSON is sent in UTF-8.');
  if (error instanceof URIError)
    return one('malformed-address', `The address ${request.method} is not well-formed.`);
  return one('not-json', 'The body is not well-formed JSON, or did not arrive whole.');
}

/** Answers every refusal and fault as RFC 9457 problem details; faults are logged, not shown. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const http = host.switchToHttp();
    const request = http.getRequest<Request>();
    const response = http.getResponse<Response>();
    const { status, problems, logged } = this.read(error, request);
    if (logged) this.log.error(stackOf(error));
    if (response.headersSent) {
      // A file broke off in the middle: the connection's end says so.
      response.destroy();
      return;
    }
    if (status === 503) response.setHeader('Retry-After', '2');
    if (status === 429) response.setHeader('Retry-After', '60');
    response
      .status(status)
      .type('application/problem+json')
      .send(JSON.stringify(problemDetails(status, problems, request.originalUrl)));
  }

  private read(error: unknown, request: Request): Read {
    if (error instanceof ProblemError) return { status: error.status, problems: error.problems };
    const fault = faultOf(error) ?? faultOf(driverErrorOf(error));
    if (fault) return readFault(fault, request);
    if (error instanceof HttpException) {
      const status = error.getStatus();
      if (status === 404)
        return one('no-such-place', `There is nothing at ${request.method} ${request.path}.`);
      if (status === 400) return one('malformed', 'The request is not well-formed.');
      return { ...one('refused', error.message), status };
    }
    if (error instanceof URIError) return readParser(error, 400, request);
    if (
      error instanceof Error &&
      'status' in error &&
      Number(error.status) >= 400 &&
      Number(error.status) < 500
    )
      return readParser(error, Number(error.status), request);
    return {
      ...one(
        'fault',
        `Ulvane could not do that; the server’s log says why.${request.method === 'GET' ? '' : ' Whether it was saved is not known: reload, and check.'}`,
      ),
      logged: true,
    };
  }
}

function driverErrorOf(error: unknown): unknown {
  return error instanceof Error && 'driverError' in error ? error.driverError : undefined;
}

const stackLines = 12;

/** What the log keeps of an error: never a query's parameters, never pages of a driver. */
function stackOf(error: unknown): string {
  if (!(error instanceof Error)) return String(error).slice(0, 500);
  return (error.stack ?? error.message).split('\n').slice(0, stackLines).join('\n').slice(0, 4000);
}
