import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carryOut, suppliersOf } from '../../src/machine';
import { planStates } from '../../src/runbook';
import { anyPlanInput } from '../fixtures/plans';
import { withFacts } from '../../src/survey';
import { inputFor, laptop } from '../fixtures/shop';

describe('what a step needs of those before it', () => {
  const input = inputFor('clean-whole-disk', 'corvel-10-business', {
    facts: withFacts(laptop, { diskEncryption: 'off', fastStart: 'off' }),
  });
  const planned = planStates(input);
  if (!planned.ok) throw new Error('this plan is made');
  const { steps, before } = planned.value;
  const plan = steps.map(({ step, operators }) => ({ id: step.id, operators }));
  const at = (kind: string) => steps.findIndex(({ step }) => step.kind === kind);
  const kinds = (kind: string) =>
    suppliersOf(before, plan, at(kind)).map(({ index }) => steps[index]?.step.kind);

  it('is what proves copies, disk and power where the disk is erased', () => {
    expect(kinds('erase-disk')).toEqual(
      expect.arrayContaining(['verify', 'identify-disk', 'charger', 'start-from-stick']),
    );
    // A copy is needed by what compares it, and only so by the step that erases.
    expect(kinds('erase-disk')).not.toContain('copy');
    expect(kinds('verify')).toContain('copy');
    const [first] = suppliersOf(before, plan, at('erase-disk'));
    expect(first?.missing).toMatch(/\S/);
  });

  it('is nothing for the first step, and nothing beyond the plan', () => {
    expect(suppliersOf(before, plan, 0)).toEqual([]);
    expect(suppliersOf(before, plan, plan.length)).toEqual([]);
  });

  it('is a step without which the plan stops before it or there', () => {
    let links = 0;
    let together = 0;
    fc.assert(
      fc.property(anyPlanInput, fc.nat(), (any, pick) => {
        const made = any && planStates(any);
        if (!made?.ok || made.value.steps.length === 0) return;
        const all = made.value.steps.map(({ step, operators }) => ({ id: step.id, operators }));
        // Half of the time the step at the Line, which needs the most.
        const line = made.value.runbook.lineIndex;
        const index = pick % 2 === 0 && line !== null ? line : pick % all.length;
        for (const supplier of suppliersOf(made.value.before, all, index)) {
          links += 1;
          expect(supplier.index).toBeLessThan(index);
          const kinds = (place: number) => all[place]?.operators.map(({ op }) => op).join();
          const upTo = all.slice(0, index + 1);
          const fails = (isLeftOut: (place: number) => boolean) =>
            !carryOut(
              made.value.before,
              upTo.filter((_one, place) => place === index || !isLeftOut(place)),
            ).ok;
          const alone = fails((place) => place === supplier.index);
          if (!alone) together += 1;
          expect(alone || fails((place) => kinds(place) === kinds(supplier.index))).toBe(true);
        }
      }),
      { numRuns: 200, seed: 5 },
    );
    expect(links).toBeGreaterThan(150);
    expect(together).toBeGreaterThan(5);
  });
});
