import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { api, openApiDocument, pathOf, type Endpoint } from '../src';

const entries: readonly (readonly [string, Endpoint])[] = Object.entries(api);

describe('the contract', () => {
  it('has no two entries at one place', () => {
    const places = entries.map(([, { method, path }]) => `${method} ${path}`);
    expect(new Set(places).size).toBe(places.length);
  });

  it('lets observers only read', () => {
    for (const [id, { method, access }] of entries)
      if (access !== 'anyone' && access.includes('observer'))
        expect([id, method === 'GET' || id === 'signOut']).toEqual([id, true]);
  });

  it('asks for the version that was seen in every change of a move', () => {
    for (const [id, { method, path, body, query }] of entries) {
      if (method === 'GET' || !path.startsWith('/moves/:reference/')) continue;
      // Secrets lie beside the move and change nothing in it.
      if (path.startsWith('/moves/:reference/secrets')) continue;
      // What comes as a stream says the version in its address.
      const asks = [body, query].some((part) => part instanceof z.ZodObject && 'version' in part.shape);
      expect([id, asks]).toEqual([id, true]);
    }
  });

  it('fills paths, and refuses a missing parameter', () => {
    expect(
      pathOf('/moves/:reference/steps/:stepId/sign', { reference: 'MV-0042', stepId: 'copy:b-07' }),
    ).toBe('/moves/MV-0042/steps/copy%3Ab-07/sign');
    expect(() => pathOf('/moves/:reference', {})).toThrow('reference');
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
