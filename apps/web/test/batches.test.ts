import { defaultHouseRules, houseRuleKeys, HouseRulesSchema, houseRuleTexts } from '@ulvane/core/rules';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inBatches } from '../src/fleet/inBatches';
import { answerOf } from '../src/house/answers';

/** As it is watched where nothing is looked at. */
const watched = () => ({
  onProgress: () => undefined,
  onWaiting: () => undefined,
  passesByItself: () => false,
  patience: { tries: 4, restMs: 0 },
  signal: new AbortController().signal,
});

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
          watched(),
        );
        expect(batches.flat()).toEqual(items);
        for (const batch of batches) expect(batch.length).toBeLessThanOrEqual(size);
        expect(results).toEqual(items.map((item) => item * 2));
      }),
    );
  });

  it('tells how far it is, and ends at the whole', async () => {
    const told: number[] = [];
    await inBatches([1, 2, 3, 4, 5], 2, (batch) => Promise.resolve(batch), {
      ...watched(),
      onProgress: (done) => told.push(done),
    });
    expect(told).toEqual([2, 4, 5]);
  });

  it('stops between two batches, and keeps what was done', async () => {
    const controller = new AbortController();
    const results = await inBatches([1, 2, 3, 4, 5, 6], 2, (batch) => Promise.resolve(batch), {
      ...watched(),
      onProgress: (done) => {
        if (done === 4) controller.abort();
      },
      signal: controller.signal,
    });
    expect(results).toEqual([1, 2, 3, 4]);
  });

  it('hands a refusal on', async () => {
    const refused = inBatches([1], 1, () => Promise.reject(new Error('no')), watched());
    await expect(refused).rejects.toThrow('no');
  });

  /** Refuses each batch so many times before it is taken. */
  function refusing(times: number) {
    const asked: number[] = [];
    const refusals = new Map<number, number>();
    return {
      asked,
      send: (batch: readonly number[]) => {
        const first = batch[0] ?? 0;
        asked.push(first);
        const before = refusals.get(first) ?? 0;
        if (before === times) return Promise.resolve(batch);
        refusals.set(first, before + 1);
        return Promise.reject(new Error('busy'));
      },
    };
  }

  it('sends a batch again that is refused for the moment, says so, and loses and doubles nothing', async () => {
    const { asked, send } = refusing(3);
    let waits = 0;
    const results = await inBatches([1, 2, 3], 2, send, {
      ...watched(),
      onWaiting: () => {
        waits += 1;
      },
      passesByItself: () => true,
    });
    expect(results).toEqual([1, 2, 3]);
    expect(asked).toEqual([1, 1, 1, 1, 3, 3, 3, 3]);
    expect(waits).toBe(6);
  });

  it('gives up when its patience ends, and at once when it is stopped', async () => {
    const longer = refusing(4);
    const passing = { ...watched(), passesByItself: () => true };
    await expect(inBatches([1], 1, longer.send, passing)).rejects.toThrow('busy');
    expect(longer.asked).toHaveLength(4);
    const stopped = new AbortController();
    const { asked, send } = refusing(4);
    const run = inBatches([1], 1, send, {
      ...passing,
      onWaiting: () => stopped.abort(),
      signal: stopped.signal,
    });
    await expect(run).rejects.toThrow('busy');
    expect(asked).toHaveLength(1);
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
