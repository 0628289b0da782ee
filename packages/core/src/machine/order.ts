import { carryOutStep, type Obstacle, type PlanStep } from './carryOut';
import { supplies } from './operators/needs';
import type { Machine } from './state';

type OrderedPlan<S extends PlanStep> =
  | { readonly ok: true; readonly steps: readonly S[]; readonly last: readonly Machine[] }
  | { readonly ok: false; readonly steps: readonly S[]; readonly obstacles: readonly Obstacle[] };

/** So many places are tried before a plan is given up: a plan has some thirty steps. */
const maxTries = 500;

/**
 * Puts steps in an order in which they can be carried out, whatever the values of what is unknown.
 * Goes forward from the present state; of the steps whose needs are met the first is taken, in the order in which
 * they are given (the house's), that takes nothing away from a step which could be done now as well.
 * @param worlds the states that the survey leaves possible, at least one
 * @returns the steps in order with the last state of each world, or as far as it went and what stopped the rest
 */
export function orderSteps<S extends PlanStep>(
  worlds: readonly Machine[],
  steps: readonly S[],
): OrderedPlan<S> {
  let tries = 0;
  let furthest: { readonly steps: readonly S[]; readonly obstacles: readonly Obstacle[] } = {
    steps: [],
    obstacles: [],
  };

  const place = (
    states: readonly Machine[],
    done: readonly S[],
    waiting: readonly S[],
  ): OrderedPlan<S> | undefined => {
    if (waiting.length === 0) return { ok: true, steps: done, last: states };
    tries += 1;
    const ready: Ready<S>[] = [];
    const obstacles: Obstacle[] = [];
    for (const step of waiting) {
      const found = trial(states, step);
      if (found.ok) ready.push({ step, states: found.states });
      else obstacles.push(found.obstacle);
    }
    if (done.length >= furthest.steps.length)
      furthest = { steps: done, obstacles: decisive(obstacles, waiting) };
    if (obstacles.some((obstacle) => !canBeSupplied(obstacle, waiting))) return undefined;
    for (const { step, states: next } of harmlessFirst(ready)) {
      if (tries > maxTries) return undefined;
      const rest = place(
        next,
        [...done, step],
        waiting.filter((other) => other !== step),
      );
      if (rest) return rest;
    }
    return undefined;
  };

  return asGiven(worlds, steps) ?? place(worlds, [], steps) ?? { ok: false, ...furthest };
}

/** The house's own order, where it can be carried out as it is: then nothing takes anything away from a later step. */
function asGiven<S extends PlanStep>(
  worlds: readonly Machine[],
  steps: readonly S[],
): OrderedPlan<S> | undefined {
  let states = worlds;
  for (const step of steps) {
    const found = trial(states, step);
    if (!found.ok) return undefined;
    states = found.states;
  }
  return { ok: true, steps, last: states };
}

type Ready<S extends PlanStep> = { readonly step: S; readonly states: readonly Machine[] };

type Trial =
  | { readonly ok: true; readonly states: readonly Machine[] }
  | { readonly ok: false; readonly obstacle: Obstacle };

/** A step in every world: the states after it, or the first need that is not met in one of them. */
function trial(states: readonly Machine[], step: PlanStep): Trial {
  const next: Machine[] = [];
  for (const state of states) {
    const done = carryOutStep(state, step);
    if (!done.ok) return done;
    next.push(done.machine);
  }
  return { ok: true, states: next };
}

/** Whether another step that still waits has an operator that supplies what is missing. */
function canBeSupplied({ stepId, need }: Obstacle, waiting: readonly PlanStep[]): boolean {
  return waiting.some(
    ({ id, operators }) => id !== stepId && operators.some((operator) => supplies(operator, need)),
  );
}

/** What nothing supplies any more, where there is such; what waits on that follows from it. */
function decisive(obstacles: readonly Obstacle[], waiting: readonly PlanStep[]): readonly Obstacle[] {
  const hopeless = obstacles.filter((obstacle) => !canBeSupplied(obstacle, waiting));
  return hopeless.length > 0 ? hopeless : obstacles.slice(0, 1);
}

/** Those first, in their order, after which every other one that is ready now still is. */
function* harmlessFirst<S extends PlanStep>(ready: readonly Ready<S>[]): Generator<Ready<S>> {
  const harmful: Ready<S>[] = [];
  for (const one of ready) {
    const harms = ready.some((other) => other !== one && !trial(one.states, other.step).ok);
    if (harms) harmful.push(one);
    else yield one;
  }
  yield* harmful;
}
