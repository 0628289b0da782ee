import type { RequestHandler } from 'express';
import { sendProblem } from './problem';

const reading = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Keeps other sites from writing with a signed-in person's cookie, beside the cookie's own
 * `SameSite=Strict`: a change must come from this origin, and as JSON
 * (or JSON Lines). A program with an API token has no cookie that another site could use.
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
  const json = /^application\/(json|x-ndjson)\s*(;|$)/i.test(type);
  const bodiless =
    request.headers['content-length'] === undefined || request.headers['content-length'] === '0';
  if (!foreign && (json || (request.method === 'DELETE' && bodiless))) return next();
  if (foreign)
    sendProblem(request, response, 'other-origin', 'The request came from another site and was refused.');
  else sendProblem(request, response, 'not-json-type', 'Changes are sent as application/json.');
};

function hostOf(origin: string): string | undefined {
  return URL.canParse(origin) ? new URL(origin).host : undefined;
}
