import { routes } from '../route/catalogueOfRoutes';
import type { HouseRules } from '../rules/houseRules';
import { isSigned, standingOf } from '../runbook/signature';
import { completeness } from '../survey/completeness';
import type { Move } from './move';
import { readCopies } from './readCopies';
import { stepsInOrder } from './troubles';

export const stages = [
  'survey',
  'decide',
  'save',
  'prepare',
  'cross',
  'settle',
  'hand-over',
  'done',
] as const;
export type Stage = (typeof stages)[number];

export const stageTitles: Record<Stage, string> = {
  survey: 'Survey',
  decide: 'Decide',
  save: 'Save',
  prepare: 'Prepare',
  cross: 'Cross',
  settle: 'Settle',
  'hand-over': 'Hand over',
  done: 'Done',
};

/** Whether something has to be saved first: not where nothing is done to the device. */
export function asksForCopies({ decision }: Pick<Move, 'decision'>): boolean {
  return decision === null || routes[decision.routeId].steps.includes('copy');
}

/** The stage that a move is in: the first whose work is not done. */
export function stageOf(move: Move): Stage {
  if (move.handover.signedOff || move.calledOff) return 'done';
  if (Object.keys(move.facts).length === 0) return 'survey';
  if (!move.decision) return 'decide';
  if (!move.plan)
    return asksForCopies(move) && move.dataSets.length === 0 && !move.preparation.nothingToSave
      ? 'save'
      : 'prepare';
  const open = move.plan.runbook.steps.find(({ id }) => !isSigned(move.signatures, id));
  return open?.stage ?? 'hand-over';
}

/**
 * The stages whose work is done, wherever the move is: not with a fact unknown, a copy missing or a step unsigned.
 * @param houseRules house rules with the move's exceptions
 */
export function stagesDone(move: Move, houseRules: HouseRules): ReadonlySet<Stage> {
  const steps = move.plan?.runbook.steps;
  const signed = (stage: Stage) =>
    steps !== undefined && steps.every((step) => step.stage !== stage || isSigned(move.signatures, step.id));
  const scope = move.dataSets.length > 0 || move.preparation.nothingToSave !== null || !asksForCopies(move);
  const whole =
    move.failedChecks.length === 0 &&
    readCopies(move, houseRules).status.every(({ short }) => short === null);
  const done: Record<Stage, boolean> = {
    survey: Object.keys(move.facts).length > 0 && completeness(move.facts).unknowns.length === 0,
    decide: move.decision !== null,
    save: scope && whole && (steps === undefined || signed('save')),
    prepare: signed('prepare'),
    cross: signed('cross'),
    settle: signed('settle'),
    'hand-over': move.handover.signedOff !== null,
    done: move.handover.signedOff !== null,
  };
  return new Set(stages.filter((stage) => done[stage]));
}

/** Whether a waiting step is under way, and until when (ISO instant): the earliest such. */
export function runningWait(
  move: Move,
):
  | { readonly stepId: string; readonly title: string; readonly startedAt: string; readonly minutes: number }
  | undefined {
  const running = stepsInOrder(move).flatMap((step) => {
    const { state, last } = standingOf(move.signatures, step.id);
    return state === 'started' && last
      ? [{ stepId: step.id, title: step.title, startedAt: last.at, minutes: step.waiting.likely }]
      : [];
  });
  return running.sort(
    (a, b) => Date.parse(a.startedAt) + a.minutes * 60_000 - (Date.parse(b.startedAt) + b.minutes * 60_000),
  )[0];
}
