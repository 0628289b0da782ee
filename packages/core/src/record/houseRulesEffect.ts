import { decide } from '../decide/candidates';
import { buildRunbook } from '../runbook/buildRunbook';
import { planDifferences } from '../runbook/stale';
import type { HouseRules } from '../rules/houseRules';
import type { Move } from './move';
import { decideInput, runbookInput, type House } from './reading';

type HouseRulesEffect = {
  readonly advisedBefore: string;
  readonly advisedAfter: string;
  /** What would be different in the plan of this move, a sentence each. */
  readonly plan: readonly string[];
};

/**
 * What other house rules would do to one move: its advice, and its plan. Without a chosen route
 * the plan of the advised one is compared.
 */
export function houseRulesEffect(
  move: Move,
  house: House,
  houseRules: HouseRules,
  today: string,
): HouseRulesEffect {
  const after = { ...house, houseRules };
  const before = decide(decideInput(move, house, today)).advised;
  const next = decide(decideInput(move, after, today)).advised;
  const chosen = move.decision ?? {
    routeId: before.routeId,
    releaseId: before.releaseId,
    at: move.createdAt,
    by: '',
    reason: null,
    advisedTitle: before.title,
    bringing: 'stick' as const,
    waivers: before.waivers.map(({ rule }) => rule),
    disk: null,
    room: null,
  };
  const planned = { ...move, decision: chosen };
  const was = runbookInput(planned, house);
  const is = runbookInput(planned, after);
  const built = was && is ? [buildRunbook(was), buildRunbook(is)] : [];
  const [one, other] = built;
  return {
    advisedBefore: before.title,
    advisedAfter: next.title,
    plan:
      one?.ok && other?.ok
        ? planDifferences(one.value, other.value).map(({ sentence }) => sentence)
        : built.flatMap((outcome) => (outcome.ok ? [] : outcome.problems.map(({ sentence }) => sentence))),
  };
}
