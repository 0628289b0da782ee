import { copiesOf, countingCopies, type CopiesOfDataSet } from '../backup/copies/copies';
import type { Copy } from '../backup/scope/dataSet';
import type { HouseRules } from '../rules/houseRules';
import { routes } from '../route/catalogueOfRoutes';
import { uncountedOf } from '../runbook/custody';
import type { Move } from './move';

type CopiesReading = {
  readonly status: readonly CopiesOfDataSet[];
  /** The copies that count. */
  readonly counting: readonly Copy[];
  /** Destinations whose copies never count. */
  readonly uncounted: ReadonlySet<string>;
};

/**
 * The copies of a move against those that it needs. Until a route is chosen everything counts as erased.
 * @param houseRules house rules with the move's exceptions
 */
export function readCopies(
  { dataSets, destinations, copies, decision }: Move,
  houseRules: HouseRules,
): CopiesReading {
  const writesOver = decision ? routes[decision.routeId].writesOver : 'whole-disk';
  const status = copiesOf(dataSets, destinations, copies, writesOver, houseRules);
  return {
    status,
    counting: countingCopies(copies, status),
    uncounted: uncountedOf(destinations, houseRules),
  };
}
