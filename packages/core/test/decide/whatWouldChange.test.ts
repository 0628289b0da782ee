import { describe, expect, it } from 'vitest';
import { decide, whatWouldChange, advicesOf, aspectsOf } from '../../src/decide';
import { factKeys, factsOfSomeWays, type Facts } from '../../src/survey';
import { inputOf, nameOf } from '../fixtures/devices';
import { laptop, without } from '../fixtures/shop';

const changesOf = (facts: Facts) => {
  const input = inputOf(facts);
  const choice = decide(input);
  return { input, choice, found: whatWouldChange(input, choice) };
};

describe('what would change the advice', () => {
  it('tells unknown facts before known ones', () => {
    let mixed = 0;
    for (const key of ['cpuFlags', 'tpm', 'applications', 'networkAdapters', 'licencesHeld'] as const) {
      const { found } = changesOf(without(laptop, key));
      const known = found.facts.map(({ isKnown }) => isKnown);
      if (known.includes(true) && known.includes(false)) mixed += 1;
      expect(known).toEqual(known.toSorted((a, b) => Number(a) - Number(b)));
    }
    expect(mixed).toBeGreaterThan(0);
  });

  it('ranks every unknown fact that is counted, and no other, by the advices that could come of it', () => {
    let waiting = 0;
    for (const facts of [
      without(laptop, 'memoryBytes'),
      without(without(laptop, 'firmwareMode'), 'disks'),
      without(without(laptop, 'presentRelease'), 'memoryBytes'),
    ]) {
      const { input, choice, found } = changesOf(facts);
      expect(found.unknowns.map(({ key }) => key).toSorted()).toEqual(
        factKeys.filter((key) => facts[key] === undefined && !factsOfSomeWays.includes(key)).toSorted(),
      );
      for (const unknown of found.unknowns) {
        const others = new Set(
          aspectsOf(input)
            .filter(({ key }) => key === unknown.key)
            .flatMap((aspect) => advicesOf(input, aspect))
            .map(({ advised }) => nameOf(advised))
            .filter((name) => name !== nameOf(choice.advised)),
        );
        expect([unknown.key, unknown.otherAdvices]).toEqual([unknown.key, others.size]);
        // Only what is undecided waits; what one unknown requirement keeps waiting waits for its facts.
        const undecided = choice.candidates.filter(({ status }) => status === 'undecided').length;
        expect(unknown.waiting).toBeLessThanOrEqual(undecided);
        waiting += unknown.waiting;
      }
      const ranks = found.unknowns.map(({ otherAdvices, waiting: waits }) => otherAdvices * 1000 + waits);
      expect(ranks).toEqual(ranks.toSorted((a, b) => b - a));
    }
    expect(waiting).toBeGreaterThan(10);
  });

  it('lets nothing wait for a fact that no undecided option reads', () => {
    const { choice, found } = changesOf(without(laptop, 'memoryBytes'));
    const reads = (key: string) =>
      choice.candidates.some(
        ({ status, reasons }) =>
          status === 'undecided' &&
          reasons.some(({ finding, facts }) => finding === 'unknown' && facts.some((one) => one === key)),
      );
    const memory = found.unknowns.find(({ key }) => key === 'memoryBytes');
    expect([reads('memoryBytes'), (memory?.waiting ?? 0) > 0]).toEqual([true, true]);
    for (const { key, waiting } of found.unknowns) if (!reads(key)) expect([key, waiting]).toEqual([key, 0]);
  });
});
