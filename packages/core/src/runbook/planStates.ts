import { after } from '../machine/operatorRules';
import type { Operator } from '../machine/operator';
import type { Machine } from '../machine/state';
import { succeed, type Outcome } from '../outcome/outcome';
import { buildRunbook } from './buildRunbook';
import type { RunbookInput } from './input';
import { planSteps } from './planSteps';
import type { Runbook, Step } from './step';

/** A step with what it does to the machine, and the machine after it. */
type StepStates = {
  readonly step: Step;
  readonly operators: readonly Operator[];
  readonly after: Machine;
};

export type PlanStates = {
  readonly runbook: Runbook;
  /** Before the first step. */
  readonly before: Machine;
  readonly steps: readonly StepStates[];
  /** So many states does the survey leave possible; the plan holds in each, and this is one of them. */
  readonly possible: number;
};

/** A plan as it would be made now, carried out step by step; refused as `buildRunbook` says. */
export function planStates(input: RunbookInput): Outcome<PlanStates> {
  const runbook = buildRunbook(input);
  if (!runbook.ok) return runbook;
  const planned = planSteps(input);
  if (!planned.ok) return planned;
  const { steps, worlds } = planned.value;
  const [before] = worlds;
  if (!before) throw new RangeError('a survey leaves one state at least');
  let state = before;
  return succeed({
    runbook: runbook.value,
    before,
    steps: steps.map(({ step, operators }) => {
      state = operators.reduce(after, state);
      return { step, operators, after: state };
    }),
    possible: worlds.length,
  });
}
