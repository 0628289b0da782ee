import { dequal } from 'dequal';
import type { Runbook, Step } from './step';

export type PlanDifference = {
  readonly stepId: string;
  readonly kind: 'added' | 'removed' | 'changed' | 'moved';
  readonly sentence: string;
};

/**
 * How a plan that was made differs from what would be planned now; empty when it is current.
 */
export function planDifferences(made: Runbook, now: Runbook): readonly PlanDifference[] {
  const differences: PlanDifference[] = [];
  if (made.title !== now.title)
    differences.push({
      stepId: '',
      kind: 'changed',
      sentence: `The route was “${made.title}” and is now “${now.title}”.`,
    });
  for (const step of now.steps) {
    const before = made.steps.find(({ id }) => id === step.id);
    if (!before) differences.push({ stepId: step.id, kind: 'added', sentence: `New: ${step.title}.` });
    else if (!dequal(saidOf(before), saidOf(step)))
      differences.push({ stepId: step.id, kind: 'changed', sentence: changeSentence(before, step) });
  }
  for (const step of made.steps)
    if (!now.steps.some(({ id }) => id === step.id))
      differences.push({ stepId: step.id, kind: 'removed', sentence: `No longer: ${step.title}.` });
  for (const text of now.practice)
    if (!made.practice.includes(text))
      differences.push({ stepId: '', kind: 'changed', sentence: `The house rule is now “${text}”.` });
  if (
    differences.length === 0 &&
    made.steps.map(({ id }) => id).join() !== now.steps.map(({ id }) => id).join()
  )
    differences.push({ stepId: '', kind: 'moved', sentence: 'The order of the steps has changed.' });
  return differences;
}

/**
 * What a step says and does. Its times are estimates that the next timed copy improves, its troubles are names of
 * signs: no plan is stale for them.
 */
function saidOf({
  handsOn: _handsOn,
  waiting: _waiting,
  troubles: _troubles,
  ...said
}: Step): Omit<Step, 'handsOn' | 'waiting' | 'troubles'> {
  return said;
}

function changeSentence(before: Step, after: Step): string {
  if (before.title !== after.title) return `“${before.title}” is now “${after.title}”.`;
  if (before.why !== after.why) return `${after.title}: “${before.why}” is now “${after.why}”`;
  return `${after.title}: its details have changed.`;
}
