import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aspectsOf, decide } from '../../src/decide';
import { systemDisk, valueOf, withFacts, type Facts } from '../../src/survey';
import { anyDevice, inputOf } from '../fixtures/devices';
import { catalogue, laptopWith, splitDisk, without } from '../fixtures/shop';

const aspects = (facts: Facts) => aspectsOf({ facts, catalogue });

describe('a class of what the rules look at', () => {
  it('is the present one, and the only one, once its patch is applied', () => {
    const seen = new Map<string, number>();
    let moved = 0;
    let unknown = 0;
    fc.assert(
      fc.property(anyDevice, (facts) => {
        for (const { id, classes, isKnown } of aspects(facts)) {
          const present = classes.filter((one) => one.isPresent);
          expect([id, present.length <= 1]).toEqual([id, true]);
          if (!isKnown) {
            expect([id, present]).toEqual([id, []]);
            unknown += 1;
          }
          // A second disk is asked of by what would have to be put in: once it is in, it is another disk.
          if (id === 'disk second') continue;
          for (const { when, from, patch, isPresent } of classes) {
            const then = aspects(withFacts(facts, patch)).find((one) => one.id === id);
            // A patch may take away what the aspect asks of.
            if (!then) continue;
            const now = then.classes.filter((one) => one.isPresent);
            // Numbers are printed so that they differ from the present one: their border says which class it is.
            const name = (one: { readonly when: string; readonly from?: number }) => one.from ?? one.when;
            expect([id, now.map(name)]).toEqual([id, [from ?? when]]);
            seen.set(id, (seen.get(id) ?? 0) + 1);
            if (!isPresent) moved += 1;
          }
        }
      }),
      { numRuns: 25, seed: 4 },
    );
    expect(seen.size).toBeGreaterThan(40);
    expect(moved).toBeGreaterThan(1000);
    expect(unknown).toBeGreaterThan(10);
  });

  it('makes a data partition of the end of the system’s, and loses no sector of the disk', () => {
    const parts = splitDisk.partitions.filter(({ role }) => role !== 'data');
    const facts = laptopWith({ disks: [{ ...splitDisk, partitions: parts }] });
    const data = aspects(facts).find(({ id }) => id === 'disk data');
    const there = data?.classes.find(({ when }) => when === 'there');
    expect(there?.isPresent).toBe(false);
    const disk = systemDisk(valueOf(withFacts(facts, there?.patch ?? {}), 'disks'));
    const made = disk?.partitions.filter(({ role }) => role === 'data') ?? [];
    const before = parts.find(({ role }) => role === 'system');
    const after = disk?.partitions.find(({ role }) => role === 'system');
    expect(made).toHaveLength(1);
    // It has a number of its own, begins where the system now ends, and ends where the system ended.
    expect(parts.some(({ number }) => number === made[0]?.number)).toBe(false);
    expect(made[0]?.number).toBe(Math.max(...parts.map(({ number }) => number)) + 1);
    expect([after?.startLba, after?.label]).toEqual([before?.startLba, before?.label]);
    expect(made[0]?.startLba).toBe((after?.startLba ?? 0) + (after?.sectorCount ?? 0));
    expect((after?.sectorCount ?? 0) + (made[0]?.sectorCount ?? 0)).toBe(before?.sectorCount);
    // A GiB of 512-byte sectors.
    expect(made[0]?.sectorCount).toBe(1024 ** 3 / 512);
  });

  it('of a disk that nobody knows has room for every release, or is too small', () => {
    const facts = without(laptopWith({}), 'disks');
    const unknown = aspects(facts).find(({ id }) => id === 'disk unknown');
    expect(unknown?.classes).toHaveLength(8);
    let judged = 0;
    for (const { when, patch } of unknown?.classes ?? []) {
      const { assessments, candidates } = decide(inputOf(withFacts(facts, patch)));
      const disk = assessments.flatMap(({ judgements }) =>
        judgements.filter(({ rule }) => rule === 'system-disk').map(({ verdict }) => verdict),
      );
      expect(disk.length).toBeGreaterThan(5);
      const all = disk.every((verdict) => verdict === 'meets');
      expect([when, all]).toEqual([when, !when.endsWith('too small for any release')]);
      // In place an upgrade needs free room: with room it is never that which excludes it, on a full disk it is.
      const upgrades = candidates.filter(({ routeId }) => routeId === 'in-place-upgrade');
      const short = upgrades.filter(({ reasons }) =>
        reasons.some(
          ({ finding, sentence }) => finding === 'excludes' && sentence.includes('the upgrade needs'),
        ),
      ).length;
      expect(upgrades.length).toBeGreaterThan(0);
      if (when.endsWith('sound, with room')) expect([when, short]).toEqual([when, 0]);
      if (when.endsWith('sound, full')) expect([when, short > 0]).toEqual([when, true]);
      judged += 1;
    }
    expect(judged).toBe(8);
  });
});
