import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  beats,
  candidateFor,
  contextFor,
  decide,
  smallestChange,
  unbeaten,
  type Candidate,
} from '../../src/decide';
import { isApart } from '../../src/route';
import { byAdvice } from '../../src/decide/candidates';
import { withAssumed } from '../../src/decide/assumed';
import { deviceGiven } from '../../src/decide/input';
import { dataApart } from '../../src/route/rules/disks';
import { defaultHouseRules, termIds } from '../../src/rules';
import type { Facts } from '../../src/survey';
import { anyDevice, inputOf } from '../fixtures/devices';
import { documents, driveB7, laptop, laptopSurvey, laptopWith, now, splitDisk } from '../fixtures/shop';

type Values = Parameters<typeof beats>[0];
const values = (given: Partial<Record<(typeof termIds)[number], number>> = {}): Values => {
  const [first] = decide(inputOf(laptop)).candidates;
  if (!first) throw new Error('no candidate');
  return { ...first.values, ...Object.fromEntries(termIds.map((id) => [id, given[id] ?? 0.5])) };
};

describe('one candidate beats another', () => {
  it('when it is as good on every count and better on one, whatever the house likes', () => {
    expect(beats(values({ money: 0.6 }), values())).toBe(true);
    expect(beats(values(), values())).toBe(false);
    expect(beats(values({ money: 0.6, support: 0.4 }), values())).toBe(false);
    expect(beats(values({ money: 0.4 }), values())).toBe(false);
    expect(beats(values({ house: 1 }), values({ house: 0 }))).toBe(false);
    expect(beats(values({ money: 0.6, house: 0 }), values({ house: 1 }))).toBe(true);
  });

  it('and is beaten by none that is left: asymmetric, and no cycle of them', () => {
    let beaten = 0;
    let left = 0;
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const allowed = decide(inputOf(facts)).candidates.filter(
          (one) => one.status === 'allowed' && !isApart(one),
        );
        const kept = unbeaten(allowed);
        left += kept.length;
        for (const one of allowed)
          for (const other of allowed)
            if (beats(one.values, other.values)) {
              beaten += 1;
              expect(beats(other.values, one.values)).toBe(false);
              expect(kept).not.toContain(other);
            }
        // What is left out is beaten by something that is left.
        for (const one of allowed)
          if (!kept.includes(one)) expect(kept.some((other) => beats(other.values, one.values))).toBe(true);
      }),
      { numRuns: 80, seed: 5 },
    );
    expect(beaten).toBeGreaterThan(50);
    expect(left).toBeGreaterThan(40);
  });
});

describe('the order of advice', () => {
  const of = (given: Partial<Candidate>) =>
    ({
      status: 'allowed',
      routeId: 'clean-whole-disk',
      points: 50,
      title: 'B',
      leads: false,
      ...given,
    }) as const;
  const sign = (a: Partial<Candidate>, b: Partial<Candidate>) => [
    Math.sign(byAdvice(of(a), of(b))),
    Math.sign(byAdvice(of(b), of(a))),
  ];

  it('is what is allowed, then what does not stand apart, then points, then title', () => {
    expect(sign({ points: 1 }, { status: 'undecided', points: 99 })).toEqual([-1, 1]);
    expect(sign({ status: 'undecided', points: 1 }, { status: 'excluded', points: 99 })).toEqual([-1, 1]);
    expect(sign({ points: 1 }, { routeId: 'hold', points: 99 })).toEqual([-1, 1]);
    expect(sign({ routeId: 'stay', leads: true }, { points: 99 })).toEqual([-1, 1]);
    expect(sign({ points: 51, title: 'Z' }, { points: 50, title: 'A' })).toEqual([-1, 1]);
    expect(sign({ title: 'A' }, { title: 'B' })).toEqual([-1, 1]);
    expect(Math.abs(byAdvice(of({}), of({})))).toBe(0);
  });
});

