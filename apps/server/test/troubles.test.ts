import { api, ProblemDetailsSchema, type MoveView } from '@ulvane/contract';
import { detourSteps } from '@ulvane/core/record';
import type { TroubleId } from '@ulvane/core/runbook';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
let observer: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
  observer = await house.signedIn('observer');
});
afterAll(() => house.close());

const reference = 'MV-0041';
const seen = { stepId: 'stick-out', sign: 'loader-prompt' as const, seenAt: '2026-03-02T09:50:00.000Z' };
const codesIn = (body: unknown) => ProblemDetailsSchema.parse(body).problems.map(({ code }) => code);
const view = (): Promise<MoveView> => technician.call(api.move, { params: { reference } });
const counts = async () => (await technician.call(api.house)).troubleCounts['loader-prompt'];

describe('a trouble of the demo', () => {
  it('is ordered by what this house found before', async () => {
    expect(await counts()).toEqual({ 'another-entry-starts': 3, 'loader-looks-elsewhere': 1 });
  });

  it('is answered by those who may write, and never over a colleague’s answer', async () => {
    const { version } = await view();
    const body = { version, ...seen, causeId: 'loader-on-medium', answer: 'no' as const };
    const at = { params: { reference }, body };
    expect((await observer.at(api.answerCause, at)).status).toBe(403);
    expect((await technician.at(api.answerCause, at)).status).toBe(200);
    const late = await technician.at(api.answerCause, {
      params: { reference },
      body: { ...body, causeId: 'another-entry-starts' },
    });
    expect([late.status, codesIn(late.body)]).toEqual([409, ['version']]);
    const nothing = await technician.at(api.answerCause, {
      params: { reference },
      body: { ...body, version: version + 1, causeId: 'the-moon' },
    });
    expect([nothing.status, codesIn(nothing.body)]).toEqual([404, ['no-such-cause']]);
  });

  it('holds the runbook up, and is over with the last stop of its detour, which counts at once', async () => {
    let { version } = await view();
    const sign = (stepId: string) =>
      technician.at(api.signStep, {
        params: { reference, stepId },
        body: { version, actualMinutes: 5, note: '' },
      });
    const early = await sign('stick-out');
    expect([early.status, codesIn(early.body)]).toEqual([422, ['step-locked']]);
    const started = await technician.call(api.startDetour, {
      params: { reference },
      body: { version, ...seen, causeId: 'loader-looks-elsewhere' },
    });
    version = started.version;
    const stops = detourSteps(started.move);
    expect(stops.length).toBeGreaterThan(2);
    const open = await technician.at(api.closeTrouble, {
      params: { reference, number: '1' },
      body: { version, note: 'It passed.' },
    });
    expect([open.status, codesIn(open.body)]).toEqual([409, ['detour-open']]);
    for (const stop of stops) {
      const signed = await sign(stop.id);
      expect([stop.id, signed.status]).toEqual([stop.id, 200]);
      version += 1;
    }
    const { move } = await view();
    expect(move.troubles.at(-1)?.closed).toMatchObject({
      how: 'remedied',
      causeId: 'loader-looks-elsewhere',
    });
    expect(await counts()).toEqual({ 'another-entry-starts': 3, 'loader-looks-elsewhere': 2 });
    expect((await sign('stick-out')).status).toBe(200);
    const log = await technician.call(api.events, { params: { reference } });
    const kinds = log.lines.map(({ kind }) => kind);
    expect(kinds).toContain('cause-checked');
    expect(kinds).toContain('detour-started');
    expect(kinds.filter((kind) => kind === 'step-signed').length).toBeGreaterThan(stops.length);
  });

  it('refuses a sign, a step and a number that are none', async () => {
    const { version } = await view();
    const open = (body: { readonly stepId?: string; readonly sign?: TroubleId; readonly seenAt?: string }) =>
      technician.at(api.openTrouble, { params: { reference }, body: { version, ...seen, ...body } });
    expect((await open({ stepId: 'nowhere' })).status).toBe(422);
    expect((await open({ sign: 'page-does-not-load' })).status).toBe(404);
    expect((await open({ seenAt: 'yesterday' })).status).toBe(422);
    const left = await technician.at(api.leaveDetour, {
      params: { reference, number: 'one' },
      body: { version, reason: 'It did not help.' },
    });
    expect([left.status, codesIn(left.body)]).toEqual([404, ['no-such-trouble']]);
  });
});
