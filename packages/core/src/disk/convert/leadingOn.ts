import { dequal } from 'dequal';
import type { Obstacle, PlannedTable, Resolution } from './conversion';

/** The way on that is always there. */
export const layOutAnew = 'Save the data, and lay the disk out anew.';

/** Beyond so many remedies they are offered untried. */
const maxTried = 60;

const same = (one: Obstacle, other: Obstacle) => one.code === other.code && one.path === other.path;

/**
 * Obstacles with those of their remedies that lead on: each is tried, and one after which the same obstacle stands there
 * with the same choices, or a new one without a way on, is not offered. No obstacle is without a way on.
 */
export function leadingOn(
  obstacles: readonly Obstacle[],
  chosen: readonly Resolution[],
  planWith: (resolutions: readonly Resolution[]) => PlannedTable,
): readonly Obstacle[] {
  const count = obstacles.reduce((sum, { remedies }) => sum + remedies.length, 0);
  const leads = (obstacle: Obstacle, resolution: Resolution) => {
    const next = planWith([...chosen, resolution]);
    if (next.ok) return true;
    const again = next.problems.find((one) => same(one, obstacle));
    if (again && dequal(again, obstacle)) return false;
    return next.problems.every(
      (one) => one.remedies.length > 0 || obstacles.some((known) => same(known, one)),
    );
  };
  return obstacles.map((obstacle) => {
    const remedies =
      count > maxTried
        ? obstacle.remedies
        : obstacle.remedies.filter(({ resolution }) => leads(obstacle, resolution));
    const { otherwise = layOutAnew, ...rest } = obstacle;
    return remedies.length > 0 && obstacle.otherwise === undefined
      ? { ...rest, remedies }
      : { ...rest, remedies, otherwise };
  });
}
