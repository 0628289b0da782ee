import { defaultHouseRules, houseRuleKeys, HouseRulesSchema, houseRuleTexts } from '@ulvane/core/rules';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inBatches } from '../src/fleet/inBatches';
import { answerOf } from '../src/house/answers';

const running = () => new AbortController().signal;

describe('a long run in batches', () => {
  it('sends every item once, in order, and no batch larger than asked', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.integer()), fc.integer({ min: 1, max: 7 }), async (items, size) => {
        const batches: (readonly number[])[] = [];
        const results = await inBatches(
          items,
          size,
          (batch) => {
            batches.push(batch);
            return Promise.resolve(batch.map((item) => item * 2));
          },
          () => undefined,
          running(),
        );
        expect(batches.flat()).toEqual(items);
        for (const batch of batches) expect(batch.length).toBeLessThanOrEqual(size);
        expect(results).toEqual(items.map((item) => item * 2));
      }),
    );
  });

  it('tells how far it is, and ends at the whole', async () => {
    const told: number[] = [];
    await inBatches(
      [1, 2, 3, 4, 5],
      2,
      (batch) => Promise.resolve(batch),
      (done) => told.push(done),
      running(),
    );
    expect(told).toEqual([2, 4, 5]);
  });

  it('stops between two batches, and keeps what was done', async () => {
    const controller = new AbortController();
    const results = await inBatches(
      [1, 2, 3, 4, 5, 6],
      2,
      (batch) => Promise.resolve(batch),
      (done) => {
        if (done === 4) controller.abort();
      },
      controller.signal,
    );
    expect(results).toEqual([1, 2, 3, 4]);
  });

  it('hands a refusal on', async () => {
    const refused = inBatches(
      [1],
      1,
      () => Promise.reject(new Error('no')),
      () => undefined,
      running(),
    );
    await expect(refused).rejects.toThrow('no');
  });
});

describe('a written answer of house rules', () => {
  it('is the value that core takes, for every side of every question', () => {
    for (const setting of houseRuleKeys)
      for (const { value } of houseRuleTexts[setting].sides)
        expect(HouseRulesSchema.safeParse({ ...defaultHouseRules, [setting]: answerOf(value) }).success).toBe(
          true,
        );
  });
});
