import { valueOf } from '../survey/facts';
import type { WaitingMove } from '../schedule/nextUp';
import { standingOf } from '../runbook/signature';
import type { Move } from './move';
import { readPlan, type House } from './reading';
import { runningWait, stageOf, type Stage } from './stage';

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
  const next = reading?.standings.find(({ state }) => state === 'open' || state === 'locked');
  const step = steps.find(({ id }) => id === next?.stepId);
  return {
    reference: move.reference,
    device: deviceTitle(move.facts),
    site: move.site,
    dueOn: move.dueOn,
    wait: wait ? { title: wait.title, startedAt: wait.startedAt, minutes: wait.minutes } : null,
    nextTitle: move.calledOff
      ? `Called off: ${move.calledOff.reason}`
      : (step?.title ?? nextByStage[stageOf(move)]),
    begun: steps.some(({ id }) => standingOf(move.signatures, id).state !== 'open'),
    blockedBecause: next?.state === 'locked' ? next.reason : null,
  };
}
