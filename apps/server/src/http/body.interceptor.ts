import { isUtf8 } from 'node:buffer';
import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { bodyLimitOf } from '@ulvane/contract';
import { json, type Request, type RequestHandler, type Response } from 'express';
import { from, mergeMap, type Observable } from 'rxjs';
import { refuse } from './problem';
import { entryOf } from './serves';
import { refuseUnwritable } from './text';

/** Nothing that Ulvane reads is nested deeper, or has more values: parsing it would hold up everybody else. */
const deepest = 64;
const maxValues = 250_000;
/** A body of JSON is short: longer than this nobody needs for it. */
const patienceMs = 120_000;

const openBracket = 0x5b;
const openBrace = 0x7b;
const closeBracket = 0x5d;
const closeBrace = 0x7d;
const comma = 0x2c;
const quote = 0x22;
const backslash = 0x5c;

/** How deep a JSON text is nested, and about how many values it has, without parsing it. */
export function measureJson(text: Uint8Array): { readonly depth: number; readonly values: number } {
  let depth = 0;
  let max = 0;
  let values = 1;
  let inString = false;
  for (let at = 0; at < text.length; at += 1) {
    const byte = text[at] ?? 0;
    if (inString) {
      if (byte === backslash) at += 1;
      else if (byte === quote) inString = false;
    } else if (byte === quote) inString = true;
    else if (byte === openBracket || byte === openBrace) {
      depth += 1;
      if (depth > max) max = depth;
    } else if (byte === closeBracket || byte === closeBrace) depth -= 1;
    else if (byte === comma) values += 1;
  }
  return { depth: max, values };
}

/** Only escapes can bring what is no text into JSON in valid UTF-8. */
const suspicious = /\\u(0000|[dD][89a-fA-F])/;
const toBeLookedAt = new WeakSet<object>();

const parsers = new Map<number, RequestHandler>();

function parserFor(limit: number): RequestHandler {
  const known = parsers.get(limit);
  if (known) return known;
  const parser = json({
    limit,
    verify: (request, _response, body, charset) => {
      if (charset !== 'utf-8')
        throw refuse('charset', `JSON is sent in UTF-8 (RFC 8259, 8.1); this is ${charset}.`);
      if (!isUtf8(body)) throw refuse('not-utf8', 'The body is not UTF-8.');
      const { depth, values } = measureJson(body);
      if (depth > deepest) throw refuse('too-deep', `The body is nested more than ${deepest} levels deep.`);
      if (values > maxValues)
        throw refuse(
          'too-many-values',
          `The body has more than ${maxValues.toLocaleString('en')} values: send it in parts.`,
        );
      if (suspicious.test(body.toString('latin1'))) toBeLookedAt.add(request);
    },
  });
  parsers.set(limit, parser);
  return parser;
}

/**
 * Reads a request's JSON once the guard has let it in, with the limit of its entry: who may not ask
 * at all does not make the server parse anything.
 */
@Injectable()
export class BodyInterceptor implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const entry = entryOf(context);
    const http = context.switchToHttp();
    const request = http.getRequest<Request>();
    if (!entry || entry.method === 'GET' || entry.consumes !== undefined) return next.handle();
    return from(read(request, http.getResponse<Response>(), bodyLimitOf(entry))).pipe(
      mergeMap(() => next.handle()),
    );
  }
}

async function read(request: Request, response: Response, limit: number): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      timer = setTimeout(
        () => reject(refuse('body-late', 'The body did not arrive in time. Nothing was changed.')),
        patienceMs,
      );
      parserFor(limit)(request, response, (error: unknown) => (error ? reject(error) : resolve()));
    });
  } finally {
    clearTimeout(timer);
  }
  if (toBeLookedAt.has(request)) refuseUnwritable(request.body);
}
