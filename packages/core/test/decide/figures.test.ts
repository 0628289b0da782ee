import { describe, expect, it } from 'vitest';
import {
  aspectsOf,
  blockingUnknowns,
  candidateFor,
  contextFor,
  decide,
  planInput,
  smallestChange,
} from '../../src/decide';
import { numberClasses } from '../../src/decide/aspectClasses';
import { planCounter } from '../../src/decide/count';
import { workCanMove } from '../../src/route/rules/applications';
import { networkDriver } from '../../src/route/rules/network';
import { withSystemDisk } from '../../src/route/rules/remedies';
import { type RouteId } from '../../src/route';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { valueOf, withFacts, type Disk, type Facts } from '../../src/survey';
import { inputOf } from '../fixtures/devices';
import { catalogue, laptop, laptopWith, releaseOf, splitDisk, without, endedLaptop } from '../fixtures/shop';

const candidate = (routeId: RouteId, releaseId: string | null, facts: Facts, houseRules?: HouseRules) => {
  const found = candidateFor(inputOf(facts, houseRules), { routeId, releaseId });
  if (!found) throw new Error(`no ${routeId} to ${releaseId ?? ''}`);
  return found;
};
const withDisk = (disk: Disk, ...others: readonly Disk[]) => laptopWith({ disks: [disk, ...others] });

describe('minutes of an option', () => {
  it('grow by the fixes that the device needs: two switches, four minutes each', () => {
    const fixed = withFacts(laptop, { secureBoot: 'on', tpm: '2.0' });
    const [before, after] = [laptop, fixed].map((facts) =>
      candidate('clean-whole-disk', 'corvel-10-business', facts),
    );
    expect((before?.handsOnMinutes ?? 0) - (after?.handsOnMinutes ?? 0)).toBe(8);
  });

  it('wait as long as the installer takes and its image needs, and differ between releases by just that', () => {
    const [ten, nine] = ['corvel-10-business', 'corvel-9-business'].map((id) =>
      candidate('clean-whole-disk', id, endedLaptop),
    );
    const likely = (id: string) => releaseOf(id).installMinutes.likely;
    expect(likely('corvel-10-business')).not.toBe(likely('corvel-9-business'));
    expect((ten?.waitingMinutes ?? 0) - (nine?.waitingMinutes ?? 0)).toBe(
      // Fetched over 50 Mbit/s and written at 25 MB/s: 6 240 MB take 16.6 and 4.2 minutes, 5 120 MB 13.7 and 3.4.
      likely('corvel-10-business') - likely('corvel-9-business') + 21 - 17,
    );
  });

  it('hold a licence’s steps only where the release needs a licence: noting it 4, activating it 3', () => {
    // Without encryption, which the two releases switch on at different moments.
    const houseRules = { ...defaultHouseRules, encryption: 'off' as const };
    const input = inputOf(withFacts(laptop, { presentRelease: 'saltbush-5-full' }), houseRules);
    const hands = (releaseId: string) =>
      planCounter()(
        planInput(input, { routeId: 'alternative-system', releaseId, bringing: 'stick', waivers: [] }),
      ).handsOnMinutes;
    // No tool of its maker’s fetches the other one’s image: 3 minutes.
    expect(hands('corvel-9-business') - hands('harrow-5')).toBe(7 - 3);
  });
});

describe('what the house would do', () => {
  const house = (routeId: RouteId, change: Partial<HouseRules>) =>
    candidate(routeId, 'corvel-10-business', laptop, { ...defaultHouseRules, ...change }).values.house;

  it('is the share of a route’s own answers that the house gives as well', () => {
    // A clean install of the system partition starts clean, and erases that partition.
    expect(house('clean-system-partition', { manner: 'start-clean', erase: 'system-partition' })).toBe(1);
    expect(house('clean-system-partition', { manner: 'start-clean', erase: 'whole-disk' })).toBe(0.5);
    expect(house('clean-system-partition', { manner: 'keep', erase: 'system-partition' })).toBe(0.5);
    expect(house('clean-system-partition', { manner: 'keep', erase: 'whole-disk' })).toBe(0);
    expect(house('in-place-upgrade', { manner: 'keep' })).toBe(1);
    expect(house('in-place-upgrade', { manner: 'start-clean' })).toBe(0);
  });
});

