import { findRelease, supportDaysLeft, supportedUntil } from '../catalogue/find';
import { routes } from '../route/catalogueOfRoutes';
import { valueOf } from '../survey/facts';
import type { Move } from './move';
import type { House } from './reading';

/** Why a day stands on Today: the hold ends, the fixes of a system that stays do, or a trial is over. */
export const dayReasons = ['hold', 'fixes-end', 'isolation', 'trial'] as const;
export type DayReason = (typeof dayReasons)[number];

/**
 * The day on which somebody has to look at the device again, handed over or not; null where there is none.
 * @returns ISO date; `isolation`: from the day after it the present system stays off the network
 */
export function dayAhead(
  move: Move,
  { catalogue }: Pick<House, 'catalogue'>,
): { readonly day: string; readonly why: DayReason } | null {
  const { decision, preparation, wish, calledOff } = move;
  if (!decision || calledOff) return null;
  if (decision.routeId === 'hold')
    return preparation.holdUntil === null ? null : { day: preparation.holdUntil, why: 'hold' };
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
