import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defaultHouseRules, termIds } from '../../src/rules';
import { parseBytes, printApart, printBytes } from '../../src/quantity';
import {
  advicesOf,
  aspectsOf,
  beats,
  candidateFor,
  contextFor,
  decide,
  shownPoints,
  smallestChange,
  unbeaten,
  weightLimits,
  whatWouldChange,
  type Candidate,
} from '../../src/decide';
import { isApart } from '../../src/route';
import { contradictionsOf, systemDisk, valueOf, withFacts, type Disk, type Facts } from '../../src/survey';
import {
  anyHouseRules,
  catalogue,
  laptop,
  laptopSurvey,
  laptopWith,
  splitDisk,
  without,
} from '../fixtures/shop';

import { anyDevice, inputOf, nameOf } from '../fixtures/devices';

/** An empty disk that a technician has at hand. */
const spare: Disk = {
  name: 'spare',
  bus: 'sata',
  removable: false,
  rotational: false,
  health: 'good',
  scheme: 'none',
  sectorBytes: 512,
  sectorCount: 500_118_192,
  partitions: [],
};

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
        numRuns: 60,
        examples: [[laptopWith({ firmware: { mode: 'uefi', secureBoot: 'on', tpm: 'present-off' } })]],
      },
    );
    expect(told).toBeGreaterThan(12);
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
  upkeep: oneWeight,
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
        anyHouseRules,
        anyWeights,
        (facts, house, weights) => {
          const houseRules = { ...house, weights };
          const { candidates, advised } = decide(inputOf(facts, houseRules));
          for (const { id, weight, lower, upper } of weightLimits(candidates, houseRules.weights)) {
            const adviceAt = (value: number) =>
              nameOf(
                decide(inputOf(facts, { ...houseRules, weights: { ...houseRules.weights, [id]: value } }))
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
      { numRuns: 150, examples: [[laptop, defaultHouseRules, defaultHouseRules.weights]] },
    );
    expect(limitsSeen).toBeGreaterThan(60);
  });
});

describe('points that are shown', () => {
  it('add up to the sum that is shown, and each is its own to the digit', () => {
    // Three thirds of 100, worked by hand.
    expect(shownPoints([100 / 3, 100 / 3, 100 / 3])).toEqual({ parts: [33.4, 33.3, 33.3], sum: 100 });
    let rounded = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.integer({ min: 0, max: 20_000 }).map((thousandths) => thousandths / 1000),
          { minLength: 1, maxLength: 8 },
        ),
        (points) => {
          const { parts, sum } = shownPoints(points);
          expect(parts.reduce((total, part) => total + Math.round(part * 10), 0)).toBe(Math.round(sum * 10));
          for (const [index, part] of parts.entries())
            expect(Math.abs(part - (points[index] ?? 0))).toBeLessThan(0.1001);
          const naive = points.reduce((total, one) => total + Math.round(one * 10), 0);
          if (naive !== Math.round(sum * 10)) rounded += 1;
        },
      ),
      { numRuns: 500 },
    );
    expect(rounded).toBeGreaterThan(50);
  });
});

