import { afterEach, describe, expect, it, vi } from 'vitest';
import { api } from '@ulvane/contract';
import { call, isProblem } from '../src/api/call';

const problem = (code: string) => ({
  type: `urn:ulvane:problem:${code}`,
  title: 'Not ready',
  status: 503,
  detail: 'Not now.',
  instance: '/api/v1/session',
  problems: [{ code, path: '', sentence: 'Not now.' }],
});

/** Answers in turn; how often it was asked. */
function server(...answers: readonly (readonly [number, unknown])[]) {
  let asked = 0;
  vi.stubGlobal('fetch', () => {
    const [status, body] = answers[Math.min(asked, answers.length - 1)] ?? [500, {}];
    asked += 1;
    return Promise.resolve(
      new Response(JSON.stringify(body), { status, headers: status === 503 ? { 'retry-after': '0' } : {} }),
    );
  });
  return () => asked;
}

describe('a call', () => {
  afterEach(() => void vi.unstubAllGlobals());

  it('comes again once by itself when the server was too busy to do anything', async () => {
    const asked = server([503, problem('busy')], [200, { version: 'x' }]);
    const outcome = await call(api.health).catch((error: unknown) => error);
    expect(asked()).toBe(2);
    expect(isProblem(outcome)).toBe(false);
  });

  it('is refused when the server stays busy', async () => {
    const asked = server([503, problem('busy')]);
    const outcome = await call(api.health).catch((error: unknown) => error);
    expect([asked(), isProblem(outcome)]).toEqual([2, true]);
  });

  it('never comes again by itself when it may have been done', async () => {
    for (const code of ['outcome-unknown', 'database-down', 'version']) {
      const asked = server([503, problem(code)], [200, {}]);
      const outcome = await call(api.health).catch((error: unknown) => error);
      expect([code, asked(), isProblem(outcome)]).toEqual([code, 1, true]);
    }
  });
});
