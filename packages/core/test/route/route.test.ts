import { describe, expect, it } from 'vitest';
import { defaultHouseRules, stepKinds, termIds } from '../../src/rules';
import { decide, pointsOf, scoreTerms, type Candidate } from '../../src/decide';
import { routeIds, routes, type RouteId } from '../../src/route';
import type { Facts, Survey } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import {
  catalogue,
  laptop,
  laptopSurvey,
  laptopWith,
  splitDisk,
  without,
  endedLaptop,
} from '../fixtures/shop';

const choiceFor = (facts: Facts) => decide(inputOf(facts));

function candidate(facts: Facts, routeId: RouteId, releaseId: string | null): Candidate {
  const found = choiceFor(facts).candidates.find(
    (entry) => entry.routeId === routeId && entry.releaseId === releaseId,
  );
  if (!found) throw new Error(`no candidate ${routeId} ${releaseId ?? ''}`);
  return found;
}

/** The rules that stand against a candidate. */
function against(facts: Facts, routeId: RouteId, releaseId: string): string[] {
  return candidate(facts, routeId, releaseId)
    .reasons.filter(({ finding }) => finding === 'excludes')
    .map(({ rule }) => rule);
}

const system = (change: Partial<NonNullable<Survey['system']>>) =>
  laptopWith({ system: { ...laptopSurvey.system, ...change } });
const withSystemPartition = (change: { usedBytes?: number; role?: 'system' | 'data' }) =>
  laptopWith({
    disks: [
      {
        ...splitDisk,
        partitions: splitDisk.partitions.map((partition) =>
          partition.number === 3 ? { ...partition, ...change } : partition,
        ),
      },
    ],
  });

describe('in-place upgrade', () => {
  const target = 'corvel-10-business';

  it('is allowed on the bench laptop, and advised', () => {
    expect(candidate(laptop, 'in-place-upgrade', target).status).toBe('allowed');
    expect(choiceFor(laptop).advised).toMatchObject({ routeId: 'in-place-upgrade', releaseId: target });
  });

  it.each([
    [
      'a jump that is not allowed',
      system({ release: 'corvel-7-business' }),
      ['allowed-jump', 'same-word-size'],
    ],
    ['another language', system({ language: 'fo' }), ['same-language']],
    // 120 GiB = 128.8 GB; 128.8 − 110 = 18.8 GB free, 28 GB are needed.
    ['too little free space', withSystemPartition({ usedBytes: 110_000_000_000 }), ['enough-free-space']],
    ['a failing disk', laptopWith({ disks: [{ ...splitDisk, health: 'failing' }] }), ['disk-sound']],
    [
      'a scheme that the release does not start from',
      laptopWith({ disks: [{ ...splitDisk, scheme: 'mbr' }] }),
      ['scheme-suits'],
    ],
    [
      'a requirement that fails',
      laptopWith({ processor: { ...laptopSurvey.processor, flags: [] } }),
      ['requirements-met'],
    ],
    [
      'a requirement only waivable',
      laptopWith({ firmware: { mode: 'uefi', secureBoot: 'on', tpm: '1.2' } }),
      ['requirements-met'],
    ],
    ['a licence of the wrong kind', system({ activation: 'account-bound' }), ['licence-fits']],
    ['no licence', system({ activation: 'none' }), ['licence-fits']],
  ])('is excluded by %s', (_what, facts, rules) => {
    expect(against(facts, 'in-place-upgrade', target)).toEqual(rules);
  });

  it('to another edition is excluded by jump and licence', () => {
    expect(against(laptop, 'in-place-upgrade', 'corvel-10-personal')).toEqual([
      'allowed-jump',
      'licence-fits',
    ]);
  });

  it('waits, and is neither allowed nor excluded, where the health of the disk is unknown', () => {
    const { health: _health, ...disk } = splitDisk;
    expect(candidate(laptopWith({ disks: [disk] }), 'in-place-upgrade', target).status).toBe('undecided');
  });
});

describe('clean install, whole disk', () => {
  it('is allowed, and loses everything on the disk', () => {
    expect(candidate(laptop, 'clean-whole-disk', 'corvel-10-business')).toMatchObject({
      status: 'allowed',
      keeps: [],
      loses: ['everything on that disk'],
    });
  });

  it('is excluded to an older release, and to one without support', () => {
    expect(against(laptop, 'clean-whole-disk', 'corvel-8-business')).toEqual([
      'not-older',
      'still-supported',
    ]);
  });

  it('takes a 32-bit system on a 64-bit processor to 64 bit', () => {
    expect(
      against(
        system({ release: 'corvel-7-business', activation: 'key' }),
        'clean-whole-disk',
        'corvel-10-business',
      ),
    ).toEqual([]);
  });
});

