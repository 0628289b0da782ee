import { countGrades } from '../backup/copies/grade';
import { minutesBetween } from '../quantity/day';
import type { Signature } from '../runbook/signature';
import { isSigned, standingOf } from '../runbook/signature';
import type { Move } from './move';

/**
 * Keeps the runbook's copy steps and the copies on Save in agreement: a destination that has all its copies has its
 * steps signed, with their grades and with the minutes since the start, and one that lost a copy has them open again.
 */
export function alignCopySteps(move: Move, at: string, by: string): Move {
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
    const note = countGrades(move.copies.filter(({ destinationId }) => destinationId === destination.id));
    for (const { id, title } of own) {
      const { state, last } = standingOf(move.signatures, id);
      const signed = state === 'signed';
      const actualMinutes = state === 'started' && last ? Math.round(minutesBetween(last.at, at)) : null;
      if (whole && !signed) added.push({ stepId: id, title, action: 'sign', at, by, actualMinutes, note });
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
