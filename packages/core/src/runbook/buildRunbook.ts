import { releaseTitle } from '../catalogue/find';
import { succeed, type Outcome } from '../outcome/outcome';
import { addThreePoint, exactly, type ThreePoint } from '../quantity/duration';
import type { StepKind } from '../rules/stepTimes';
import { gatesFor } from './gates';
import { houseRulesFollowed } from './houseRulesFollowed';
import type { RunbookInput } from './input';
import { planSteps } from './planSteps';
import type { Runbook, Step } from './step';

/**
 * Generates the runbook of a move from route, survey, data sets, destinations and house rules.
 * Refused when a data set would be left without a good copy at some step, when a destination cannot hold what it
 * takes, when the route needs a release and has none, and when the plan cannot be carried out on this machine or
 * misses its goal; each problem names the place.
 */
export function buildRunbook(input: RunbookInput): Outcome<Runbook> {
  const planned = planSteps(input);
  if (!planned.ok) return planned;
  const { route, release } = input;
  const { diskWork } = planned.value;
  const steps = planned.value.steps.map(({ step }) => step);
  const line = steps.findIndex(({ destructive }) => destructive);
  return succeed({
    routeId: route.id,
    releaseId: release?.id ?? null,
    title: release ? `${route.title} to ${releaseTitle(release)}` : route.title,
    steps,
    lineIndex: line < 0 ? null : line,
    lineSentence: line < 0 ? null : lineSentence(input, steps[line]?.kind),
    gates: line < 0 ? [] : [...gatesFor(input, diskWork)],
    practice: houseRulesFollowed(input),
  });
}

function lineSentence({ route }: RunbookInput, kind: StepKind | undefined): string {
  if (kind === 'convert-scheme')
    return 'The Line. After the next step the disk’s table is another one; only the undo capsule brings the old one back.';
  if (kind === 'change-layout')
    return 'The Line. The next step moves or deletes a partition; broken off, it cannot be brought back.';

  if (route.id === 'beside-same-disk')
    return 'The Line. After the next step the disk’s table is not the one that the present system knew.';
  switch (route.writesOver) {
    case 'whole-disk':
      return 'The Line. After the next step nothing on this disk can be brought back.';
    case 'system-partition':
      return 'The Line. After the next step the files on the system partition cannot be brought back.';
    case 'second-disk':
      return 'The Line. After the next step nothing on the second disk can be brought back.';
    case 'nothing':
      return 'The Line. After the next step the present system cannot be brought back for certain.';
  }
}

/** Hands-on and waiting minutes over steps; the likely values of design and screen. */
export function totalMinutes(steps: readonly Step[]): {
  readonly handsOn: ThreePoint;
  readonly waiting: ThreePoint;
} {
  return steps.reduce(
    (sum, step) => ({
      handsOn: addThreePoint(sum.handsOn, step.handsOn),
      waiting: addThreePoint(sum.waiting, step.waiting),
    }),
    { handsOn: exactly(0), waiting: exactly(0) },
  );
}
