import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rankFixes, worstVerdict, type Verdict } from '../../src/assess';
import { releaseTitle, supportDaysLeft } from '../../src/catalogue';
import { decide } from '../../src/decide';
import { valueOf, withFacts, type Facts } from '../../src/survey';
import { anyDevice, inputOf } from '../fixtures/devices';
import { catalogue, laptop, today, without } from '../fixtures/shop';

describe('fixes', () => {
  it('are ranked by what they unlock: worked by hand', () => {
    const judged = (releaseId: string, ...ids: string[]) => ({
      releaseId,
      verdict: 'fixable' as const,
      fixMinutes: 0,
      fixCost: 0,
      judgements: ids.map((id) => ({
        rule: 'tpm' as const,
        verdict: 'fixable' as const,
        facts: [],
        sentence: '',
        fix: { id, action: id, handsOnMinutes: 5, cost: 0 },
      })),
    });
    // “chip” alone unlocks two releases, “memory” one, and both are needed for a fourth.
    const ranked = rankFixes([
      judged('a', 'memory'),
      judged('b', 'chip'),
      judged('c', 'chip'),
      judged('d', 'chip', 'memory'),
    ]);
    expect(ranked.map(({ id, unlocks, helps }) => [id, unlocks.length, helps.length])).toEqual([
      ['chip', 2, 1],
      ['memory', 1, 1],
    ]);
  });
});

describe('verdicts', () => {
  const order: readonly Verdict[] = ['meets', 'fixable', 'waivable', 'fails'];
  const better: readonly (readonly [string, (facts: Facts) => Facts])[] = [
    [
      'memory',
      (facts) => withFacts(facts, { memoryBytes: (valueOf(facts, 'memoryBytes') ?? 0) + 4 * 1024 ** 3 }),
    ],
    ['cores', (facts) => withFacts(facts, { cores: (valueOf(facts, 'cores') ?? 0) + 2 })],
    ['clock', (facts) => withFacts(facts, { clockMhz: (valueOf(facts, 'clockMhz') ?? 0) + 1000 })],
    ['flags', (facts) => withFacts(facts, { cpuFlags: ['sse2', 'sse4_2', 'popcnt', 'avx2'] })],
    ['graphics', (facts) => withFacts(facts, { graphicsTier: 4 })],
    ['screen', (facts) => withFacts(facts, { screenWidth: 2560, screenHeight: 1600 })],
    ['chip', (facts) => withFacts(facts, { tpm: '2.0' })],
    [
      'Secure Boot',
      (facts) =>
        valueOf(facts, 'firmwareMode') === 'legacy' ? facts : withFacts(facts, { secureBoot: 'on' }),
    ],
    ['firmware mode', (facts) => withFacts(facts, { firmwareMode: 'uefi' })],
    ['word size', (facts) => withFacts(facts, { wordBits: 64 })],
  ];

  it('never get worse when any one fact gets better', () => {
    fc.assert(
      fc.property(anyDevice, fc.constantFrom(...better), (facts, [, improve]) => {
        const before = decide(inputOf(facts)).assessments;
        const after = decide(inputOf(improve(facts))).assessments;
        for (const [index, { judgements, releaseId }] of before.entries())
          for (const [at, { verdict, rule }] of judgements.entries()) {
            const now = after[index]?.judgements[at]?.verdict ?? 'fails';
            if (verdict === 'unknown' || now === 'unknown') continue;
            expect([releaseId, rule, order.indexOf(now) <= order.indexOf(verdict)]).toEqual([
              releaseId,
              rule,
              true,
            ]);
          }
      }),
      { numRuns: 150 },
    );
  });

  it('are never decided by an unknown: no candidate is allowed or excluded by forgetting', () => {
    fc.assert(
      fc.property(
        anyDevice,
        fc.constantFrom('tpm' as const, 'memoryBytes' as const, 'activation' as const, 'disks' as const),
        (facts, key) => {
          const forgotten = without(facts, key);
          for (const candidate of decide(inputOf(forgotten)).candidates)
            for (const reason of candidate.reasons)
              if (reason.finding === 'excludes' && reason.facts.length === 1)
                expect(reason.facts[0]).not.toBe(key);
          for (const { judgements } of decide(inputOf(forgotten)).assessments)
            for (const { facts: read, verdict } of judgements)
              if (read[0] === key) expect(verdict).toBe('unknown');
        },
      ),
      { numRuns: 60 },
    );
  });

  it('of a release are as bad as their worst', () => {
    fc.assert(
      fc.property(anyDevice, (facts) => {
        for (const { verdict, judgements } of decide(inputOf(facts)).assessments)
          expect(verdict).toBe(worstVerdict(judgements));
      }),
      { numRuns: 30 },
    );
  });

  it('lead to no candidate for a release without support, but to hold and replace', () => {
    for (const { releaseId, status, routeId } of decide(inputOf(laptop)).candidates) {
      const release = catalogue.releases.find(({ id }) => id === releaseId);
      if (release && supportDaysLeft(release, today) < 0)
        expect([routeId, releaseTitle(release), status]).toEqual([
          routeId,
          releaseTitle(release),
          'excluded',
        ]);
    }
  });
});
