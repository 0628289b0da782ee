import { after, needsOf, risksOf } from './operatorRules';
import type { Need, Operator } from './operator';
import type { Machine } from './state';

/** A step as far as a machine is concerned: one without operators is a courtesy. */
export type PlanStep = { readonly id: string; readonly operators: readonly Operator[] };

export type Obstacle = {
  readonly stepId: string;
  readonly operator: Operator;
  readonly need: Need;
};

type CarriedOut =
  | {
      readonly ok: true;
      /** The state before the first step, then after each. */
      readonly states: readonly Machine[];
    }
  | { readonly ok: false; readonly states: readonly Machine[]; readonly obstacle: Obstacle };

/** One step's operators in their order; the first need that is not met stops it. */
export function carryOutStep(
  machine: Machine,
  step: PlanStep,
): { readonly ok: true; readonly machine: Machine } | { readonly ok: false; readonly obstacle: Obstacle } {
  let state = machine;
  for (const operator of step.operators) {
    const [need] = needsOf(state, operator);
    if (need) return { ok: false, obstacle: { stepId: step.id, operator, need } };
    state = after(state, operator);
  }
  return { ok: true, machine: state };
}

/** Carries a plan out from a state: the state after each step, up to the first need that is not met. */
export function carryOut(machine: Machine, steps: readonly PlanStep[]): CarriedOut {
  const states = [machine];
  let state = machine;
  for (const step of steps) {
    const done = carryOutStep(state, step);
    if (!done.ok) return { ok: false, states, obstacle: done.obstacle };
    state = done.machine;
    states.push(state);
  }
  return { ok: true, states };
}

/** The data sets that may be gone when a step is broken off somewhere in it. */
export function risksOfStep(machine: Machine, step: PlanStep): readonly string[] {
  const risked = new Set<string>();
  let state = machine;
  for (const operator of step.operators) {
    for (const id of risksOf(state, operator)) risked.add(id);
    state = after(state, operator);
  }
  return [...risked];
}
