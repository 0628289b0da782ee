import { valueOf } from '../survey/facts';
import type { WaitingMove } from '../schedule/nextUp';
import { standingOf } from '../runbook/signature';
import { troubleSigns } from '../runbook/troubles';
import type { Move } from './move';
import { readPlan, type House } from './reading';
import { runningWait, stageOf, type Stage } from './stage';
import { detourSteps, openTroubleOf } from './troubles';

const nextByStage: Record<Stage, string> = {
  survey: 'Run the survey',
  decide: 'Choose a route',
  save: 'List what is saved, and where it goes',
  prepare: 'Make the runbook',
  cross: 'Cross the Line',
  settle: 'Settle',
  'hand-over': 'Hand over',
  done: 'Nothing: handed over',
};

/** @example deviceTitle(facts) // 'Kestle Fenwright 14' */
export function deviceTitle(facts: Move['facts']): string {
  const parts = [valueOf(facts, 'maker'), valueOf(facts, 'model')].filter((part) => part !== undefined);
  return parts.length === 0 ? 'unknown device' : parts.join(' ');
}

/** What a move asks for next, as one line of the list of hands. */
export function handsOf(move: Move, house: House): WaitingMove {
  const wait = runningWait(move);
  const reading = readPlan(move, house);
  const steps = move.plan?.runbook.steps ?? [];
  const trouble = openTroubleOf(move);
  const next = [...(reading?.stops ?? []), ...(reading?.standings ?? [])].find(
    ({ state }) => state === 'open' || state === 'locked',
  );
  const step = [...detourSteps(move), ...steps].find(({ id }) => id === next?.stepId);
  return {
    reference: move.reference,
    device: deviceTitle(move.facts),
    site: move.site,
    dueOn: move.dueOn,
    wait: wait ? { title: wait.title, startedAt: wait.startedAt, minutes: wait.minutes } : null,
    nextTitle: move.calledOff
      ? `Called off: ${move.calledOff.reason}`
      : trouble
        ? `${troubleSigns[trouble.sign]}: ${trouble.detour ? `detour, ${step?.title ?? trouble.detour.title}` : 'find the cause'}`
        : (step?.title ?? nextByStage[stageOf(move)]),
    begun: steps.some(({ id }) => standingOf(move.signatures, id).state !== 'open'),
    // Who finds the cause is not blocked: that is the work.
    blockedBecause: next?.state === 'locked' && (!trouble || trouble.detour) ? next.reason : null,
  };
}
