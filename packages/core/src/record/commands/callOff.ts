import { fail } from '../../outcome/outcome';
import { lineCrossed } from '../../runbook/signature';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** Calls a move off, with a reason that the log keeps: nothing of it is deleted, and it can be resumed. */
export function callOff(move: Move, reason: string, { actor, now }: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (move.plan && lineCrossed(move.plan.runbook, move.signatures))
    return fail(
      'line-crossed',
      '/reason',
      'The Line has been crossed: the device has to be finished, or its data restored. Go on with the runbook.',
    );
  if (reason.trim() === '') return fail('reason-needed', '/reason', 'Say why the move is called off.');
  return changed(
    { ...move, calledOff: { reason: reason.trim(), at: now, by: actor.name } },
    'called-off',
    `Called off: ${reason.trim()}`,
  );
}

/** Resumes a move that was called off, where it was. */
export function resume(move: Move): CommandOutcome {
  if (!move.calledOff) return fail('not-called-off', '', `${move.reference} is not called off.`);
  return changed({ ...move, calledOff: null }, 'resumed', 'Resumed.');
}
