import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carryOut } from '../../src/machine';
import { planSteps, troubleIds, type TroubleId } from '../../src/runbook';
import { causesAt, dangerOf, planDetour, signsOf, troublePlace } from '../../src/trouble';
import { anyPlanInput } from '../fixtures/plans';

const count = <K>(map: Map<K, number>, key: K) => map.set(key, (map.get(key) ?? 0) + 1);

describe('a detour', () => {
  const signsSeen = new Map<TroubleId, number>();
  const causesTried = new Map<string, number>();
  const causesThatStop = new Map<string, number>();
  const causesWithoutRemedy = new Map<string, number>();
  const excluded = new Map<string, number>();
  const tried = new Map<string, number>();
  const causesWithReality = new Set<string>();
  let carried = 0;
  let barred = 0;

  it('can be carried out where its sign was seen, and the runbook goes on after it to what was decided', () => {
    const failed = new Map<string, number>();
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        if (!input) return;
        const planned = planSteps(input);
        if (!planned.ok) return;
        // Each sign at each kind of step of each route once, those of rare plans too.
        const places = planned.value.steps.flatMap(({ step }) =>
          signsOf(step).flatMap((sign) => {
            const name = `${sign} ${step.kind} ${input.route.id} ${input.installerMedium}`;
            return !tried.has(name) ? [{ step, sign, name }] : [];
          }),
        );
        for (const { step, sign, name } of places) {
          const place = troublePlace(input, step.id);
          if (!place) throw new Error(`the plan has no place for ${step.id}`);
          count(tried, name);
          count(signsSeen, sign);
          const causes = causesAt(place, sign);
          if (causes.length === 0) expect([sign, dangerOf(sign)]).not.toEqual([sign, null]);
          expect(new Set(causes.map(({ id }) => id)).size).toBe(causes.length);
          for (const cause of causes) {
            expect([cause.id, cause.because]).toEqual([cause.id, expect.stringMatching(/[.?]$/)]);
            if (cause.likelihood === 0) {
              count(excluded, cause.id);
              continue;
            }
            const detour = planDetour(place, cause, 1);
            if (!detour) {
              expect([cause.id, cause.remedy]).toEqual([cause.id, expect.stringMatching(/\.$/)]);
              count(causesWithoutRemedy, cause.id);
              continue;
            }
            count(causesTried, cause.id);
            if (detour.obstacle) {
              count(
                failed,
                `${cause.id} at ${place.step.kind}: ${detour.obstacle.stepId} ${detour.obstacle.missing}`,
              );
              continue;
            }
            for (const world of cause.worlds) {
              const really = cause.really?.(world) ?? world;
              if (cause.really) causesWithReality.add(cause.id);
              const done = carryOut(really, [...detour.stops, ...place.rest]);
              expect(done.ok && done.states.at(-1)?.notes.includes('handed-over')).toBe(true);
              carried += 1;
              if (!carryOut(really, place.rest).ok) count(causesThatStop, cause.id);
              // Nothing that was saved is worse off for it.
              for (const state of done.states)
                for (const { original, good, back } of state.data)
                  expect(original !== 'gone' || good.length > 0 || back).toBe(true);
            }
            barred += detour.stops.filter(({ step }) => step.barrier !== undefined).length;
          }
        }
      }),
      { numRuns: 1000, seed: 29 },
    );
    console.log(
      `${carried} detours carried out behind ${signsSeen.size} signs, ${causesTried.size} causes with a remedy, ${causesWithoutRemedy.size} without, ${excluded.size} excluded somewhere, ${barred} barriers`,
      Object.fromEntries([...causesThatStop].toSorted()),
      Object.fromEntries([...signsSeen].toSorted()),
    );
    expect(Object.fromEntries([...failed].toSorted())).toEqual({});
    expect(troubleIds.filter((id) => !signsSeen.has(id))).toEqual([]);
    expect(carried).toBeGreaterThan(6_000);
    expect(barred).toBeGreaterThan(30);
    // What is said to be different on the device does stop the plan, somewhere at least.
    expect([...causesWithReality].filter((id) => !causesThatStop.has(id))).toEqual([]);
    expect(causesWithReality.size).toBeGreaterThan(8);
  });
});
