import { rankFixes } from '../assess/fixes';
import type { Part, Verdict } from '../assess/judgement';
import { findRelease, supportDaysLeft } from '../catalogue/find';
import { decide } from '../decide/candidates';
import type { RouteId } from '../route/definition';
import type { Move } from './move';
import { decideInput, type House } from './reading';

/** What a fleet's list shows of a device's future, without opening the move. */
type Outlook = {
  /** Its verdict against every release, by release id. */
  readonly verdicts: Readonly<Record<string, Verdict>>;
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
  const { assessments, advised, outlook } = decide(decideInput(move, house, today));
  const supported = assessments.filter(({ releaseId }) => {
    const release = findRelease(house.catalogue, releaseId);
    return release !== undefined && supportDaysLeft(release, today) >= 0;
  });
  const target = move.decision ? move.decision.releaseId : advised.releaseId;
  const parts = assessments
    .filter(({ releaseId }) => releaseId === target)
    .flatMap(({ judgements }) => judgements.flatMap(({ fix }) => (fix?.part ? [fix.part] : [])));
  return {
    verdicts: Object.fromEntries(assessments.map(({ releaseId, verdict }) => [releaseId, verdict])),
    verdict: outlook.family,
    advice: advised.title,
    adviceRouteId: advised.routeId,
    unlock: rankFixes(supported)[0]?.action ?? null,
    parts,
  };
}
