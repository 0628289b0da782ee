import { routes } from '../route/catalogueOfRoutes';
import { diskToWrite } from '../runbook/diskToWrite';
import type { Disk } from '../survey/disk';
import type { Move } from './move';

/** The disk that the decision writes to; undefined without one, and where it cannot be told. */
export function diskOfDecision({ facts, decision }: Pick<Move, 'facts' | 'decision'>): Disk | undefined {
  return decision ? diskToWrite({ facts, route: routes[decision.routeId], disk: decision.disk }) : undefined;
}

/** The disk that the plan writes to; undefined without a plan, and where it cannot be told. */
export function diskOfPlan(move: Move): Disk | undefined {
  return move.plan
    ? diskToWrite({
        facts: move.facts,
        route: routes[move.plan.runbook.routeId],
        disk: move.decision?.disk ?? null,
      })
    : undefined;
}
