import type { RequestHandler } from 'express';
import { sendProblem } from './problem';

/** The names by which this very machine is reached. */
const ownNames = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Refuses a request for another host: a page elsewhere whose name was made to point here (DNS
 * rebinding) would otherwise be taken for this origin.
 * @param hosts names, without ports, by which Ulvane is reached
 */
export function forOwnHosts(hosts: readonly string[]): RequestHandler {
  const known = new Set([...ownNames, ...hosts].map((host) => host.toLowerCase()));
  return (request, response, next) => {
    const name = (request.headers.host ?? '').toLowerCase().replace(/:\d+$/, '');
    if (known.has(name)) return next();
    sendProblem(
      request,
      response,
      'other-host',
      'Ulvane is not reached by this name: set ULVANE_HOSTS to the names by which it is, or use one of those.',
    );
  };
}

/** Refuses an address that is not well-formed, before anything reads it. */
export const wellFormedAddress: RequestHandler = (request, response, next) => {
  let path: string;
  try {
    path = decodeURIComponent(request.path);
  } catch {
    return sendProblem(request, response, 'malformed-address', 'The address is not well-formed.');
  }
  if (path.includes('\0'))
    return sendProblem(request, response, 'unwritable-text', 'The address holds the character NUL.', '/path');
  next();
};
