import { fail } from '../../outcome/outcome';
import { decide } from '../../route/candidates';
import type { RouteId } from '../../route/definition';
import { lineCrossed } from '../../runbook/signature';
import type { Move } from '../move';
import { changed, onlyLeads, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/**
 * Chooses a route. Choosing against the advice asks for a reason; an excluded route can be chosen
 * only by a lead, with a reason. Once the Line is crossed the route stays.
 */
export function chooseRoute(
  move: Move,
  choice: { readonly routeId: RouteId; readonly releaseId: string | null; readonly reason: string | null },
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (move.plan && lineCrossed(move.plan.runbook, move.signatures))
    return fail('line-crossed', '/routeId', 'The Line has been crossed: the route stays as it is.');
  const { candidates, advised } = decide({
    facts: move.facts,
    catalogue: context.catalogue,
    practice: context.practice,
    today: context.now.slice(0, 10),
  });
  const candidate = candidates.find(
    ({ routeId, releaseId }) => routeId === choice.routeId && releaseId === choice.releaseId,
  );
  if (!candidate)
    return fail(
      'no-such-candidate',
      '/routeId',
      'This route does not lead to that release: choose one of the candidates on Decide.',
    );
  const reason = choice.reason?.trim() ?? '';
  if (candidate.status === 'excluded' && context.actor.role !== 'lead')
    return onlyLeads('choose a route that is excluded');
  if (candidate !== advised && reason === '')
    return fail(
      'reason-needed',
      '/reason',
      `The advice is “${advised.title}”. Say why “${candidate.title}” is chosen against it.`,
    );
  return changed(
    {
      ...move,
      decision: {
        routeId: candidate.routeId,
        releaseId: candidate.releaseId,
        at: context.now,
        by: context.actor.name,
        reason: candidate === advised ? null : reason,
        advisedTitle: advised.title,
      },
    },
    'route-chosen',
    candidate === advised
      ? `${candidate.title} chosen, as advised.`
      : `${candidate.title} chosen against the advice (${advised.title}): ${reason}`,
  );
}
