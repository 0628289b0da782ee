import { isSigned } from '../runbook/signature';
import type { Step } from '../runbook/step';
import { accountFor } from './handover';
import type { Move } from './move';

/** Whether every step before this one is signed: below the Line they are signed in order. */
function isNext(move: Move, steps: readonly Step[], step: Step): boolean {
  return steps.slice(0, steps.indexOf(step)).every(({ id }) => isSigned(move.signatures, id));
}

/**
 * Keeps the step that accounts for every file telling what is so: it is signed automatically once the last data set is equal or
 * explained, and opens again when one no longer is. Nobody has to say what the comparison has said.
 */
export function alignAccounting(move: Move, at: string, by: string): Move {
  const steps = move.plan?.runbook.steps ?? [];
  const step = steps.find(({ kind }) => kind === 'reconcile');
  if (!step || move.dataSets.length === 0) return move;
  const whole = accountFor(move).every(({ state }) => state !== 'open');
  const signed = isSigned(move.signatures, step.id);
  if (whole === signed || (whole && !isNext(move, steps, step))) return move;
  const line = { stepId: step.id, title: step.title, at, by, actualMinutes: null };
  return {
    ...move,
    signatures: [
      ...move.signatures,
      whole
        ? { ...line, action: 'sign', note: 'signed by itself: every file is accounted for' }
        : { ...line, action: 'unsign', note: 'not every file is accounted for any more' },
    ],
  };
}
