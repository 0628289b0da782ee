import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  advicesOf,
  aspectsOf,
  beats,
  candidateFor,
  contextFor,
  decide,
  defaultPractice,
  smallestChange,
  termIds,
  unbeaten,
  valueOf,
  weightLimits,
  whatWouldChange,
  withFacts,
  type Candidate,
  type Facts,
} from '../src';
import { anyPractice, laptop, laptopSurvey, laptopWith, splitDisk, without } from './shop';

import { anyDevice, inputOf, nameOf } from './devices';

describe('the smallest change', () => {
  it('reads like an order: chip and space', () => {
    // 128.8 GB, of which 109 are used: 19.8 free, 28 needed: 8.2 more. Chip and Secure Boot are off.
    const facts = laptopWith({
      disks: [
        {
          ...splitDisk,
          partitions: splitDisk.partitions.map((partition) =>
            partition.role === 'system' ? { ...partition, usedBytes: 109_000_000_000 } : partition,
          ),
        },
      ],
      firmware: { mode: 'uefi', secureBoot: 'on', tpm: 'present-off' },
    });
    const change = smallestChange(inputOf(facts), {
      routeId: 'in-place-upgrade',
      releaseId: 'corvel-10-business',
    });
    expect(change?.sentence).toBe('Turn the security chip (TPM) on and free 8.2 GB on the system partition.');
    expect(change?.cost).toBe(0);
  });

  it('is told for a licence, a failing disk, an application and a jump', () => {
    const told = (facts: Facts, routeId: Candidate['routeId'], releaseId: string) =>
      smallestChange(inputOf(facts), { routeId, releaseId })
        ?.remedies.map(({ id }) => id)
        .sort();
    const system = (change: object) =>
      laptopWith({
        firmware: { mode: 'uefi', secureBoot: 'on', tpm: '2.0' },
        system: { ...laptopSurvey.system, ...change },
      });
    expect(told(system({ activation: 'none' }), 'clean-whole-disk', 'corvel-10-business')).toEqual([
      'licence-corvel-10-business',
    ]);
    expect(told(system({ applications: ['ledgerstone'] }), 'alternative-system', 'saltbush-full')).toEqual([
      'without-ledgerstone',
    ]);
    expect(
      told(
        laptopWith({
          firmware: { mode: 'uefi', secureBoot: 'on', tpm: '2.0' },
          disks: [{ ...splitDisk, health: 'failing' }],
        }),
        'in-place-upgrade',
        'corvel-10-business',
      ),
    ).toEqual(['new-disk']);
    expect(told(laptop, 'beside-second-disk', 'saltbush-full')).toEqual(['swap-in-spare-disk']);
  });

  it('is not told where nothing that can be changed would do', () => {
    const old = laptopWith({ processor: { ...laptopSurvey.processor, flags: [] } });
    expect(
      smallestChange(inputOf(old), { routeId: 'in-place-upgrade', releaseId: 'corvel-10-business' }),
    ).toBe(undefined);
  });

  it('when applied, allows the route; and no part of it can be left out', () => {
    let told = 0;
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const input = inputOf(facts);
        for (const candidate of decide(input)
          .candidates.filter(({ status }) => status === 'excluded')
          .slice(0, 30)) {
          const change = smallestChange(input, candidate);
          if (!change) continue;
          told += 1;
          const apply = (remedies: typeof change.remedies) =>
            candidateFor(
              { ...input, facts: remedies.reduce((so, { gives }) => withFacts(so, gives(so)), facts) },
              candidate,
            )?.status;
          expect(apply(change.remedies)).toBe('allowed');
          for (const left of change.remedies) {
            const rest = change.remedies.filter((remedy) => remedy !== left);
            const without = {
              ...input,
              facts: rest.reduce((so, { gives }) => withFacts(so, gives(so)), facts),
            };
            const context = contextFor(without, candidate);
            const open = context?.target?.assessment.judgements.some(({ fix }) => fix) ?? false;
            expect(open || candidateFor(without, candidate)?.status !== 'allowed').toBe(true);
          }
        }
      }),
      // A full disk and a chip that is off: one device at least for which a change is told.
      {
        numRuns: 15,
        examples: [[laptopWith({ firmware: { mode: 'uefi', secureBoot: 'on', tpm: 'present-off' } })]],
      },
    );
    expect(told).toBeGreaterThan(0);
  });
});

/** Whole and half numbers, as leads type them. */
const oneWeight = fc.integer({ min: 0, max: 20 }).map((halves) => halves / 2);
const anyWeights = fc.record({
  dataRisk: oneWeight,
  handsOn: oneWeight,
  elapsed: oneWeight,
  ownerEffort: oneWeight,
  money: oneWeight,
  support: oneWeight,
  reversible: oneWeight,
  house: oneWeight,
});

