import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decide, hasRuleWords, leadsBack, reasonsInOneLine, whyAdvised, whyBehind } from '../../src/decide';
import { isApart, routeIds, routes } from '../../src/route';
import { defaultHouseRules } from '../../src/rules';
import { printMinutes } from '../../src/quantity';
import { withFacts } from '../../src/survey';
import { rankFixes } from '../../src/assess';
import { supportedUntil } from '../../src/catalogue';
import { decideInput, outlookOf } from '../../src/record';
import { anyDevice, inputOf } from '../fixtures/devices';
import { catalogue, emptyMove, endedLaptop, laptop, technician } from '../fixtures/shop';

/** The last days with updates of some releases, and the days after them. */
const days = ['2026-03-02', '2027-03-25', '2027-03-26', '2030-03-27', '2030-03-28'];

describe('why options are not possible, in one line', () => {
  it('has words for every rule of every route', () => {
    const rules = new Set(routeIds.flatMap((id) => routes[id].rules.map((rule) => rule.id)));
    expect(rules.size).toBeGreaterThan(20);
    expect([...rules, 'serves-the-wish'].filter((rule) => !hasRuleWords(rule))).toEqual([]);
  });

  it('counts each option once, by the first thing in its way, the most frequent first', () => {
    const option = (...rules: readonly string[]) => ({
      status: 'excluded' as const,
      reasons: rules.map((rule) => ({ rule, facts: [], finding: 'excludes' as const, sentence: '' })),
    });
    expect(
      reasonsInOneLine([
        option('licence-fits'),
        option('still-supported', 'licence-fits'),
        option('still-supported'),
      ]),
    ).toBe('updates have ended (2), no licence fits (1)');
    expect(reasonsInOneLine([option('disk-sound')])).toBe('the disk is failing');
  });

  it('adds up to the options, on every device', () => {
    let told = 0;
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const others = decide(inputOf(facts)).candidates.filter(({ status }) => status !== 'allowed');
        const counts = [...reasonsInOneLine(others).matchAll(/\((\d+)\)/g)].map(([, n]) => Number(n));
        if (others.length < 2) return;
        told += 1;
        expect(counts.reduce((sum, n) => sum + n, 0)).toBe(others.length);
        expect(counts).toEqual(counts.toSorted((a, b) => b - a));
      }),
      { numRuns: 30, seed: 11 },
    );
    expect(told).toBeGreaterThan(20);
  });

  it('tells releases that are older or have ended from those that are ahead', () => {
    const { candidates } = decide(inputOf(laptop));
    const back = candidates.filter(leadsBack).map(({ releaseId }) => releaseId);
    expect(back).toContain('corvel-8-business');
    expect(back).not.toContain('corvel-10-business');
  });
});

describe('why the advice, and why the others stand behind it', () => {
  it('names what stays, the updates of both systems, and how the hardware fits', () => {
    const input = inputOf(endedLaptop);
    const { advised } = decide(input);
    // Corvel 8 ended 37 days before the first start; the laptop needs two firmware switches.
    expect(whyAdvised(input, advised)).toEqual([
      'Stays: files, settings, applications.',
      'Updates until 2030-03-27; those of Corvel 8 Business ended 37 days ago.',
      'The hardware fits after 2 changes, in 8 min.',
    ]);
    const fitted = inputOf(withFacts(endedLaptop, { secureBoot: 'on', tpm: '2.0' }));
    expect(whyAdvised(fitted, decide(fitted).advised)[2]).toBe('The hardware meets every requirement.');
  });

  it('says of every other option the terms that cost it points, and the weight at which it is first', () => {
    let clauses = 0;
    let first = 0;
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const input = inputOf(facts);
        const choice = decide(input);
        const { advised } = choice;
        if (isApart(advised)) return;
        for (const other of choice.candidates.filter((one) => one.status === 'allowed' && !isApart(one))) {
          if (other === advised) continue;
          const [behind = '', turn] = whyBehind(input, choice, other);
          if (behind.includes('more hands-on')) {
            clauses += 1;
            expect(behind).toContain(printMinutes(other.handsOnMinutes - advised.handsOnMinutes));
            expect(other.handsOnMinutes).toBeGreaterThan(advised.handsOnMinutes);
          }
          if (behind.startsWith('Behind')) expect(other.points).toBeLessThanOrEqual(advised.points + 1e-9);
          const weight = /“(.+)” weighs (below|above) ([\d.]+), now ([\d.]+)/.exec(turn ?? '');
          if (weight) {
            first += 1;
            const [, , side, at, now] = weight;
            expect(
              side === 'below' ? Number(at) <= Number(now) + 0.05 : Number(at) >= Number(now) - 0.05,
            ).toBe(true);
          }
        }
      }),
      { numRuns: 400, seed: 7 },
    );
    expect([clauses > 10, first > 40]).toEqual([true, true]);
  });

  it('gives the reasons of what stands apart as they are', () => {
    const input = { ...inputOf(laptop), wish: null };
    const { advised } = decide(input);
    expect(whyAdvised(input, advised)).toEqual([advised.reasons[0]?.sentence]);
    expect(defaultHouseRules.weights.handsOn).toBeGreaterThan(0);
  });
});

describe('the fix that unlocks most', () => {
  it('is counted over releases that get updates on that day, to the last', () => {
    let differs = 0;
    fc.assert(
      fc.property(anyDevice, fc.constantFrom(...days), (facts, day) => {
        const move = { ...emptyMove, facts };
        const { unlock } = outlookOf(move, technician, day);
        const supported = catalogue.releases.filter((release) => {
          const until = supportedUntil(release);
          return until === null || until >= day;
        });
        const { assessments } = decide(decideInput(move, technician, day));
        const of = (ids: readonly string[]) =>
          rankFixes(assessments.filter(({ releaseId }) => ids.includes(releaseId)))[0]?.action ?? null;
        expect(unlock).toBe(of(supported.map(({ id }) => id)));
        if (unlock !== of(catalogue.releases.map(({ id }) => id))) differs += 1;
      }),
      { numRuns: 400, seed: 3 },
    );
    expect(differs).toBeGreaterThan(5);
  });
});