describe('an option before anything is listed', () => {
  const disk = (usedGb: readonly (number | undefined)[]) =>
    laptopWith({
      disks: [
        {
          ...splitDisk,
          partitions: splitDisk.partitions
            .filter(({ role }) => role === 'system' || role === 'data')
            .map(({ usedBytes: _measured, ...partition }, index) => {
              const used = usedGb[index];
              return used === undefined ? partition : { ...partition, usedBytes: used * 1e9 };
            }),
        },
      ],
    });
  const assumed = (facts: Facts, copiesBeforeLine: 1 | 2 = 2) => {
    const device = withAssumed(deviceGiven(inputOf(facts, { ...defaultHouseRules, copiesBeforeLine })));
    return {
      bytes: device.dataSets.map(({ place, sizeBytes }) => [place, sizeBytes / 1e9]),
      drives: device.destinations.map(({ takes }) => takes.length),
    };
  };

  it('counts with the bytes of the survey, in steps of 25 GB, and with as many drives as the house asks for', () => {
    // 40 and 60 GB: 50 on the system's partition, 100 in all.
    expect(assumed(disk([40, 60]))).toEqual({
      bytes: [
        ['system-partition', 50],
        ['data-partition', 50],
      ],
      drives: [2, 2],
    });
    expect(assumed(disk([40, undefined]), 1)).toEqual({ bytes: [['system-partition', 50]], drives: [1] });
    // Nothing measured: a common disk, a third used.
    expect(assumed(disk([undefined, undefined])).bytes).toEqual([['system-partition', 80]]);
    expect(assumed({}).bytes).toEqual([['system-partition', 80]]);
  });

  it('leaves what is listed as it is, and assumes nothing where there is nothing to save', () => {
    const given = deviceGiven(inputOf(laptop));
    const listed = { ...given, dataSets: [documents], destinations: [driveB7] };
    expect(withAssumed(listed)).toMatchObject({ dataSets: [documents], destinations: [driveB7] });
    expect(withAssumed({ ...given, dataSets: [documents] }).destinations.map(({ takes }) => takes)).toEqual([
      ['documents'],
      ['documents'],
    ]);
    // A drive that is chosen takes what is not listed yet.
    const drive = withAssumed({ ...given, destinations: [{ ...driveB7, takes: [] }] });
    expect(drive.destinations).toEqual([{ ...driveB7, takes: drive.dataSets.map(({ id }) => id) }]);
    expect(drive.dataSets.length).toBeGreaterThan(0);
    const nothingToSave = { statement: 'New.', at: now, by: 'Ines' };
    const bare = { ...given, preparation: { ...given.preparation, nothingToSave } };
    expect(withAssumed(bare)).toBe(bare);
  });

  it('waits longer by what has to be copied, verified and brought back', () => {
    const waits = (facts: Facts) =>
      candidateFor(inputOf(facts), { routeId: 'clean-whole-disk', releaseId: 'corvel-10-business' })
        ?.waitingMinutes ?? 0;
    // 50 GB more, at 110 MB/s to a spinning drive, and 25,000 files more, each 9 ms: 11.3 minutes; copied and verified on two, and back once.
    const once = 50e9 / 110e6 / 60 + (25_000 * 9) / 60_000;
    expect(Math.abs(waits(disk([40, 60])) - waits(disk([20, 20])) - 5 * once)).toBeLessThanOrEqual(5);
  });
});

describe('the smallest change', () => {
  it('costs and takes what its parts do, and names them in one sentence', () => {
    const parts = new Map<number, number>();
    fc.assert(
      fc.property(anyDevice, (facts) => {
        const input = inputOf(facts);
        for (const candidate of decide(input)
          .candidates.filter(({ status }) => status === 'excluded')
          .slice(0, 60)) {
          const change = smallestChange(input, candidate);
          if (!change || change.remedies.length === 0) continue;
          const { remedies } = change;
          parts.set(remedies.length, (parts.get(remedies.length) ?? 0) + 1);
          let minutes = 0;
          let cost = 0;
          for (const remedy of remedies) {
            minutes += remedy.handsOnMinutes;
            cost += remedy.cost;
          }
          expect([change.handsOnMinutes, change.cost]).toEqual([minutes, cost]);
          const [first = '', ...others] = remedies.map(({ action }) => action);
          const lower = others.map((action) => action.slice(0, 1).toLowerCase() + action.slice(1));
          const said =
            lower.length === 0
              ? `${first}.`
              : lower.length === 1
                ? `${first} and ${lower[0] ?? ''}.`
                : `${[first, ...lower.slice(0, -1)].join(', ')} and ${lower.at(-1) ?? ''}.`;
          expect(change.sentence).toBe(said);
        }
      }),
      {
        numRuns: 30,
        seed: 3,
        // A full disk, a chip that is off and no licence: three things at once.
        examples: [
          [
            laptopWith({
              firmware: { mode: 'uefi', secureBoot: 'on', tpm: 'present-off' },
              system: { ...laptopSurvey.system, activation: 'none' },
            }),
          ],
        ],
      },
    );
    expect(parts.get(1) ?? 0).toBeGreaterThan(10);
    expect(parts.get(2) ?? 0).toBeGreaterThan(10);
    expect(parts.get(3) ?? 0).toBeGreaterThan(0);
  });
});

describe('a data partition apart from the system', () => {
  it('is named by its number; without a role nobody knows, without one it is excluded', () => {
    const judged = (partitions: typeof splitDisk.partitions) => {
      const context = contextFor(inputOf(laptopWith({ disks: [{ ...splitDisk, partitions }] })), {
        routeId: 'clean-system-partition',
        releaseId: 'corvel-10-business',
      });
      if (!context) throw new Error('no context');
      return dataApart.judge(context);
    };
    expect(judged(splitDisk.partitions)).toMatchObject({
      finding: 'allows',
      sentence: 'Partition 4 holds data and stays.',
    });
    const none = splitDisk.partitions.filter(({ role }) => role !== 'data');
    expect(judged(none).finding).toBe('excludes');
    expect(judged(none.map(({ role: _role, ...one }) => one)).finding).toBe('unknown');
    expect(judged([]).finding).toBe('unknown');
  });
});
