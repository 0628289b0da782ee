import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { beside } from './cases/beside';
import { Journey } from './cases/journey';
import { replacing } from './cases/replacing';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
});
afterAll(() => house.close());

describe('a practised case goes from survey to hand-over', () => {
  it.each([...replacing, ...beside].map((one) => [one.name, one] as const))('%s', async (_name, one) => {
    const journey = new Journey(technician, one);
    await journey.decide();
    await journey.prepare();
    const { steps } = await journey.runbook();
    const kinds = steps.map(({ step }) => step.kind);
    // What a practitioner wants is there, in its order, and nothing that does not belong.
    const places = one.inOrder.map((kind) => kinds.indexOf(kind as (typeof kinds)[number]));
    expect(one.inOrder.filter((_kind, index) => places[index] === -1)).toEqual([]);
    expect(places).toEqual(places.toSorted((a, b) => a - b));
    for (const kind of one.without ?? []) expect(kinds).not.toContain(kind);
    for (const [kind, words] of one.says) {
      const said = steps
        .filter(({ step }) => step.kind === kind)
        .map(({ step: { title, why, success, caution } }) => [title, why, success, caution ?? ''].join(' '))
        .join(' ');
      expect([kind, said]).toEqual([
        kind,
        typeof words === 'string' ? expect.stringContaining(words) : expect.stringMatching(words),
      ]);
    }
    const signed = await journey.carryOut();
    expect(signed).toBeGreaterThan(8);
    await journey.handOver();
    expect(journey.move.handover.signedOff).not.toBeNull();
    // Every file of every data set is accounted for.
    for (const { id } of one.sets)
      expect(journey.move.reconciled.find(({ dataSetId }) => dataSetId === id)).toMatchObject({ open: 0 });
  });
});
