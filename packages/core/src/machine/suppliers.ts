import type { PlanStep } from './carryOut';
import { after, needsOf } from './operatorRules';
import type { Machine } from './state';

/** An earlier step, and what would be missing without it. */
type Supplier = { readonly index: number; readonly missing: string };

/** The first need of a step that is not met. */
function missingAt(state: Machine, step: PlanStep): string | undefined {
  let now = state;
  for (const operator of step.operators) {
    const [need] = needsOf(now, operator);
    if (need) return need.missing;
    now = after(now, operator);
  }
  return undefined;
}

/** What a step does, as kinds: steps of the same may supply the same. */
const kindsOf = ({ operators }: PlanStep) => operators.map(({ op }) => op).join(' ');

/**
 * The causal links of a step: each earlier step is left out in turn, and those are its suppliers without which a need
 * of it is not met. Where several of the same kind supply it (a second copy), it needs one of them: all are named.
 * @param machine the state before the first step
 * @param index of the step in `steps`
 * @returns in the order of the plan; empty for a courtesy, and for a step that can be done at once
 */
export function suppliersOf(
  machine: Machine,
  steps: readonly PlanStep[],
  index: number,
): readonly Supplier[] {
  const step = steps[index];
  if (!step || step.operators.length === 0) return [];
  const earlier = steps.slice(0, index);
  const without = (isLeftOut: (one: PlanStep) => boolean) =>
    missingAt(
      earlier.reduce((so, one) => (isLeftOut(one) ? so : one.operators.reduce(after, so)), machine),
      step,
    );
  const alone = earlier.map((one) =>
    one.operators.length === 0 ? undefined : without((other) => other === one),
  );
  return earlier.flatMap((one, left): readonly Supplier[] => {
    if (one.operators.length === 0) return [];
    const alike = earlier.filter((other) => kindsOf(other) === kindsOf(one));
    const missing =
      alone[left] ??
      (alike.length > 1 && alike.every((other) => alone[earlier.indexOf(other)] === undefined)
        ? without((other) => alike.includes(other))
        : undefined);
    return missing === undefined ? [] : [{ index: left, missing }];
  });
}
