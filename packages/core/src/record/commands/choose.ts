import { fail } from '../../outcome/outcome';
import type { InstallerMediumId } from '../../catalogue/catalogue';
import type { RequirementKind } from '../../catalogue/requirement';
import { installerMediaFor } from '../../route/installerMedia';
import { contextFor, decide } from '../../decide/candidates';
import { routes } from '../../route/catalogueOfRoutes';
import type { RouteId } from '../../route/definition';
import type { ChosenDisk, ChosenRoom } from '../../runbook/chosen';
import { lineCrossed } from '../../runbook/signature';
import { whyDiskUnfit, whyRoomUnfit, diskGoingBy } from '../chosenParts';
import type { Move } from '../move';
import { decideInput } from '../reading';
import {
  changed,
  onlyLeads,
  refuseWhenDone,
  type CommandContext,
  type CommandOutcome,
  todayOf,
} from './command';

export type RouteChoice = {
  readonly routeId: RouteId;
  readonly releaseId: string | null;
  readonly reason: string | null;
  /** Default: the stick. */
  readonly installerMedium?: InstallerMediumId;
  readonly waivers?: readonly RequirementKind[];
  /** The disk that is written; default: as the route goes. */
  readonly disk?: ChosenDisk | null;
  /** Room for a second system on the same disk; default: what the release asks for. */
  readonly room?: ChosenRoom | null;
};

/**
 * Chooses a route, how its installer is brought, and which checks are waived: each of those that stand
 * in the way, one by one. Choosing against the advice asks for a reason; an excluded route can be chosen
 * only by a lead, with a reason. Once the Line is crossed the route stays.
 */
export function chooseRoute(move: Move, choice: RouteChoice, context: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (move.plan && lineCrossed(move.plan.runbook, move.signatures))
    return fail('line-crossed', '/routeId', 'The Line has been crossed: the route stays as it is.');
  const { installerMedium: broughtBy = 'stick', waivers = [], disk = null, room = null } = choice;
  const input = decideInput(move, context, todayOf(context));
  const { candidates, advised } = decide(input);
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
  const unwaived = candidate.waivers.filter(({ rule }) => !waivers.includes(rule));
  if (unwaived.length > 0)
    return fail(
      'not-waived',
      '/waivers',
      `Waive each check by itself, or choose another route. Not waived: ${unwaived.map(({ sentence }) => sentence).join(' ')}`,
    );
  const may = [...candidate.waivers, ...candidate.mayWaive].map(({ rule }) => rule);
  const vain = waivers.filter((rule) => !may.includes(rule));
  if (vain.length > 0)
    return fail(
      'not-waivable',
      '/waivers',
      `On this route no check of ${vain.map((rule) => rule.replaceAll('-', ' ')).join(', ')} can be waived: take it from the list.`,
    );
  if (may.length > 0 && waivers.length === 0)
    return fail(
      'not-waived',
      '/waivers',
      `Waive at least one check, or take the route without waived checks. To be waived: ${candidate.mayWaive.map(({ sentence }) => sentence).join(' ')}`,
    );
  const asked = contextFor(input, candidate);
  const brought = asked
    ? installerMediaFor(asked, routes[candidate.routeId]).find(
        ({ installerMedium }) => installerMedium.id === broughtBy,
      )
    : undefined;
  if (brought?.finding.finding === 'excludes')
    return fail(
      'cannot-be-brought',
      '/installerMedium',
      `${brought.installerMedium.title}: ${brought.finding.sentence}`,
    );
  const route = routes[candidate.routeId];
  const unfit = whyDiskUnfit(move.facts, route, disk) ?? whyRoomUnfit(input, candidate, room);
  if (unfit) return fail('unfit-choice', unfit.path, unfit.sentence);
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
        bringing: broughtBy,
        waivers: may.filter((rule) => waivers.includes(rule)),
        disk: disk ?? diskGoingBy(move.facts, route),
        room,
      },
    },
    'route-chosen',
    candidate === advised
      ? `${candidate.title} chosen, as advised.`
      : `${candidate.title} chosen against the advice (${advised.title}): ${reason}`,
  );
}
