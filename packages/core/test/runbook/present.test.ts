import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planSteps } from '../../src/runbook';
import type { RouteId } from '../../src/route';
import type { Release } from '../../src/catalogue';
import { anyPlanInput } from '../fixtures/plans';
import { inputFor, laptopSurvey, laptopWith, releaseOf } from '../fixtures/shop';

const present = releaseOf('corvel-9-business');

/** The titles of a plan's steps of these kinds, in their order. */
function titles(routeId: RouteId, change: Partial<Parameters<typeof inputFor>[2]>, ...kinds: string[]) {
  const planned = planSteps(inputFor(routeId, 'corvel-10-business', { present, ...change }));
  if (!planned.ok) throw new Error(planned.problems[0]?.sentence);
  return planned.value.steps.filter(({ step }) => kinds.includes(step.kind)).map(({ step }) => step);
}

const recovery = (routeId: RouteId, change: Partial<Parameters<typeof inputFor>[2]> = {}) =>
  titles(routeId, change, 'recovery-medium');
const making = (recoveryMediumBytes: number): Release => ({ ...present, recoveryMediumBytes });

describe('a recovery medium of the present system', () => {
  it('is made before an upgrade and before a shrink, on a stick of its own', () => {
    const [step] = recovery('in-place-upgrade', { present: making(16_000_000_000) });
    expect(step?.title).toBe(
      'Make the recovery medium of Corvel 9 Business on a stick of its own, 16.0 GB or more',
    );
    expect(step?.success).toContain('started from it once');
    expect(step?.caution).toContain('neither the installer nor the backup');
    const kinds = titles('beside-same-disk', {}, 'recovery-medium', 'shrink-system').map(({ kind }) => kind);
    expect(kinds).toEqual(['recovery-medium', 'shrink-system']);
    expect(
      titles('in-place-upgrade', {}, 'recovery-medium', 'start-upgrade').map(({ kind }) => kind),
    ).toEqual(['recovery-medium', 'start-upgrade']);
  });

  it('is not asked for where the system goes, where nothing is shrunk, and where it makes none', () => {
    expect(recovery('clean-whole-disk')).toEqual([]);
    expect(recovery('in-place-upgrade', { present: making(0) })).toEqual([]);
    expect(recovery('beside-same-disk', { present: making(0) })).toEqual([]);
    // The last 200 GB of the disk are free: the second system takes them as they are.
    const disks = (laptopSurvey.disks ?? []).map((disk) => ({
      ...disk,
      sectorCount: disk.sectorCount + 200_000_000_000 / disk.sectorBytes,
    }));
    const roomy = laptopWith({ disks });
    expect(recovery('beside-same-disk', { facts: roomy })).toEqual([]);
  });

  it('takes the time that its bytes take to be written and read back', () => {
    const minutes = (bytes: number) =>
      recovery('in-place-upgrade', { present: making(bytes) })[0]?.waiting.likely ?? 0;
    // Four times the bytes beyond a fixed few minutes.
    const [one, four, eight] = [minutes(4e9), minutes(16e9), minutes(28e9)];
    expect(four).toBeGreaterThan(one);
    expect(Math.abs(eight - four - (four - one))).toBeLessThanOrEqual(1);
  });
});

describe('the present system', () => {
  const updating = (routeId: RouteId, release: Partial<Release>) =>
    titles(routeId, { release: { ...releaseOf('corvel-10-business'), ...release } }, 'update-present');

  it('is brought up to date first where the maker of the new one asks for it, and nowhere else', () => {
    expect(updating('in-place-upgrade', { presentUpdatedFirst: true }).map(({ title }) => title)).toEqual([
      'Bring Corvel 9 Business up to date first',
    ]);
    expect(updating('in-place-upgrade', { presentUpdatedFirst: false })).toEqual([]);
    expect(updating('clean-whole-disk', { presentUpdatedFirst: true })).toEqual([]);
    expect(updating('beside-same-disk', { presentUpdatedFirst: true })).toEqual([]);
  });

  it('is never upgraded or shrunk before what its makers ask for is done', () => {
    const risky = new Set(['upgrade', 'install-over', 'shrink']);
    let upgrades = 0;
    let shrinks = 0;
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        if (!input?.present) return;
        const planned = planSteps(input);
        if (!planned.ok) return;
        const operators = planned.value.steps.flatMap((step) => step.operators);
        const own = planned.value.worlds[0]?.systems[0]?.disk;
        for (const [index, operator] of operators.entries()) {
          if (!risky.has(operator.op) || !('disk' in operator) || operator.disk !== own) continue;
          const before = operators.slice(0, index);
          if (input.present.recoveryMediumBytes > 0)
            expect(before.some(({ op }) => op === 'make-recovery-medium')).toBe(true);
          if (operator.op === 'shrink') shrinks += 1;
          else {
            upgrades += 1;
            if (input.release?.presentUpdatedFirst)
              expect(before.some((one) => one.op === 'update' && one.of === 'present')).toBe(true);
          }
        }
      }),
      { numRuns: 1000, seed: 29 },
    );
    expect(upgrades).toBeGreaterThan(20);
    expect(shrinks).toBeGreaterThan(20);
  });
});
