import { dequal } from 'dequal';
import { after } from '../machine/operatorRules';
import type { PlanStep } from '../machine/carryOut';
import type { Machine } from '../machine/state';
import type { RunbookInput } from '../runbook/input';
import { planSteps } from '../runbook/planSteps';
import type { Step } from '../runbook/step';
import { troubleIds, type TroubleId } from '../runbook/troubles';
import type { Cause, TroubleContext } from './cause';
import { causesOf, type CauseCounts } from './causesOf';

/** Where in a plan something goes wrong. */
export type TroublePlace = {
  readonly input: RunbookInput;
  readonly step: Step;
  /** Of the step in the plan, from 0. */
  readonly index: number;
  /** Before the step: each state that the survey leaves possible. */
  readonly worlds: readonly Machine[];
  /** The step and all that follow it. */
  readonly rest: readonly PlanStep[];
};

/** The place of a step in the plan as it would be made now; undefined where that has no such step, or cannot be made. */
export function troublePlace(input: RunbookInput, stepId: string): TroublePlace | undefined {
  const planned = planSteps(input);
  if (!planned.ok) return undefined;
  const { steps, worlds } = planned.value;
  const index = steps.findIndex(({ step }) => step.id === stepId);
  const here = steps[index];
  return (
    here && {
      input,
      step: here.step,
      index,
      worlds: worlds.map((world) =>
        steps.slice(0, index).reduce((state, { operators }) => operators.reduce(after, state), world),
      ),
      rest: steps.slice(index),
    }
  );
}

/** The signs that belong to a step; names of other releases of Ulvane are left out. */
export function signsOf({ troubles }: Pick<Step, 'troubles'>): readonly TroubleId[] {
  return troubleIds.filter((id) => troubles.includes(id));
}

/** A cause as it is judged at one place of a plan. */
export type CauseAt = Cause & {
  /** The states in which it is not excluded and is remedied in the same way; the first is what its words speak of. */
  readonly worlds: readonly Machine[];
};

/** Whether two states have the same cause with the same deeds against it: else they are two cases of one name. */
function isRemediedAlike(one: Cause, other: Cause): boolean {
  const deeds = ({ remedy, really }: Cause) => ({
    isOtherwise: really !== undefined,
    operators: typeof remedy === 'string' ? remedy : remedy.stops.map(({ operators }) => operators),
  });
  return dequal(deeds(one), deeds(other));
}

/**
 * The causes of a sign at a place, likely ones first. Where facts are unknown a cause is excluded only if it is in
 * every state that is possible.
 */
export function causesAt(place: TroublePlace, id: TroubleId, counts: CauseCounts = {}): readonly CauseAt[] {
  const { input, step } = place;
  const found = new Map<string, CauseAt>();
  for (const machine of place.worlds) {
    const context: TroubleContext = { input, step, machine };
    for (const cause of causesOf(id, context, counts)) {
      const known = found.get(cause.id);
      const worlds = cause.likelihood === 0 ? [] : [machine];
      if (!known || (known.likelihood === 0 && cause.likelihood > 0))
        found.set(cause.id, { ...cause, worlds });
      // A remedy that one of the states does not allow is promised in none.
      else if (worlds.length > 0 && typeof cause.remedy === 'string')
        found.set(cause.id, { ...known, remedy: cause.remedy, worlds: [...known.worlds, ...worlds] });
      else if (worlds.length > 0 && isRemediedAlike(known, cause))
        found.set(cause.id, { ...known, worlds: [...known.worlds, ...worlds] });
    }
  }
  const all = [...found.values()];
  return [
    ...all.filter(({ likelihood }) => likelihood > 0),
    ...all.filter(({ likelihood }) => likelihood === 0),
  ];
}
