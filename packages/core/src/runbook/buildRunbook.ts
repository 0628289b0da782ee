import { fitOf } from '../backup/destinations/fit';
import { releaseTitle } from '../catalogue/find';
import { fail, succeed, type Outcome, type Problem } from '../outcome/outcome';
import { inStepOrder, stepsOfRoute } from '../route/installerMedia';
import type { DiskWorkPlan } from './diskWork';
import { addThreePoint, exactly, type ThreePoint } from '../quantity/duration';
import { stepTimes } from '../rules/stepTimes';
import { custodyAlarms, uncountedOf } from './custody';
import { gatesFor } from './gates';
import type { RunbookInput, StepDraft } from './input';
import { houseRulesFollowed } from './houseRulesFollowed';
import { stepMakers } from './stepMakers';
import type { Runbook, Step } from './step';
import type { StepKind } from '../rules/stepTimes';

/**
 * Generates the runbook of a move from route, survey, data sets, destinations and house rules.
 * Refused when a data set would be left without a good copy at some step, when a destination cannot
 * hold what it takes, or when the route needs a release and has none; each problem names the place.
 */
export function buildRunbook(input: RunbookInput): Outcome<Runbook> {
  const { route, release } = input;
  if (route.hasTarget && !release)
    return fail(
      'no-release',
      '/decision/releaseId',
      'The chosen release is no longer in the catalogue: choose again.',
    );
  const problems: Problem[] = input.destinations.flatMap((destination, index): Problem[] => {
    const fit = fitOf(destination, input.dataSets);
    const at = `/destinations/${index}`;
    return [
      ...(fit.spareBytes < 0
        ? [{ code: 'does-not-fit' as const, path: at, sentence: `${destination.name}: ${fit.sentence}` }]
        : []),
      ...fit.refused.map(({ sentence }): Problem => ({
        code: 'file-too-large',
        path: at,
        sentence: `${destination.name}: ${sentence}`,
      })),
    ];
  });
  if (input.diskPlan && !input.diskPlan.ok)
    problems.push(
      ...input.diskPlan.problems.map((problem) => ({ ...problem, path: `/diskPlan${problem.path}` })),
    );
  const diskWork = input.diskPlan?.ok ? input.diskPlan.value : undefined;
  const stepInput = { ...input, diskWork };
  const steps = kindsOf(input, diskWork).flatMap((kind) =>
    stepMakers[kind].make(stepInput).map((draft) => stepOf(kind, draft)),
  );
  if (route.writesOver === 'system-partition' && !steps.some(({ kind }) => kind === 'format-system'))
    problems.push({
      code: 'no-system-partition',
      path: '/facts/disks',
      sentence: 'Which partition carries the system is no longer known: mark it among the disks.',
    });
  for (const alarm of custodyAlarms(steps, input.dataSets, uncountedOf(input.destinations, input.houseRules)))
    problems.push({ code: 'no-good-copy', path: `/dataSets/${alarm.dataSetId}`, sentence: alarm.sentence });
  if (problems.length > 0) return { ok: false, problems };

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

/** The kinds of steps that disk work adds; those of the route that it does in another way go. */
const diskKinds: readonly StepKind[] = [
  'keep-table',
  'shrink-partition',
  'change-layout',
  'convert-scheme',
  'boot-files',
  'switch-firmware',
];

function kindsOf(
  { route, installerMedium }: RunbookInput,
  diskWork: DiskWorkPlan | undefined,
): readonly StepKind[] {
  const kinds = stepsOfRoute(route, installerMedium);
  if (!diskWork) return kinds;
  const goal = diskWork.work.kind === 'layout' ? diskWork.work.goal.kind : 'convert';
  const replaced: readonly StepKind[] = [
    ...(goal === 'room' ? ['shrink-system' as const] : []),
    ...(goal === 'split' ? ['make-data-partition' as const] : []),
  ];
  return inStepOrder([...kinds.filter((kind) => !replaced.includes(kind)), ...diskKinds]);
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

function stepOf(asked: StepKind, draft: StepDraft): Step {
  const kind = draft.kind ?? asked;
  const { handsOn, waiting } = stepTimes[kind];
  return {
    id: draft.id ?? kind,
    kind,
    stage: stepMakers[kind].stage,
    title: draft.title,
    why: draft.why,
    caution: draft.caution ?? null,
    success: draft.success,
    handsOn: rounded(handsOn),
    waiting: rounded(addThreePoint(waiting, draft.extraWaiting ?? exactly(0))),
    destructive: draft.destructive ?? false,
    requiresLead: draft.requiresLead ?? false,
    effects: [...(draft.effects ?? [])],
    troubles: [...(draft.troubles ?? [])],
  };
}

/** Whole minutes; a wait that is not nothing is at least one. */
function rounded({ low, likely, high }: ThreePoint): ThreePoint {
  const whole = (minutes: number) => (minutes > 0 ? Math.max(1, Math.round(minutes)) : 0);
  return { low: whole(low), likely: whole(likely), high: whole(high) };
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
