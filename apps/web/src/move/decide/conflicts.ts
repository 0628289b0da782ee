import { findRelease } from '@ulvane/core/catalogue';
import type { Candidate, DecideInput } from '@ulvane/core/decide';
import { routes, setUpConflicts, type SetUpConflict } from '@ulvane/core/route';

/** What the set-up of an option has against the house rules, with the ways out. */
export function conflictsOf(
  { catalogue, houseRules, facts }: DecideInput,
  { routeId, releaseId }: Candidate,
): readonly SetUpConflict[] {
  const release = findRelease(catalogue, releaseId ?? undefined);
  return setUpConflicts(routes[routeId], { houseRules, release, facts }, catalogue.releases);
}
