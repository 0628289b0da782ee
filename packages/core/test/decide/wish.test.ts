import { describe, expect, it } from 'vitest';
import { decide, decisionInput, presentBecomes, contextFor, type Choice } from '../../src/decide';
import { routeIds, type Purpose, type RouteId } from '../../src/route';
import { defaultHouseRules } from '../../src/rules';
import { withFacts, type Facts } from '../../src/survey';
import { catalogue, endedLaptop, laptop, releaseOf, today, without } from '../fixtures/shop';

const input = (facts: Facts, purpose?: Purpose, on: string = today) =>
  decisionInput({
    facts,
    catalogue,
    houseRules: defaultHouseRules,
    today: on,
    wish: purpose ? { purpose, until: purpose === 'trial' ? '2026-06-01' : null } : null,
  });
const choice = (facts: Facts, purpose?: Purpose, on?: string) => decide(input(facts, purpose, on));
const of = ({ candidates }: Choice, routeId: RouteId, releaseId: string | null = null) => {
  const found = candidates.find((one) => one.routeId === routeId && one.releaseId === releaseId);
  if (!found) throw new Error(`no ${routeId} to ${releaseId ?? 'nothing'}`);
  return found;
};
const notExcluded = ({ candidates }: Choice) => [
  ...new Set(candidates.filter(({ status }) => status !== 'excluded').map(({ routeId }) => routeId)),
];

describe('to stay', () => {
  // Corvel 9 Business gets its last fixes 388 days after the first start: 2026-03-02 + 388 days.
  const lastDay = '2027-03-25';

  it('is the advice where the present system gets fixes and nothing else is wanted, until that day', () => {
    const { advised, candidates } = choice(laptop);
    expect(advised).toMatchObject({ routeId: 'stay', supportedUntil: lastDay, leads: true });
    expect(advised.reasons[0]?.sentence).toContain(`nothing has to be done until ${lastDay}`);
    expect(candidates[0]).toBe(advised);
    expect(choice(laptop, undefined, lastDay).advised.routeId).toBe('stay');
    expect(choice(laptop, undefined, '2027-03-26').advised.routeId).not.toBe('stay');
  });

  it('stands beside the ranking once something is wanted, and is excluded where no fixes come', () => {
    const wanted = choice(laptop, 'support-ends');
    expect(wanted.advised.routeId).toBe('in-place-upgrade');
    expect(of(wanted, 'stay')).toMatchObject({ status: 'allowed', leads: false });
    expect(wanted.candidates.findIndex(({ routeId }) => routeId === 'stay')).toBe(
      wanted.candidates.filter(({ status }) => status === 'allowed').length - 1,
    );
    expect(of(choice(endedLaptop), 'stay').status).toBe('excluded');
    expect(of(choice(without(laptop, 'presentRelease')), 'stay').status).toBe('undecided');
  });

  it('takes the place of a hold: what gets fixes is not taken off the network', () => {
    expect(of(choice(laptop), 'hold').status).toBe('excluded');
    expect(of(choice(endedLaptop), 'hold').status).toBe('allowed');
  });

  it('leaves a dated exception to the last release that a locked device takes', () => {
    const last = catalogue.models.find(({ lastRelease }) => lastRelease === 'aurin-13');
    const locked = withFacts(laptop, {
      maker: last?.maker ?? '',
      model: last?.model ?? '',
      year: last?.fromYear ?? 0,
      presentRelease: 'aurin-13',
    });
    expect(of(choice(locked), 'hold').reasons[0]?.sentence).toContain(
      'an exception with a last day, signed by a lead',
    );
  });
});

describe('a supported system', () => {
  it('is wiped for itself only where somebody wants just that', () => {
    const itself = (purpose?: Purpose) =>
      of(choice(laptop, purpose), 'clean-whole-disk', 'corvel-9-business').reasons.find(
        ({ rule }) => rule === 'not-for-itself',
      )?.finding;
    expect(itself()).toBe('excludes');
    expect(itself('support-ends')).toBe('excludes');
    expect(itself('start-clean')).toBe('allows');
    expect(itself('changes-owner')).toBe('allows');
    expect(
      of(choice(endedLaptop, 'support-ends'), 'clean-whole-disk', 'corvel-8-business').reasons.find(
        ({ rule }) => rule === 'not-for-itself',
      )?.finding,
    ).toBe('allows');
  });
});