describe('room for a second system', () => {
  const release = releaseOf('saltbush-full');
  // Room for work beside the system: 20 GB. A tenth of what is used stays free in the partition that gives.
  const needed = release.systemBytes + 20_000_000_000;
  const full = { ...splitDisk, sectorCount: 226_200 * 2048 };
  const system = splitDisk.partitions.find(({ role }) => role === 'system');
  const size = (system?.sectorCount ?? 0) * 512;
  /** The most used bytes that leave the room that is needed, with the reserve. */
  const most = Math.floor((size - needed) / 1.1);
  const used = (usedBytes: number) =>
    withDisk({
      ...full,
      partitions: full.partitions.map((one) => (one === system ? { ...one, usedBytes } : one)),
    });
  const finding = (facts: Facts) =>
    candidate('beside-same-disk', 'saltbush-full', facts).reasons.find(({ rule }) => rule === 'room-beside')
      ?.finding;

  it('is there to the byte, and not with one more in use', () => {
    expect(finding(used(most))).toBe('allows');
    expect(finding(used(most + 2))).toBe('excludes');
  });

  it('is made by freeing what is too much, and that is enough', () => {
    const facts = used(most + 9_000_000_000);
    const change = smallestChange(inputOf(facts), {
      routeId: 'beside-same-disk',
      releaseId: 'saltbush-full',
    });
    expect(change?.remedies.map(({ id }) => id)).toContain('free-space');
    const freed = change?.remedies.find(({ id }) => id === 'free-space');
    expect(freed?.action).toBe('Free 9.0 GB on the system partition');
    expect(freed && finding(withFacts(facts, freed.gives(facts)))).toBe('allows');
  });
});

describe('the outlook', () => {
  it('counts releases that still get fixes, and no others', () => {
    // Only Corvel 8 and 7 take so little memory: their support is over.
    const old = withFacts(laptop, { memoryBytes: 1.2 * 1024 ** 3, wordBits: 32 });
    const { outlook } = decide(inputOf(old));
    const ended = catalogue.releases.filter(
      ({ id }) => id.startsWith('corvel-8') || id.startsWith('corvel-7'),
    );
    expect(ended.length).toBeGreaterThan(2);
    expect(outlook.family).not.toBe('meets');
    // With the same device and a catalogue in which they are supported for ever they count.
    const alive = {
      ...catalogue,
      releases: catalogue.releases.map((one) => ({ ...one, fixesUntil: null, extendedUntil: null })),
    };
    const now = decide({ ...inputOf(without(old, 'presentRelease')), catalogue: alive }).outlook;
    const then = decide(inputOf(without(old, 'presentRelease'))).outlook;
    expect(then.any).not.toBe(now.any);
  });
});

describe('applications that move along', () => {
  it('are those of the same family, whatever they are', () => {
    const facts = withFacts(laptop, { applications: ['an application that nobody knows'] });
    const reason = (releaseId: string) =>
      candidate('beside-same-disk', releaseId, facts).reasons.find(({ rule }) => rule === 'work-can-move');
    expect(reason('corvel-10-business')).toMatchObject({
      finding: 'allows',
      sentence: 'The same family: its applications run there too.',
    });
    expect(reason('saltbush-full')?.finding).toBe('unknown');
  });

  it('are asked for one by one: the one in use is the present class', () => {
    const [known] = catalogue.applications;
    if (!known) throw new Error('no application');
    for (const name of [known.id, known.name]) {
      const aspects = aspectsOf({ facts: withFacts(laptop, { applications: [name] }), catalogue });
      const own = aspects.find(({ id }) => id === `application ${known.id}`);
      expect(own?.classes.filter(({ isPresent }) => isPresent).map(({ when }) => when)).toEqual(['in use']);
      const gone = own?.classes.find(({ when }) => when === 'not in use');
      expect(gone?.patch.applications).toEqual([]);
    }
  });
});

describe('a second disk', () => {
  it('that is taken out is gone, and the first one stays', () => {
    const second = { ...splitDisk, name: 'sdb', serial: 'SECOND-77', partitions: [] };
    const aspect = aspectsOf({ facts: withDisk(splitDisk, second), catalogue }).find(
      ({ id }) => id === 'disk second',
    );
    const names = (aspect?.classes ?? []).map(({ patch }) => (patch.disks ?? []).map(({ name }) => name));
    expect(names).toContainEqual(['sda', 'sdb']);
    expect(names).toContainEqual(['sda']);
    for (const list of names) expect(new Set(list).size).toBe(list.length);
  });
});

