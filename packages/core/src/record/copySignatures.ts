import type { Signature } from '../runbook/signature';
import { isSigned } from '../runbook/signature';
import type { Move } from './move';

/**
 * Keeps the runbook's copy steps and the ticks on Save telling the same: a destination whose copies
 * are all verified has its steps signed, and one that lost a verified copy has them open again.
 */
export function alignCopySteps(move: Move, at: string, by: string, note = 'ticked on Save'): Move {
  const steps = move.plan?.runbook.steps ?? [];
  const added: Signature[] = [];
  for (const destination of move.destinations) {
    const whole =
      destination.takes.length > 0 &&
      destination.takes.every((dataSetId) => hasCopy(move, dataSetId, destination.id));
    const own = steps.filter(
      ({ id }) => id === `copy:${destination.id}` || id === `verify:${destination.id}`,
    );
    // Copying may be signed before verifying is; only a verified step that is no longer true is opened.
    const wasVerified = isSigned(move.signatures, `verify:${destination.id}`);
    for (const { id, title } of own) {
      const signed = isSigned(move.signatures, id);
      if (whole && !signed)
        added.push({ stepId: id, title, action: 'sign', at, by, actualMinutes: null, note });
      if (!whole && signed && wasVerified)
        added.push({
          stepId: id,
          title,
          action: 'unsign',
          at,
          by,
          actualMinutes: null,
          note: 'its copies are no longer whole',
        });
    }
  }
  return added.length === 0 ? move : { ...move, signatures: [...move.signatures, ...added] };
}

export function hasCopy(move: Pick<Move, 'copies'>, dataSetId: string, destinationId: string): boolean {
  return move.copies.some((copy) => copy.dataSetId === dataSetId && copy.destinationId === destinationId);
}
