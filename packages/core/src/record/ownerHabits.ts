import { byText } from '../quantity/order';
import { standingOf } from '../runbook/signature';
import { deviceTitle } from './hands';
import type { Move } from './move';

/** What an owner was shown and set up when they got a device: whoever brings the next one begins there. */
type OwnerHabits = {
  readonly reference: string;
  readonly device: string;
  /** ISO instant. */
  readonly at: string;
  readonly by: string;
  /** What they moved to, as the runbook is called. */
  readonly move: string;
  /** As it was noted at that step; empty where nothing was. */
  readonly note: string;
};

/** From the signatures under “Set up the owner’s habits” of an owner’s moves, the latest first. */
export function ownerHabits(moves: readonly Move[]): readonly OwnerHabits[] {
  return moves.flatMap((move) => habitsOf(move) ?? []).sort((a, b) => byText(b.at, a.at));
}

/** Undefined where that step is not there or not signed. */
function habitsOf(move: Move): OwnerHabits | undefined {
  const runbook = move.plan?.runbook;
  const step = runbook?.steps.find(({ kind }) => kind === 'habits');
  if (!runbook || !step) return undefined;
  const { state, last } = standingOf(move.signatures, step.id);
  if (state !== 'signed' || !last) return undefined;
  return {
    reference: move.reference,
    device: deviceTitle(move.facts),
    at: last.at,
    by: last.by,
    move: runbook.title,
    note: last.note,
  };
}
