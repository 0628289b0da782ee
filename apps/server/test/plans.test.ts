import { api, ProblemDetailsSchema } from '@ulvane/contract';
import { decide } from '@ulvane/core/decide';
import { decideInput } from '@ulvane/core/record';
import { totalMinutes } from '@ulvane/core/runbook';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let observer: Visitor;
let references: readonly string[];

beforeAll(async () => {
  house = await TestHouse.open('demo');
  observer = await house.signedIn('observer');
  const { rows } = await observer.call(api.moves, { query: '?limit=100' });
  references = rows.map(({ reference }) => reference);
});
afterAll(() => house.close());

describe('the options of a move', () => {
  it('are those that the page works out from the same record', async () => {
    const reference = references[0] ?? '';
    const [{ move }, settings] = [
      await observer.call(api.move, { params: { reference } }),
      await observer.call(api.house, {}),
    ];
    const answer = await observer.call(api.options, { params: { reference } });
    const { now } = await observer.call(api.session, {});
    const { candidates, advised } = decide(decideInput(move, settings, now.slice(0, 10)));
    expect(candidates.length).toBeGreaterThan(20);
    expect(answer.options).toEqual(JSON.parse(JSON.stringify(candidates)));
    expect(answer.advised).toEqual({ routeId: advised.routeId, releaseId: advised.releaseId });
  });
});

describe('the runbook of a move', () => {
  it('has operators, barriers and the machine after each step; its minutes are those of the option', async () => {
    let plans = 0;
    let barred = 0;
    for (const reference of references.slice(0, 40)) {
      const { move } = await observer.call(api.move, { params: { reference } });
      const answer = await observer.at(api.runbook, { params: { reference } });
      if (!move.decision) {
        expect(answer.status).toBe(422);
        expect(ProblemDetailsSchema.parse(answer.body).problems[0]?.code).toBe('no-route');
        continue;
      }
      if (answer.status !== 200) continue;
      const runbook = api.runbook.response.parse(answer.body);
      plans += 1;
      barred += runbook.steps.filter(({ barrier }) => barrier.length > 0).length;
      const { options } = await observer.call(api.options, { params: { reference } });
      const own = options.find(
        ({ routeId, releaseId }) =>
          routeId === move.decision?.routeId && releaseId === move.decision.releaseId,
      );
      const minutes = totalMinutes(runbook.steps.map(({ step }) => step));
      if (own && own.status !== 'excluded' && move.dataSets.length > 0 && move.destinations.length > 0)
        expect([reference, own.handsOnMinutes, own.waitingMinutes]).toEqual([
          reference,
          minutes.handsOn.likely,
          minutes.waiting.likely,
        ]);
      // Handed over, with whatever was erased in its place again.
      const last = runbook.steps.at(-1)?.after;
      expect(last?.notes).toContain(move.decision.routeId === 'hold' ? 'hold-until' : 'handed-over');
      expect(last?.data.filter(({ original, back }) => original === 'gone' && !back)).toEqual([]);
    }
    expect(plans).toBeGreaterThan(10);
    expect(barred).toBeGreaterThan(0);
  });
});

describe('what an owner was shown with earlier devices', () => {
  it('is told beside the next device of the same owner at the same site, and of nobody else', async () => {
    const technician = await house.signedIn('technician');
    const earlier = { reference: 'MV-0001' };
    const next = { reference: 'MV-0022' };
    const { move: done } = await observer.call(api.move, { params: earlier });
    const { move, version } = await observer.call(api.move, { params: next });
    const beside = async () =>
      (await observer.call(api.ownerHabits, { params: next })).earlier.map(({ reference }) => reference);
    expect(await beside()).not.toContain(earlier.reference);
    const { owner, site } = done;
    const named = await technician.call(api.setIdentity, {
      params: next,
      body: { version, owner: ` ${owner.toUpperCase()}`, site, dueOn: move.dueOn },
    });
    expect(await beside()).toContain(earlier.reference);
    expect(await beside()).not.toContain(next.reference);
    await technician.call(api.setIdentity, {
      params: next,
      body: { version: named.version, owner: '', site, dueOn: move.dueOn },
    });
    expect(await beside()).toEqual([]);
  });
});