describe('why the move is made', () => {
  const apart = ['stay', 'hold'];
  const ways = (purpose: Purpose) =>
    notExcluded(choice(laptop, purpose)).filter((routeId) => !apart.includes(routeId));

  it('leaves the ways that serve it, and excludes the others with that as the reason', () => {
    expect(ways('another-beside')).toEqual(['beside-same-disk']);
    expect(ways('trial')).toEqual(['beside-same-disk']);
    expect(ways('another-instead')).toEqual(['alternative-system']);
    expect(ways('changes-owner').toSorted()).toEqual(['alternative-system', 'clean-whole-disk']);
    expect(ways('start-clean').toSorted()).toEqual([
      'alternative-system',
      'clean-system-partition',
      'clean-whole-disk',
    ]);
    expect(ways('support-ends').length).toBeGreaterThan(3);
    const upgrade = of(choice(laptop, 'changes-owner'), 'in-place-upgrade', 'corvel-10-business');
    expect(upgrade.reasons[0]).toMatchObject({
      rule: 'serves-the-wish',
      finding: 'excludes',
      sentence: 'The computer changes its owner: nothing of the one before may stay on it.',
    });
  });
});

describe('a device with no system on it', () => {
  const [disk] = laptop.disks?.value ?? [];
  if (!disk) throw new Error('the laptop has a disk');
  const { scheme: _scheme, ...unwritten } = disk;
  const empty = withFacts(laptop, {
    presentRelease: 'none',
    disks: [{ ...unwritten, partitions: [] }],
    licencesHeld: ['corvel-10-business'],
  });

  it('can be installed anew, and nothing else', () => {
    const { candidates, advised } = choice(empty);
    expect(notExcluded({ candidates } as Choice)).toEqual(['clean-whole-disk']);
    expect(advised).toMatchObject({
      routeId: 'clean-whole-disk',
      status: 'allowed',
      loses: [],
      cautions: [],
    });
    for (const routeId of ['stay', 'hold', 'replace'] as const)
      expect([routeId, of({ candidates } as Choice, routeId).status]).toEqual([routeId, 'excluded']);
    const never = ['in-place-upgrade', 'beside-same-disk', 'beside-second-disk', 'clean-system-partition'];
    expect(candidates.filter(({ routeId }) => never.includes(routeId))).toEqual([]);
  });

  it('has an advice even where nothing is possible: the nearest, as what it is', () => {
    const { advised } = choice(empty, 'another-beside');
    expect(advised.status).toBe('excluded');
    expect(advised.reasons[0]?.rule).toBe('serves-the-wish');
  });

  it('contradicts a partition that is marked as the system’s', () => {
    expect(choice(withFacts(laptop, { presentRelease: 'none' })).problems.join(' ')).toContain(
      'No system is said to be on the device',
    );
  });
});

describe('what becomes of the present system', () => {
  it('is said for every route', () => {
    const said = (routeId: RouteId, facts: Facts = laptop, purpose?: Purpose) => {
      const context = contextFor(input(facts, purpose), { routeId, releaseId: 'corvel-10-business' });
      return context && presentBecomes(routeId, context);
    };
    for (const routeId of routeIds) expect(said(routeId)).toMatch(/^The present system /);
    expect(said('clean-whole-disk')).toBe('The present system is erased with its disk.');
    expect(said('clean-system-partition')).toBe('The present system is erased with its partition.');
    expect(said('in-place-upgrade')).toBe('The present system becomes the new one.');
    expect(said('stay')).toBe('The present system stays as it is until 2027-03-25.');
    expect(said('beside-same-disk')).toBe('The present system stays, on the network until 2027-03-25.');
    expect(said('beside-same-disk', endedLaptop)).toBe('The present system stays, off the network.');
    expect(said('beside-same-disk', laptop, 'trial')).toContain('On 2026-06-01 the trial ends');
    expect(releaseOf('corvel-9-business').extendedUntil).toBe('2027-03-25');
  });
});
