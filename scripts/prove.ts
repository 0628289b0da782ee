import fc from 'fast-check';
import { parseArgs } from 'node:util';
import { carryOut, type Machine, type PlanStep } from '../packages/core/src/machine';
import { planSteps } from '../packages/core/src/runbook';
import { anyPlanInput } from '../packages/core/test/fixtures/plans';
import { runCommand } from './lib/fail';

/** Machines are drawn in portions, so that the proof says how far it is. */
const portion = 1000;

/** What a plan is broken by, to see that the proof notices. */
type Break = (steps: readonly PlanStep[], pick: number) => readonly PlanStep[] | undefined;

const matters = ({ operators }: PlanStep) => operators.some(({ op }) => op !== 'use' && op !== 'hand-over');

const breaks: Readonly<Record<string, Break>> = {
  // Drops a step that is no courtesy, or puts one behind the one that comes after it.
  ORDER: (steps, pick) => {
    const places = steps.flatMap((step, index) => (matters(step) ? [index] : []));
    const at = places[pick % Math.max(1, places.length)];
    const one = at === undefined ? undefined : steps[at];
    if (at === undefined || !one) return undefined;
    if (pick % 2 === 0) return steps.filter((step) => step !== one);
    const other = steps[at + 1];
    return other ? [...steps.slice(0, at), other, one, ...steps.slice(at + 2)] : undefined;
  },
};

/** Why a plan is wrong: the need that is not met, or that it does not end handed over. */
function wrongIn(worlds: readonly Machine[], steps: readonly PlanStep[]): string | undefined {
  for (const world of worlds) {
    const done = carryOut(world, steps);
    if (!done.ok) return `${done.obstacle.stepId}: ${done.obstacle.need.missing}`;
    if (!done.states.at(-1)?.notes.includes('handed-over')) return 'not handed over';
    if (
      done.states.some(({ data }) =>
        data.some(({ original, good, back }) => original === 'gone' && good.length === 0 && !back),
      )
    )
      return 'a data set without a good copy';
  }
  return undefined;
}

/**
 * Draws machines, house rules and ways, plans each, and carries every plan out on every machine that its survey leaves
 * possible. `npm run prove -- --machines 100000 --seed 1`; `--break ORDER` spoils each plan first, and must find that.
 */
await runCommand(async () => {
  const { values } = parseArgs({
    options: {
      machines: { type: 'string', default: '2000' },
      seed: { type: 'string', default: '1' },
      break: { type: 'string' },
    },
  });
  const wanted = Number(values.machines);
  const spoil = values.break === undefined ? undefined : breaks[values.break];
  if (values.break !== undefined && !spoil) {
    console.error(`There is no --break ${values.break}: take ${Object.keys(breaks).join(', ')}.`);
    return 1;
  }
  let machines = 0;
  let plans = 0;
  let carriedOut = 0;
  let refused = 0;
  let wrong = 0;
  for (let drawn = 0; drawn < wanted; drawn += portion) {
    const inputs = fc.sample(anyPlanInput, {
      numRuns: Math.min(portion, wanted - drawn),
      seed: Number(values.seed) + drawn,
    });
    for (const [index, input] of inputs.entries()) {
      machines += 1;
      if (!input) continue;
      plans += 1;
      const planned = planSteps(input);
      if (!planned.ok) {
        refused += 1;
        if (planned.problems.every(({ sentence }) => sentence === '')) wrong += 1;
        continue;
      }
      const { steps, worlds } = planned.value;
      const tried = spoil ? spoil(steps, index) : steps;
      if (!tried) continue;
      const why = wrongIn(worlds, tried);
      if (why === undefined) carriedOut += 1;
      else {
        wrong += 1;
        if (wrong <= 5) console.log(`Machine ${machines}, ${input.route.id}: ${why}`);
      }
    }
    console.log(`${machines} of ${wanted} machines`);
  }
  console.log(
    `${machines} machines, ${plans} plans, ${carriedOut} carried out, ${refused} refused with a reason, ${wrong} wrong`,
  );
  return wrong === 0 ? 0 : 1;
});
