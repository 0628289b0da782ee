import { fitOf } from '../backup/destinations/fit';
import { barrierInAll } from '../machine/barrier';
import type { Obstacle, PlanStep } from '../machine/carryOut';
import { after } from '../machine/operatorRules';
import { supplies } from '../machine/operators/needs';
import { orderSteps } from '../machine/order';
import type { Machine } from '../machine/state';
import { fail, succeed, type Outcome, type Problem } from '../outcome/outcome';
import type { StepKind } from '../rules/stepTimes';
import { custodyAlarms, uncountedOf } from './custody';
import type { DiskWorkPlan } from './diskWork';
import { draftSteps, timesOf } from './draftSteps';
import { gateOfProof } from './gateOfProof';
import { withDiskWork, type RunbookInput, type StepDraft } from './input';
import { worldsOf } from './machineOf';
import { runbookStages, type Step } from './step';
import { stepMakers } from './stepMakers';

/** A step with what it does to the machine. */
type PlannedStep = PlanStep & { readonly step: Step };

type PlannedSteps = {
  /** In an order in which they can be carried out; the last one hands over what was decided. */
  readonly steps: readonly PlannedStep[];
  /** The states of the machine that the survey leaves possible: the plan holds in each. */
  readonly worlds: readonly Machine[];
  readonly diskWork: DiskWorkPlan | undefined;
};

/** Drafts every step, and puts them in the order that their needs ask for; refused as `buildRunbook` says. */
export function planSteps(input: RunbookInput): Outcome<PlannedSteps> {
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
  const stepInput = withDiskWork(input);
  const { diskWork } = stepInput;
  const drafted = draftSteps(stepInput).map(({ kind, draft }) => {
    const step = stepOf(kind, draft);
    return { id: step.id, operators: draft.operators(), step };
  });
  if (route.writesOver === 'system-partition' && !drafted.some(({ step }) => step.kind === 'format-system'))
    problems.push({
      code: 'no-system-partition',
      path: '/facts/disks',
      sentence: 'Which partition carries the system is no longer known: mark it among the disks.',
    });
  const asDrafted = drafted.map(({ step }) => step);
  for (const alarm of custodyAlarms(
    asDrafted,
    input.dataSets,
    uncountedOf(input.destinations, input.houseRules),
  ))
    problems.push({ code: 'no-good-copy', path: `/dataSets/${alarm.dataSetId}`, sentence: alarm.sentence });
  if (problems.length > 0) return { ok: false, problems };
  const worlds = worldsOf(stepInput);
  const ordered = orderSteps(worlds, drafted);
  if (!ordered.ok) return { ok: false, problems: obstaclesIn(drafted, ordered.obstacles) };
  return succeed({ steps: withBarriers(inStages(ordered.steps), worlds), worlds, diskWork });
}

/** What stops the steps that could not be placed: the step, what is missing, and where that would come from. */
function obstaclesIn(drafted: readonly PlannedStep[], obstacles: readonly Obstacle[]): readonly Problem[] {
  return obstacles.slice(0, 3).map(({ stepId, need }) => {
    const title = drafted.find(({ id }) => id === stepId)?.step.title ?? stepId;
    const supplier = drafted.find(
      ({ id, operators }) =>
        id !== stepId &&
        need.suppliedBy !== 'anything' &&
        operators.some((operator) => supplies(operator, need)),
    );
    return {
      code: 'cannot-be-carried-out',
      path: `/steps/${stepId}`,
      sentence: `“${title}” cannot be done: ${need.missing}.${supplier ? ` “${supplier.step.title}” would have to come first, and cannot.` : ' Nothing in this plan changes that: choose another route or installer medium, or change the device.'}`,
    };
  });
}

/** Barriers before the steps above the Line, which has its own gates; below it only encrypting has one. */
function withBarriers(steps: readonly PlannedStep[], worlds: readonly Machine[]): readonly PlannedStep[] {
  const line = steps.findIndex(({ step }) => step.destructive);
  let states = worlds;
  return steps.map((planned, index) => {
    const barrier = barrierInAll(states, planned);
    states = states.map((state) => planned.operators.reduce(after, state));
    const isBelow = line >= 0 && index >= line;
    const gates = (barrier?.proofs ?? [])
      .filter((proof) => !isBelow || proof === 'note:passphrase')
      .map((proof) => gateOfProof[proof]);
    if (!barrier || gates.length === 0) return planned;
    return { ...planned, step: { ...planned.step, barrier: { gates, dataSetIds: [...barrier.sets] } } };
  });
}

/** A step is never in an earlier stage than the one above it. */
function inStages(steps: readonly PlannedStep[]): readonly PlannedStep[] {
  let furthest = 0;
  return steps.map((planned) => {
    const { stage } = planned.step;
    furthest = Math.max(furthest, runbookStages.indexOf(stage));
    return { ...planned, step: { ...planned.step, stage: runbookStages[furthest] ?? stage } };
  });
}

function stepOf(kind: StepKind, draft: StepDraft): Step {
  const { title, why, success, caution = null } = draft.words();
  return {
    id: draft.id ?? kind,
    kind,
    stage: stepMakers[kind].stage,
    title,
    why,
    caution,
    success,
    ...timesOf(kind, draft),
    destructive: draft.destructive ?? false,
    requiresLead: draft.requiresLead ?? false,
    effects: [...(draft.effects ?? [])],
    troubles: [...(draft.troubles ?? [])],
  };
}
