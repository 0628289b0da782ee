import { barrierInAll } from '../machine/barrier';
import { carryOut, risksOfStep, type PlanStep } from '../machine/carryOut';
import { after } from '../machine/operatorRules';
import type { Machine } from '../machine/state';
import { exactly } from '../quantity/duration';
import { gateOfProof } from '../runbook/gateOfProof';
import type { Step } from '../runbook/step';
import type { StopDraft } from './cause';
import type { CauseAt, TroublePlace } from './place';
import { backToWork } from './stops';

/** One stop of a detour as a step of the plan. */
type Stop = PlanStep & {
  readonly step: Step;
  /** The machine after it, in the first state that is possible. */
  readonly after: Machine;
  /** Data sets that may be gone when it is broken off. */
  readonly risks: readonly string[];
};

type DetourPlan = {
  readonly title: string;
  readonly before: Machine;
  readonly stops: readonly Stop[];
  /** What undoes each stop that changes something, the last one first; empty where there is nothing to undo. */
  readonly wayBack: readonly { readonly stepId: string; readonly undo: string }[];
  readonly wayBackMinutes: number;
  /** Why it cannot be done from here, or why the runbook could not go on after it; null where neither is so. */
  readonly obstacle: { readonly stepId: string; readonly missing: string } | null;
};

/** @example stopLetter(0) // 'A' */
export function stopLetter(index: number): string {
  return String.fromCharCode('A'.charCodeAt(0) + index);
}

/** The id of a stop, unique in its move. @param number of the detour in the move, from 1 */
const stopId = (number: number, index: number) => `detour:${number}:${stopLetter(index)}`;

const minutesOf = (likely: number) =>
  likely === 0
    ? exactly(0)
    : { low: Math.max(1, Math.floor(likely / 2)), likely, high: Math.ceil(likely * 2) };

/**
 * The remedy of a cause as steps: planned by the operators that the plan is made of, from the machine as it really is
 * if this is the cause, up to where the runbook goes on. Null where nothing at this step helps.
 * @param number of the detour in its move, from 1
 */
export function planDetour(place: TroublePlace, cause: CauseAt, number: number): DetourPlan | null {
  const { remedy, really = (machine: Machine) => machine } = cause;
  const [planned] = cause.worlds;
  if (typeof remedy === 'string' || !planned) return null;
  const worlds = cause.worlds.map(really);
  const [before = planned] = worlds;
  const fixed = remedy.stops.flatMap(({ operators }) => operators).reduce(after, before);
  const drafts = [...remedy.stops, ...backToWork(planned, fixed)];
  let states = worlds;
  const stops = drafts.map((draft, index): Stop => {
    const id = stopId(number, index);
    const plan = { id, operators: draft.operators };
    const barrier = barrierInAll(states, plan);
    const [first = before] = states;
    const risks = risksOfStep(first, plan);
    states = states.map((state) => draft.operators.reduce(after, state));
    const step: Step = {
      ...stepOf(draft, id, place.step.stage),
      ...(barrier
        ? {
            barrier: {
              gates: barrier.proofs.map((proof) => gateOfProof[proof]),
              dataSetIds: [...barrier.sets],
            },
          }
        : {}),
    };
    return { ...plan, step, after: states[0] ?? first, risks };
  });
  const undone = drafts
    .flatMap(({ undo, minutes }, index) =>
      undo === undefined ? [] : [{ stepId: stopId(number, index), undo, minutes }],
    )
    .toReversed();
  return {
    title: remedy.title,
    before,
    stops,
    wayBack: undone.map(({ stepId, undo }) => ({ stepId, undo })),
    wayBackMinutes: undone.reduce((sum, { minutes }) => sum + minutes, 0),
    obstacle: obstacleOf(worlds, [...stops, ...place.rest]),
  };
}

function obstacleOf(worlds: readonly Machine[], steps: readonly PlanStep[]): DetourPlan['obstacle'] {
  for (const world of worlds) {
    const done = carryOut(world, steps);
    if (!done.ok) return { stepId: done.obstacle.stepId, missing: done.obstacle.need.missing };
  }
  return null;
}

function stepOf(draft: StopDraft, id: string, stage: Step['stage']): Step {
  const { title, why, success, caution = null, minutes, waiting = 0 } = draft;
  return {
    id,
    kind: 'detour',
    stage,
    title,
    why,
    caution,
    success,
    handsOn: minutesOf(minutes),
    waiting: minutesOf(waiting),
    destructive: false,
    requiresLead: false,
    effects: [],
    troubles: [],
  };
}
