import { describe, expect, it } from 'vitest';
import { blockingUnknowns, decide } from '../../src/decide';
import { isApart } from '../../src/route';
import { valueOf, type Facts } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import { laptop, now } from '../fixtures/shop';

const choiceOf = (facts: Facts) => decide(inputOf(facts));

describe('what is unknown and in the way', () => {
  it('names every fact that an option waits for, and none when nothing waits', () => {
    let waiting = 0;
    for (const key of ['memoryBytes', 'firmwareMode', 'disks', 'presentRelease', 'wordBits'] as const) {
      const { [key]: _unknown, ...rest } = laptop;
      const facts: Facts = rest;
      const choice = choiceOf(facts);
      const found = blockingUnknowns(choice, facts);
      for (const candidate of choice.candidates.filter(({ status }) => status === 'undecided')) {
        const asked = candidate.reasons.filter(({ finding }) => finding === 'unknown');
        for (const { facts: read } of asked) {
          expect(read.length).toBeGreaterThan(0);
          const missing = read.filter((one) => facts[one] === undefined);
          for (const one of missing) expect(found.map(({ key: listed }) => listed)).toContain(one);
          if (missing.length === 0) expect(found.some((one) => read.includes(one.key))).toBe(true);
          waiting += 1;
        }
      }
      expect(found.every((one) => one.waiting > 0 && one.howToFind !== '')).toBe(true);
    }
    expect(waiting).toBeGreaterThan(10);
    const known = choiceOf(laptop);
    if (known.candidates.every(({ status }) => status !== 'undecided'))
      expect(blockingUnknowns(known, laptop)).toEqual([]);
  });

  it('asks for used bytes of a partition although the disks are known', () => {
    const disks = (valueOf(laptop, 'disks') ?? []).map((disk) => ({
      ...disk,
      partitions: disk.partitions.map(({ usedBytes: _unread, ...partition }) => partition),
    }));
    const facts: Facts = { ...laptop, disks: { value: disks, source: 'typed', at: now, by: 'Ines' } };
    const found = blockingUnknowns(choiceOf(facts), facts);
    expect(found.map(({ key }) => key)).toContain('disks');
  });
});

describe('a fact that is known in part', () => {
  it('is the disks where a rule reads them beside others, else the first that it reads', () => {
    const choice = choiceOf(laptop);
    const [first] = choice.candidates;
    if (!first) throw new Error('there are candidates');
    const waiting = (facts: readonly (keyof Facts)[]) => ({
      ...choice,
      candidates: [
        {
          ...first,
          status: 'undecided' as const,
          reasons: [{ rule: 'r', facts, finding: 'unknown' as const, sentence: 'Not told.', howToFind: '' }],
        },
      ],
    });
    const keys = (facts: readonly (keyof Facts)[]) =>
      blockingUnknowns(waiting(facts), laptop).map(({ key }) => key);
    expect(keys(['presentRelease', 'disks'])).toEqual(['disks']);
    expect(keys(['presentRelease', 'cores'])).toEqual(['presentRelease']);
    expect(keys([])).toEqual([]);
    const [told] = blockingUnknowns(waiting(['cores']), laptop);
    expect(told?.howToFind).not.toBe('');
  });
});

describe('what is beside the ranking', () => {
  it('is behind whatever is allowed, however many points it has', () => {
    const { candidates, advised } = choiceOf(laptop);
    const allowed = candidates.filter(({ status }) => status === 'allowed');
    expect(allowed.some(isApart)).toBe(true);
    expect(isApart(advised)).toBe(false);
    const first = allowed.findIndex(isApart);
    expect(allowed.slice(first).every(isApart)).toBe(true);
  });
});
