import type { RequestHandler } from 'express';
import { problemDetails } from './problem';

const reading = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Keeps other sites from writing with a signed-in person's cookie, beside the cookie's own
 * `SameSite=Strict`: a change must come from this origin, and as JSON
 * (or JSON Lines).
 */
export const sameOrigin: RequestHandler = (request, response, next) => {
  if (reading.has(request.method)) return next();
  const { origin, host } = request.headers;
  const site = request.headers['sec-fetch-site'];
  const foreign =
    (origin !== undefined && hostOf(origin) !== host) ||
    (typeof site === 'string' && site !== 'same-origin' && site !== 'none');
  // Neither kind can be sent by a form of another site.
  const type = request.headers['content-type'] ?? '';
  const json = type.startsWith('application/json') || type.startsWith('application/x-ndjson');
  const bodiless =
    request.headers['content-length'] === undefined || request.headers['content-length'] === '0';
  if (!foreign && (json || (request.method === 'DELETE' && bodiless))) return next();
  const problem = foreign
    ? { code: 'other-origin', path: '', sentence: 'The request came from another site and was refused.' }
    : { code: 'not-json', path: '', sentence: 'Changes are sent as application/json.' };
  response
    .status(foreign ? 403 : 415)
    .type('application/problem+json')
    .send(JSON.stringify(problemDetails(foreign ? 403 : 415, [problem], request.originalUrl)));
};

function hostOf(origin: string): string | undefined {
  return URL.canParse(origin) ? new URL(origin).host : undefined;
}
