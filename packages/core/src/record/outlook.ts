import { rankFixes } from '../assess/fixes';
import type { Part, Verdict } from '../assess/judgement';
import { findRelease, supportDaysLeft } from '../catalogue/find';
import { decide } from '../decide/candidates';
import { fitOf, type Fit } from '../decide/fitCell';
import type { RouteId } from '../route/definition';
import type { Move } from './move';
import { decideInput, type House } from './reading';

/** What a fleet's list shows of a device's future, without opening the move. */
type Outlook = {
  /** What every release that still gets updates would take. */
  readonly fit: Fit;
  /** The best verdict among the supported releases that are newer than the present one. */
  readonly verdict: Verdict;
  readonly advice: string;
  readonly adviceRouteId: RouteId;
  /** The fix that unlocks most supported releases; null where none does. */
  readonly unlock: string | null;
  /** Parts to buy for the chosen release, or the advised one. */
  readonly parts: readonly Part[];
};

/** Assesses and advises a move for the lists. @param today ISO date */
export function outlookOf(move: Move, house: House, today: string): Outlook {
  const input = decideInput(move, house, today);
  const choice = decide(input);
  const { assessments, advised, outlook } = choice;
  const supported = assessments.filter(({ releaseId }) => {
    const release = findRelease(house.catalogue, releaseId);
    return release !== undefined && supportDaysLeft(release, today) >= 0;
  });
  const target = move.decision ? move.decision.releaseId : advised.releaseId;
  const parts = assessments
    .filter(({ releaseId }) => releaseId === target)
    .flatMap(({ judgements }) => judgements.flatMap(({ fix }) => (fix?.part ? [fix.part] : [])));
  return {
    fit: fitOf(input, choice),
    verdict: outlook.family,
    advice: advised.title,
    adviceRouteId: advised.routeId,
    unlock: rankFixes(supported)[0]?.action ?? null,
    parts,
  };
}