describe('comparing', () => {
  it('marks the ones that no other beats on every count; every other is beaten by a marked one', () => {
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const { candidates } = decide(inputOf(facts));
        const marked = unbeaten(candidates);
        const allowed = candidates.filter((one) => one.status === 'allowed' && !isApart(one));
        for (const one of allowed)
          expect(marked.includes(one)).toBe(!allowed.some((other) => beats(other.values, one.values)));
        for (const one of allowed.filter((candidate) => !marked.includes(candidate)))
          expect(marked.some((other) => beats(other.values, one.values))).toBe(true);
        expect(marked.length > 0).toBe(allowed.length > 0);
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

  const unlicensed = laptopWith({
    firmware: { mode: 'uefi', secureBoot: 'on', tpm: '2.0' },
    system: { ...laptopSurvey.system, activation: 'none' },
  });
  /** Devices with licences, with a second disk or without data apart, and with facts that are not known. */
  const anyStand = fc
    .record({
      facts: fc.oneof({ weight: 3, arbitrary: anyDevice }, { weight: 1, arbitrary: fc.constant(unlicensed) }),
      held: fc.option(fc.subarray(catalogue.releases.map(({ id }) => id)), { nil: undefined }),
      second: fc.option(fc.integer({ min: 8, max: 600 }), { nil: undefined }),
      dataApart: fc.boolean(),
      unlisted: fc.boolean(),
      unmarked: fc.boolean(),
    })
    .map(({ facts, held, second, dataApart, unlisted, unmarked }) => {
      const disks = valueOf(facts, 'disks');
      const next = disks && [
        ...disks.map((disk) => ({
          ...disk,
          partitions: disk.partitions
            .filter(({ role }) => dataApart || role !== 'data')
            .map(({ role, ...partition }) =>
              role === undefined || (unmarked && role === 'system') ? partition : { ...partition, role },
            ),
        })),
        ...(second === undefined ? [] : [{ ...spare, sectorCount: second * 2_000_000 }]),
      ];
      let stand = held ? withFacts(facts, { licencesHeld: held }) : facts;
      if (next) stand = withFacts(stand, { disks: next });
      return unlisted ? without(stand, 'applications') : stand;
    });

  /** Read only to see whether facts contradict each other: where they do not, no advice hangs on them. */
  const onlyContradicted = ['batteryPercent', 'charger'] as const;

  it('asks about every fact that any rule reads', () => {
    let asked = 0;
    fc.assert(
      fc.property(anyStand, anyStand, (facts, other) => {
        const read = new Set<string>();
        const watched = new Proxy(facts, {
          get: (target, key) => {
            if (typeof key === 'string') read.add(key);
            return Reflect.get(target, key) as unknown;
          },
        });
        decide(inputOf(watched));
        const keys = new Set<string>(aspectsOf(inputOf(facts)).map(({ key }) => key));
        // Another maker or model is another device.
        for (const key of ['maker', 'model', ...onlyContradicted]) read.delete(key);
        for (const key of onlyContradicted) {
          const changed = { ...facts, [key]: other[key] };
          if (contradictionsOf(facts, catalogue).length + contradictionsOf(changed, catalogue).length > 0)
            continue;
          expect(nameOf(decide(inputOf(changed)).advised)).toBe(nameOf(decide(inputOf(facts)).advised));
        }
        asked += read.size;
        expect([...read].filter((key) => !keys.has(key))).toEqual([]);
      }),
      { numRuns: 40 },
    );
    expect(asked).toBeGreaterThan(400);
  });

  it('misses no single fact that turns the advice: changed by hand, it is among those told', () => {
    const turned: Record<string, number> = {};
    let tried = 0;
    fc.assert(
      fc.property(anyStand, anyStand, (facts, other) => {
        const input = inputOf(facts);
        const advised = nameOf(decide(input).advised);
        // Changes made here, sharing nothing with the classes that are tried.
        const changes: [aspectId: string, facts: Facts][] = [];
        for (const key of [
          'tpm',
          'secureBoot',
          'activation',
          'wordBits',
          'graphicsTier',
          'memoryBytes',
        ] as const) {
          const value = other[key];
          if (value !== undefined) changes.push([key, { ...facts, [key]: value }]);
        }
        const toggled = (list: readonly string[], id: string) =>
          list.includes(id) ? list.filter((one) => one !== id) : [...list, id];
        const held = valueOf(facts, 'licencesHeld') ?? [];
        for (const { id, activation } of catalogue.releases)
          if (!activation.includes('none'))
            changes.push([`licence ${id}`, withFacts(facts, { licencesHeld: toggled(held, id) })]);
        const used = valueOf(facts, 'applications') ?? [];
        for (const { id } of catalogue.applications)
          changes.push([`application ${id}`, withFacts(facts, { applications: toggled(used, id) })]);
        const disks = valueOf(facts, 'disks');
        if (disks && disks.length === 1)
          changes.push([
            'disk second',
            withFacts(facts, { disks: [...disks, { ...spare, sectorCount: 1_000_000_000 }] }),
          ]);
        if (disks && disks.length === 2)
          changes.push(['disk second', withFacts(facts, { disks: disks.slice(0, 1) })]);
        const told = whatWouldChange(input, decide(input)).facts;
        for (const [aspectId, changed] of changes) {
          tried += 1;
          const now = nameOf(decide(inputOf(changed)).advised);
          if (now === advised) continue;
          // Where the system's disk is not known, a second one is no question yet.
          if (aspectId === 'disk second' && !systemDisk(disks)) continue;
          turned[aspectId.split(' ')[0] ?? ''] = (turned[aspectId.split(' ')[0] ?? ''] ?? 0) + 1;
          const one = told.find((fact) => fact.aspectId === aspectId);
          expect([aspectId, now, one?.turns.some((turn) => nameOf(turn.advised) === now)]).toEqual([
            aspectId,
            now,
            true,
          ]);
        }
      }),
      { numRuns: 40 },
    );
    expect(tried).toBeGreaterThan(400);
    expect(Object.values(turned).reduce((sum, count) => sum + count, 0)).toBeGreaterThan(20);
    expect(turned['licence'] ?? 0).toBeGreaterThan(0);
  });

  it('prints no limit that reads like the value on its other side', () => {
    let told = 0;
    fc.assert(
      fc.property(
        fc.integer({ min: 2_000_000_000, max: 9_000_000_000 }),
        fc.integer({ min: -40_000_000, max: 40_000_000 }),
        (limit, off) => {
          const value = limit + off;
          if (off === 0) return;
          const shownLimit = printApart(limit, [value], 'binary');
          const shownValue = printApart(value, [limit], 'binary');
          expect(shownLimit).not.toBe(shownValue);
          const bytesOf = (text: string) => {
            const read = parseBytes(text.replace(' bytes', ' B'), 'binary', 'point');
            return read.ok ? read.value : Number.NaN;
          };
          // Who reads the two sees the one below the other as it is.
          expect(Math.sign(bytesOf(shownLimit) - bytesOf(shownValue))).toBe(Math.sign(limit - value));
          if (printBytes(limit, 'binary') === printBytes(value, 'binary')) told += 1;
        },
      ),
      { numRuns: 500 },
    );
    expect(told).toBeGreaterThan(100);
  });

  it('is told for devices of which disks, applications or licences are not known', () => {
    const blind = inputOf(without(without(laptop, 'disks'), 'applications'));
    const told = whatWouldChange(blind, decide(blind));
    const disk = told.facts.find(({ aspectId }) => aspectId === 'disk unknown');
    expect(disk?.isKnown).toBe(false);
    expect(aspectsOf(blind).some(({ id, isKnown }) => id.startsWith('application ') && !isKnown)).toBe(true);
    expect(told.unknowns.find(({ key }) => key === 'disks')?.otherAdvices).toBeGreaterThan(0);
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
      { numRuns: 12 },
    );
  });
});
