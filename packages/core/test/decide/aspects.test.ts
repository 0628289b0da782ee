import { describe, expect, it } from 'vitest';
import { aspectsOf } from '../../src/decide';
import { systemDisk, valueOf, type Facts } from '../../src/survey';
import { catalogue, laptop, laptopWith, splitDisk, without } from '../fixtures/shop';

const aspect = (facts: Facts, id: string) => {
  const found = aspectsOf({ facts, catalogue }).find((one) => one.id === id);
  if (!found) throw new Error(`no aspect ${id}`);
  return found;
};

describe('what the rules look at', () => {
  it('is every set of the processor features that some release asks for, one of which is the present one', () => {
    const asked = new Set(
      catalogue.releases.flatMap(({ requirements }) =>
        requirements.flatMap((one) => (one.kind === 'processor-features' ? one.flags : [])),
      ),
    );
    const known = aspect(laptop, 'cpuFlags');
    expect(known.classes).toHaveLength(2 ** asked.size);
    expect(new Set(known.classes.map(({ patch }) => [...(patch.cpuFlags ?? [])].sort().join(' '))).size).toBe(
      2 ** asked.size,
    );
    const flags = valueOf(laptop, 'cpuFlags') ?? [];
    const present = known.classes.filter(({ isPresent }) => isPresent);
    expect(present.map(({ patch }) => [...(patch.cpuFlags ?? [])].sort())).toEqual([
      [...asked].filter((flag) => flags.includes(flag)).sort(),
    ]);
    const unknown = aspect(without(laptop, 'cpuFlags'), 'cpuFlags');
    expect([unknown.isKnown, unknown.classes.some(({ isPresent }) => isPresent)]).toEqual([false, false]);
  });

  it('begins a class of used bytes wherever the estimate takes its next 25 GB, other data counted along', () => {
    const facts = laptopWith({ disks: [splitDisk] });
    const others = splitDisk.partitions
      .filter(({ role }) => role !== 'system')
      .reduce((sum, { usedBytes = 0 }) => sum + usedBytes, 0);
    expect(others).toBeGreaterThan(0);
    const { classes } = aspect(facts, 'disk used');
    const starts = classes.map(({ from }) => from);
    let steps = 0;
    for (let step = 1; step < 5; step += 1) {
      // Whole disk: the copy grows a step when system and other data together pass the next 25 GB.
      const at = step * 25_000_000_000 - others + 1;
      if (at <= 0) continue;
      expect(starts).toContain(at);
      steps += 1;
    }
    expect(steps).toBeGreaterThan(1);
  });

  it('asks of a model only where the maker is known and the model is not', () => {
    const ids = (facts: Facts) => aspectsOf({ facts, catalogue }).map(({ id }) => id);
    expect(ids(laptop)).not.toContain('model');
    expect(ids(without(laptop, 'model'))).toContain('model');
    expect(ids(without(without(laptop, 'model'), 'maker'))).not.toContain('model');
    expect(systemDisk(valueOf(laptop, 'disks'))).toBeDefined();
  });
});
