import { findRelease, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { addDays } from '../quantity/day';
import { routes } from '../route/catalogueOfRoutes';
import { isSigned } from '../runbook/signature';
import { valueOf } from '../survey/facts';
import type { Move } from './move';
import type { House } from './reading';

/** Why a day stands on Today: the hold ends, the fixes of a system that stays do, a trial is over, or the way back from an upgrade closes. */
export const dayReasons = ['hold', 'fixes-end', 'isolation', 'trial', 'go-back'] as const;
export type DayReason = (typeof dayReasons)[number];

/** The day on which a step was signed; undefined while it is open. */
function lastSigned({ signatures }: Move, stepId: string): string | undefined {
  return isSigned(signatures, stepId)
    ? signatures.findLast((one) => one.stepId === stepId && one.action === 'sign')?.at.slice(0, 10)
    : undefined;
}

/**
 * The day on which somebody has to look at the device again, handed over or not; null where there is none.
 * @returns ISO date; `isolation`: from the day after it the present system stays off the network; `go-back`: the last day on which the upgrade can be taken back
 */
export function dayAhead(
  move: Move,
  { catalogue }: Pick<House, 'catalogue'>,
): { readonly day: string; readonly why: DayReason } | null {
  const { decision, preparation, wish, calledOff } = move;
  if (!decision || calledOff) return null;
  if (decision.routeId === 'hold')
    return preparation.holdUntil === null ? null : { day: preparation.holdUntil, why: 'hold' };
  const upgraded = lastSigned(move, 'start-upgrade');
  if (upgraded !== undefined) {
    const { goBackDays = 0 } = findRelease(catalogue, decision.releaseId ?? undefined) ?? {};
    return goBackDays === 0 ? null : { day: addDays(upgraded, goBackDays), why: 'go-back' };
  }
  const stays = decision.routeId === 'stay';
  const isBeside = routes[decision.routeId].steps.includes('isolate-old-system');
  if (!stays && !isBeside) return null;
  if (isBeside && wish?.until != null) return { day: wish.until, why: 'trial' };
  const present = findRelease(catalogue, valueOf(move.facts, 'presentRelease'));
  const until = present ? supportedUntil(present) : null;
  // One whose fixes are over when the second system comes is isolated by a step, and not on a day.
  const overAlready = present !== undefined && supportDaysLeft(present, decision.at.slice(0, 10)) < 0;
  if (until === null || overAlready) return null;
  return { day: until, why: stays ? 'fixes-end' : 'isolation' };
}