describe('clean install, system partition only', () => {
  it('is allowed where data lies apart', () => {
    expect(candidate(laptop, 'clean-system-partition', 'corvel-10-business').status).toBe('allowed');
  });

  it('is excluded where everything is on the system partition', () => {
    const single = { ...splitDisk, partitions: splitDisk.partitions.filter(({ number }) => number !== 4) };
    expect(against(laptopWith({ disks: [single] }), 'clean-system-partition', 'corvel-10-business')).toEqual([
      'data-apart',
    ]);
  });

  it('waits where it is not known what a partition is for', () => {
    const unmarked = {
      ...splitDisk,
      partitions: splitDisk.partitions.map(({ role: _role, ...partition }) => partition),
    };
    expect(
      candidate(laptopWith({ disks: [unmarked] }), 'clean-system-partition', 'corvel-10-business').status,
    ).toBe('undecided');
  });
});

describe('alternative system', () => {
  it('is allowed where applications have equivalents', () => {
    expect(candidate(laptop, 'alternative-system', 'saltbush-full').status).toBe('allowed');
  });

  it('is excluded by an application that exists for one family only', () => {
    expect(against(system({ applications: ['ledgerstone'] }), 'alternative-system', 'saltbush-full')).toEqual(
      ['applications-have-equivalents'],
    );
  });

  it('waits for an application that nobody has looked up', () => {
    expect(
      candidate(system({ applications: ['Knot Tables'] }), 'alternative-system', 'saltbush-full').status,
    ).toBe('undecided');
  });

  it('is excluded to a system locked to another maker’s computers', () => {
    expect(against(laptop, 'alternative-system', 'aurin-15')).toContain('requirements-met');
  });
});

describe('hold', () => {
  it('is there where no fixes come, and advised only where nothing else is allowed', () => {
    expect(choiceFor({}).advised.routeId).toBe('hold');
    expect(
      choiceFor(endedLaptop)
        .candidates.filter(({ status }) => status === 'allowed')
        .at(-1)?.routeId,
    ).toBe('hold');
  });
});

describe('every choice', () => {
  it('leaves nothing allowed but hold where nothing is known', () => {
    for (const { routeId, status } of choiceFor({}).candidates)
      expect([routeId, status === 'allowed']).toEqual([routeId, routeId === 'hold']);
  });

  it('is not made by an unknown: forgetting a fact never turns excluded into allowed', () => {
    const failing = laptopWith({ disks: [{ ...splitDisk, health: 'failing' }] });
    for (const key of [
      'disks',
      'presentRelease',
      'presentLanguage',
      'activation',
      'memoryBytes',
      'firmwareMode',
      'tpm',
      'secureBoot',
    ] as const) {
      const after = choiceFor(without(failing, key)).candidates;
      for (const before of choiceFor(failing).candidates.filter(({ status }) => status === 'excluded')) {
        // What the device runs is not known then: until it is, it is held off the network.
        if (before.routeId === 'hold') continue;
        const same = after.find(
          ({ routeId, releaseId }) => routeId === before.routeId && releaseId === before.releaseId,
        );
        expect(same?.status === 'allowed').toBe(false);
      }
    }
  });

  it('gives a reason for every rule, with a way to find out for every unknown', () => {
    for (const { reasons, routeId } of choiceFor(without(laptop, 'presentRelease')).candidates) {
      expect(reasons).toHaveLength(routes[routeId].rules.length);
      for (const { finding, howToFind } of reasons) if (finding === 'unknown') expect(howToFind).toBeTruthy();
    }
  });

  it('names an ambiguous model instead of picking one', () => {
    const [model] = catalogue.models;
    if (!model) throw new Error('no model');
    const twice = { ...catalogue, models: [model, { ...model, id: 'twin' }] };
    const facts = laptopWith({ device: { maker: model.maker, model: model.model } });
    expect(decide({ ...inputOf(facts), catalogue: twice }).problems[0]).toContain('twin');
  });
});

describe('points', () => {
  const all = (value: number) => ({
    dataRisk: value,
    handsOn: value,
    elapsed: value,
    ownerEffort: value,
    money: value,
    support: value,
    reversible: value,
    house: value,
    upkeep: value,
  });

  it('run from 0 to 100', () => {
    expect(pointsOf(all(0), defaultHouseRules.weights)).toBe(0);
    expect(pointsOf(all(1), defaultHouseRules.weights)).toBeCloseTo(100, 9);
    expect(pointsOf(all(1), all(0))).toBe(0);
  });

  it('are a weighted mean: worked by hand', () => {
    // Weights 1 and 3, values 1 and 0: 1 ÷ 4 = 25 points.
    const weights = { ...all(0), dataRisk: 1, money: 3 };
    expect(pointsOf({ ...all(0), dataRisk: 1 }, weights)).toBe(25);
  });

  it('are the sum of the terms that are shown', () => {
    for (const { values, points } of choiceFor(laptop).candidates) {
      const terms = scoreTerms(values, defaultHouseRules.weights);
      expect(terms.map(({ id }) => id)).toEqual(termIds);
      expect(terms.reduce((sum, term) => sum + term.points, 0)).toBeCloseTo(points, 9);
    }
  });
});

describe('every route', () => {
  it.each(routeIds)('%s has its steps in the order in which they are done', (id) => {
    const positions = routes[id].steps.map((kind) => stepKinds.indexOf(kind));
    expect(positions).toEqual([...positions].sort((a, b) => a - b));
  });
});