describe('unknown facts', () => {
  it('are in the way of options that wait for them, not of those that are excluded anyhow', () => {
    const facts = without(laptop, 'tpm');
    const choice = decide(inputOf(facts));
    const waiting = choice.candidates.filter(
      ({ status, reasons }) =>
        status === 'undecided' &&
        reasons.some(({ finding, facts: read }) => finding === 'unknown' && read.includes('tpm')),
    );
    const excluded = choice.candidates.filter(
      ({ status, reasons }) =>
        status === 'excluded' &&
        reasons.some(({ finding, facts: read }) => finding === 'unknown' && read.includes('tpm')),
    );
    expect(excluded.length).toBeGreaterThan(0);
    expect(blockingUnknowns(choice, facts).find(({ key }) => key === 'tpm')?.waiting).toBe(waiting.length);
    expect(valueOf(facts, 'tpm')).toBeUndefined();
  });
});

describe('the outlook of a family', () => {
  it('is that of its newer releases; where there is none, of its own', () => {
    const family = (presentRelease: string, change: Partial<Record<'cores', number>> = {}) =>
      decide(inputOf(withFacts(laptop, { presentRelease, ...change }))).outlook;
    const newest = catalogue.releases
      .filter(({ family: one }) => one === 'corvel')
      .toSorted((a, b) => b.version - a.version)[0];
    expect(newest).toBeDefined();
    // Nothing is newer than the newest: what is left are all of its family, and the laptop meets Corvel 9 as it is.
    expect(family(newest?.id ?? '').family).toBe('meets');
    expect(family('corvel-9-business').family).toBe('fixable');
    expect(family('corvel-9-business', { cores: 1 }).family).not.toBe('fixable');
  });
});

describe('work that stays behind', () => {
  const judged = (applications: readonly string[], releaseId = 'saltbush-full') => {
    const context = contextFor(inputOf(withFacts(laptop, { applications: [...applications] })), {
      routeId: 'beside-same-disk',
      releaseId,
    });
    if (!context) throw new Error('no context');
    return workCanMove.judge(context);
  };
  const lockedTo = (family: string) => catalogue.applications.filter((one) => one.lockedToFamily === family);
  it('is what has no equivalent, or is bound to another family', () => {
    const [bound] = lockedTo('corvel');
    const free = catalogue.applications.find(
      ({ lockedToFamily, equivalents }) =>
        lockedToFamily === undefined && equivalents['saltbush'] !== undefined,
    );
    expect([bound, free].every(Boolean)).toBe(true);
    expect(judged([free?.id ?? '']).finding).toBe('allows');
    expect(judged([free?.id ?? '', bound?.id ?? '']).sentence).toBe(
      `${bound?.name ?? ''} would stay on the present system, without fixes.`,
    );
    expect(judged(['unheard-of']).sentence).toContain('unheard-of would stay');
    expect(judged([]).finding).toBe('allows');
    // The same family runs them all.
    expect(judged([bound?.id ?? ''], 'corvel-10-business').sentence).toContain('The same family');
  });
});

describe('a network driver', () => {
  const sentence = (facts: Facts) => {
    const context = contextFor(inputOf(facts), {
      routeId: 'clean-whole-disk',
      releaseId: 'corvel-10-business',
    });
    return context && networkDriver.judge(context).sentence;
  };
  it('comes with the release, is carried, or is tried', () => {
    expect(sentence(laptop)).toContain('comes with the release');
    expect(sentence(without(laptop, 'networkAdapters'))).toContain('Try the network on the live system');
    expect(sentence(withFacts(laptop, { networkAdapters: [{ name: 'x' }] }))).toContain('carry one over');
  });
});

describe('a disk that is changed', () => {
  it('is the one with the system, and no other', () => {
    const other = { ...splitDisk, name: 'sdb', serial: 'B', partitions: [] };
    const changed = withSystemDisk(withDisk(splitDisk, other), (disk) => ({ ...disk, health: 'failing' }));
    expect(changed.map(({ name, health }) => [name, health])).toEqual([
      ['sda', 'failing'],
      ['sdb', 'good'],
    ]);
  });
});

describe('classes of numbers', () => {
  it('begin where a rule answers differently, and say so from and to', () => {
    const classes = numberClasses(
      [4, 2, 9],
      1,
      8,
      3,
      (cores) => ({ cores }),
      (n) => `${n} cores`,
    );
    expect(classes.map(({ range, from, isPresent }) => [range?.from, range?.to, from, isPresent])).toEqual([
      [null, '2 cores', 1, false],
      ['2 cores', '4 cores', 2, true],
      ['4 cores', null, 4, false],
    ]);
  });
});