describe('weights', () => {
  it('turn the advice where a hand-worked pair turns', () => {
    const { candidates } = decide(inputOf(laptop));
    const [one, other] = candidates;
    if (!one || !other) throw new Error('two are needed');
    const zero = Object.fromEntries(termIds.map((id) => [id, 0])) as Candidate['values'];
    // a: 1 on data risk; b: 1 on money. Data risk weighs 4: they are equal when money weighs 4.
    const pair = [
      { ...one, status: 'allowed' as const, values: { ...zero, dataRisk: 1 }, points: 80 },
      { ...other, status: 'allowed' as const, values: { ...zero, money: 1 }, points: 20 },
    ];
    const weights = { ...zero, dataRisk: 4, money: 1 };
    const limits = weightLimits(pair, weights);
    expect(limits.find(({ id }) => id === 'money')).toMatchObject({ lower: null, upper: 4 });
    expect(limits.find(({ id }) => id === 'dataRisk')).toMatchObject({ lower: 1, upper: null });
  });

  it('just inside a stated limit keep the advice, and just outside change it', () => {
    let limitsSeen = 0;
    fc.assert(
      fc.property(
        fc.oneof(fc.constant(laptop), anyDevice),
        anyPractice,
        anyWeights,
        (facts, house, weights) => {
          const practice = { ...house, weights };
          const { candidates, advised } = decide(inputOf(facts, practice));
          for (const { id, weight, lower, upper } of weightLimits(candidates, practice.weights)) {
            const adviceAt = (value: number) =>
              nameOf(
                decide(inputOf(facts, { ...practice, weights: { ...practice.weights, [id]: value } }))
                  .advised,
              );
            const inside = (limit: number) => limit + (weight - limit) * 1e-6;
            const outside = (limit: number) => limit - (weight - limit) * 1e-6;
            for (const limit of [lower, upper]) {
              if (limit === null || limit === weight) continue;
              limitsSeen += 1;
              expect(adviceAt(inside(limit))).toBe(nameOf(advised));
              if (outside(limit) >= 0 && outside(limit) <= 10)
                expect(adviceAt(outside(limit))).not.toBe(nameOf(advised));
            }
            if (lower === null) expect(adviceAt(0)).toBe(nameOf(advised));
            if (upper === null) expect(adviceAt(10)).toBe(nameOf(advised));
          }
        },
      ),
      { numRuns: 30, examples: [[laptop, defaultPractice, defaultPractice.weights]] },
    );
    expect(limitsSeen).toBeGreaterThan(0);
  });
});

describe('comparing', () => {
  it('marks the ones that no other beats on every count; every other is beaten by a marked one', () => {
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const { candidates } = decide(inputOf(facts));
        const marked = unbeaten(candidates);
        const allowed = candidates.filter(({ status }) => status === 'allowed');
        for (const one of allowed)
          expect(marked.includes(one)).toBe(!allowed.some((other) => beats(other.values, one.values)));
        for (const one of allowed.filter((candidate) => !marked.includes(candidate)))
          expect(marked.some((other) => beats(other.values, one.values))).toBe(true);
        expect(marked.length).toBeGreaterThan(0);
      }),
      { numRuns: 60 },
    );
  });
});

describe('what would change the advice', () => {
  it('names the chip whose absence would, on the bench laptop', () => {
    const input = inputOf(laptop);
    const told = whatWouldChange(input, decide(input)).facts.find(({ key }) => key === 'tpm');
    expect(told?.isKnown).toBe(true);
    expect(told?.turns.some(({ when }) => when.includes('none'))).toBe(true);
  });

  it('puts the unknown that matters most first, with the way to find it out', () => {
    const input = inputOf(without(without(laptop, 'tpm'), 'batteryPercent'));
    const [first, ...rest] = whatWouldChange(input, decide(input)).unknowns;
    expect(first?.key).toBe('tpm');
    expect(first?.howToFind.length).toBeGreaterThan(10);
    expect(rest.find(({ key }) => key === 'batteryPercent')).toMatchObject({ otherAdvices: 0, waiting: 0 });
  });

  it('is exact: the advice for any value is the advice of its class', () => {
    const values = fc.record({
      memoryBytes: fc.integer({ min: 1, max: 20 * 1024 ** 3 }),
      cores: fc.integer({ min: 1, max: 16 }),
      clockMhz: fc.integer({ min: 1, max: 5000 }),
      screenWidth: fc.integer({ min: 1, max: 4000 }),
      usedBytes: fc.integer({ min: 0, max: 122_880 * 1024 ** 2 }),
    });
    fc.assert(
      fc.property(anyDevice, values, (facts, value) => {
        const input = inputOf(facts);
        const disks = valueOf(facts, 'disks');
        const numbers = [
          ['memoryBytes', value.memoryBytes, { memoryBytes: value.memoryBytes }],
          ['cores', value.cores, { cores: value.cores }],
          ['clockMhz', value.clockMhz, { clockMhz: value.clockMhz }],
          ['screenWidth', value.screenWidth, { screenWidth: value.screenWidth }],
          ...(disks
            ? [
                [
                  'disk used',
                  value.usedBytes,
                  {
                    disks: disks.map((disk) => ({
                      ...disk,
                      partitions: disk.partitions.map((partition) =>
                        partition.role === 'system'
                          ? { ...partition, usedBytes: value.usedBytes }
                          : partition,
                      ),
                    })),
                  },
                ] as const,
              ]
            : []),
        ] as const;
        for (const aspect of aspectsOf(input)) {
          const tried = numbers.find(([id]) => id === aspect.id);
          if (!tried) continue;
          const at = aspect.classes.findLastIndex(({ from }) => (from ?? 0) <= tried[1]);
          expect(nameOf(decide(inputOf(withFacts(facts, tried[2]))).advised)).toBe(
            nameOf(advicesOf(input, aspect)[at]?.advised ?? { routeId: 'hold', releaseId: 'none' }),
          );
        }
      }),
      { numRuns: 20 },
    );
  });
});
