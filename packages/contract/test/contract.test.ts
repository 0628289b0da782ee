import { describe, expect, it } from 'vitest';
import { problemCodes, statusOf, titleOf, typeOf } from '@ulvane/core/outcome';
import { z } from 'zod';
import { api, bodyLimitOf, openApiDocument, pathOf, parameterSchema, tokenNeed, type Endpoint } from '../src';

const entries: readonly (readonly [string, Endpoint])[] = Object.entries(api);

describe('the contract', () => {
  it('has no two entries at one place', () => {
    const places = entries.map(([, { method, path }]) => `${method} ${path}`);
    expect(new Set(places).size).toBe(places.length);
  });

  it('lets observers only read, and look after their own account', () => {
    const own = ['signOut', 'changePassword', 'addApiToken', 'revokeApiToken'];
    for (const [id, { method, access }] of entries)
      if (access !== 'anyone' && access.includes('observer'))
        expect([id, method === 'GET' || own.includes(id)]).toEqual([id, true]);
  });

  it('lets no API token touch accounts, passwords or tokens', () => {
    for (const [id, entry] of entries)
      if (/^\/(accounts|password|tokens|session)/.test(entry.path) && entry.access !== 'anyone')
        expect([id, tokenNeed(entry)]).toEqual([id, 'session']);
    expect(tokenNeed(api.showSecret)).toBe('vault');
    expect(tokenNeed(api.moves)).toBe('read');
    expect(tokenNeed(api.addMove)).toBe('write');
  });

  it('refuses an empty parameter, and asks little of whoever has not signed in', () => {
    for (const [id, entry] of entries) {
      for (const [, name = ''] of entry.path.matchAll(/:([a-zA-Z]+)/g))
        expect([id, name, parameterSchema(entry, name).safeParse('').success]).toEqual([id, name, false]);
      if (entry.access === 'anyone') expect([id, bodyLimitOf(entry) <= 64 * 1024]).toEqual([id, true]);
    }
  });

  it('asks for the version that was seen in every change of a move', () => {
    for (const [id, { method, path, body, query }] of entries) {
      if (method === 'GET' || !path.startsWith('/moves/:reference/')) continue;
      // Secrets lie beside the move and change nothing in it.
      if (path.startsWith('/moves/:reference/secrets')) continue;
      // A record that cannot be read has no version that anybody has seen; one that can be read is refused.
      if (path.startsWith('/moves/:reference/record')) continue;
      // What comes as a stream says the version in its address.
      const asks = [body, query].some((part) => part instanceof z.ZodObject && 'version' in part.shape);
      expect([id, asks]).toEqual([id, true]);
    }
  });

  it('fills paths, and refuses a missing parameter', () => {
    expect(
      pathOf('/moves/:reference/steps/:stepId/sign', { reference: 'MV-0042', stepId: 'copy:b-07' }),
    ).toBe('/moves/MV-0042/steps/copy%3Ab-07/sign');
    // @ts-expect-error: a path without its parameter does not compile
    expect(() => pathOf('/moves/:reference', {})).toThrow('reference');
  });
});

describe('the table of problem codes', () => {
  it('has a title for the status of every code, and one type for each', () => {
    expect(problemCodes.length).toBeGreaterThan(200);
    expect(new Set(problemCodes.map(typeOf)).size).toBe(problemCodes.length);
    for (const code of problemCodes) expect([code, titleOf(statusOf(code))]).not.toEqual([code, 'Refused']);
    // Worked by hand from RFC 9110: who has not signed in, who may not, what is not there, what changed meanwhile.
    expect(
      (['not-signed-in', 'only-leads', 'no-such-move', 'version', 'busy'] as const).map(statusOf),
    ).toEqual([401, 403, 404, 409, 503]);
    expect(titleOf(418)).toBe('Refused');
  });
});

describe('the OpenAPI description', () => {
  const Document = z.object({
    openapi: z.string(),
    paths: z.record(z.string(), z.record(z.string(), z.looseObject({ operationId: z.string() }))),
  });
  const document = Document.parse(openApiDocument());

  it('has every entry once', () => {
    const ids = Object.values(document.paths).flatMap((methods) =>
      Object.values(methods).map(({ operationId }) => operationId),
    );
    expect(ids.sort()).toEqual(entries.map(([id]) => id).sort());
  });

  it('is plain JSON', () => {
    expect(JSON.parse(JSON.stringify(openApiDocument()))).toEqual(openApiDocument());
  });
});
