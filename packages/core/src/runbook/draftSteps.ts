import { addThreePoint, exactly, type ThreePoint } from '../quantity/duration';
import { inStepOrder, stepsOfRoute } from '../route/installerMedia';
import { stepTimes, type StepKind } from '../rules/stepTimes';
import type { StepDraft, StepInput } from './input';
import { stepMakers } from './stepMakers';

type Drafted = { readonly kind: StepKind; readonly draft: StepDraft };

/** Every step that a plan for this input holds, in the house's order and without words. */
export function draftSteps(input: StepInput): readonly Drafted[] {
  return kindsOf(input).flatMap((asked) =>
    stepMakers[asked].make(input).map((draft) => ({ kind: draft.kind ?? asked, draft })),
  );
}

/** Hands-on and waiting minutes of a step, in whole minutes. */
export function timesOf(
  kind: StepKind,
  draft: Pick<StepDraft, 'handsOn' | 'extraWaiting'>,
): { readonly handsOn: ThreePoint; readonly waiting: ThreePoint } {
  const { handsOn, waiting } = stepTimes[kind];
  return {
    handsOn: rounded(draft.handsOn ?? handsOn),
    waiting: rounded(addThreePoint(waiting, draft.extraWaiting ?? exactly(0))),
  };
}

/** Whole minutes; a wait that is not nothing is at least one. */
function rounded({ low, likely, high }: ThreePoint): ThreePoint {
  const whole = (minutes: number) => (minutes > 0 ? Math.max(1, Math.round(minutes)) : 0);
  return { low: whole(low), likely: whole(likely), high: whole(high) };
}

/** The kinds of steps that disk work adds; those of the route that it does in another way go. */
const diskKinds: readonly StepKind[] = [
  'record-recovery-key',
  'recovery-medium',
  'fast-start-off',
  'suspend-encryption',
  'charger',
  'other-disks',
  'identify-disk',
  'keep-table',
  'shrink-partition',
  'change-layout',
  'convert-scheme',
  'boot-files',
  'switch-firmware',
  'other-disks-back',
];

/** The kinds of steps of a plan, in the house's order: the route's, with what its medium and work on a disk put in their places. */
export function kindsOf({ route, installerMedium, diskWork }: StepInput): readonly StepKind[] {
  const kinds = stepsOfRoute(route, installerMedium);
  if (!diskWork) return kinds;
  const goal = diskWork.work.kind === 'layout' ? diskWork.work.goal.kind : 'convert';
  const replaced: readonly StepKind[] = [
    ...(goal === 'room' ? ['shrink-system' as const] : []),
    ...(goal === 'split' ? ['make-data-partition' as const] : []),
  ];
  return inStepOrder([...new Set([...kinds.filter((kind) => !replaced.includes(kind)), ...diskKinds])]);
}
