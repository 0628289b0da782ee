import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carryOut, risksOfStep, type Machine, type PlanStep } from '../../src/machine';
import { planSteps } from '../../src/runbook';
import { isEmptyDevice } from '../../src/survey';
import { anyPlanInput } from '../fixtures/plans';

/** Whether a plan is carried out to its end in every world, and ends handed over. */
const reaches = (worlds: readonly Machine[], steps: readonly PlanStep[]) =>
  worlds.every((world) => {
    const done = carryOut(world, steps);
    return done.ok && done.states.at(-1)?.notes.includes('handed-over') === true;
  });

const safe = ({ data }: Machine) =>
  data.every(({ original, good, back }) => original !== 'gone' || good.length > 0 || back);

describe('a plan that is made', () => {
  const runs = 2600;
  const made = new Map<string, number>();
  const refused = new Map<string, number>();
  let matters = 0;
  let brokenOff = 0;
  let risked = 0;

  it('can be carried out on every machine that the survey leaves possible, and reaches what was decided', () => {
    let worlds = 0;
    let empties = 0;
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        if (!input) return;
        const planned = planSteps(input);
        const name = `${input.route.id} by ${input.installerMedium}`;
        const count = (map: Map<string, number>) => map.set(name, (map.get(name) ?? 0) + 1);
        if (!planned.ok) {
          count(refused);
          for (const { sentence } of planned.problems) expect(sentence).toMatch(/\.$/);
          return;
        }
        count(made);
        if (isEmptyDevice(input.facts)) empties += 1;
        worlds += planned.value.worlds.length;
        expect(reaches(planned.value.worlds, planned.value.steps)).toBe(true);
      }),
      { numRuns: runs, seed: 11 },
    );
    const sum = (map: Map<string, number>) => [...map.values()].reduce((total, one) => total + one, 0);
    console.log(
      `${sum(made)} plans made, ${sum(refused)} refused, ${worlds} worlds`,
      Object.fromEntries([...made].toSorted()),
      Object.fromEntries([...refused].toSorted()),
    );
    expect(sum(made)).toBeGreaterThan(runs * 0.6);
    expect(made.size).toBeGreaterThan(15);
    expect(sum(made)).toBeGreaterThan(2000);
    expect(empties).toBeGreaterThan(100);
    expect(worlds).toBeGreaterThan(sum(made) * 2);
  });

  it('holds no step that could be left out, but courtesies', () => {
    const idle = new Map<string, number>();
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        if (!input) return;
        const planned = planSteps(input);
        if (!planned.ok) return;
        const { steps, worlds } = planned.value;
        for (const step of steps) {
          if (step.operators.length === 0 || step.operators.every(({ op }) => op === 'use')) continue;
          // Trying a system live is for the owner's eyes; a disk that is empty is looked at once more.
          const onEmptyDisk = step.operators.some(
            (operator) =>
              (operator.op === 'erase' || operator.op === 'wipe') &&
              worlds[0]?.disks.find(({ id }) => id === operator.disk)?.partitions.length === 0,
          );
          if (step.step.kind === 'try-live' || onEmptyDisk) continue;
          const without = steps.filter((other) => other !== step);
          matters += 1;
          if (reaches(worlds, without)) idle.set(`${step.step.kind} in ${input.route.id}`, matters);
        }
      }),
      { numRuns: 450, seed: 12 },
    );
    expect(matters).toBeGreaterThan(2000);
    expect(Object.fromEntries(idle)).toEqual({});
  });

  it('leaves every data set a good copy wherever it is broken off, and copies first what a step risks', () => {
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        if (!input) return;
        const planned = planSteps(input);
        if (!planned.ok) return;
        const { steps, worlds } = planned.value;
        for (const world of worlds.slice(0, 4)) {
          const { states } = carryOut(world, steps);
          for (const [index, state] of states.entries()) {
            expect(safe(state)).toBe(true);
            brokenOff += 1;
            const step = steps[index];
            for (const id of step ? risksOfStep(state, step) : []) {
              risked += 1;
              const data = state.data.find((one) => one.id === id);
              expect([step?.id, id, (data?.good.length ?? 0) > 0]).toEqual([step?.id, id, true]);
            }
          }
        }
      }),
      { numRuns: 450, seed: 13 },
    );
    expect(brokenOff).toBeGreaterThan(5000);
    expect(risked).toBeGreaterThan(200);
  });
});
