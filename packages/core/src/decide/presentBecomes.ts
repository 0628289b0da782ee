import type { Release } from '../catalogue/catalogue';
import { supportDaysLeft, supportedUntil } from '../catalogue/find';
import { routes } from '../route/catalogueOfRoutes';
import type { RouteContext, RouteId } from '../route/definition';

/**
 * What a route makes of the present system, as a sentence.
 * @example presentBecomes('clean-whole-disk', context) // 'The present system is erased with its disk.'
 */
export function presentBecomes(
  routeId: RouteId,
  { present, isEmpty, today, wish }: Pick<RouteContext, 'present' | 'isEmpty' | 'today' | 'wish'>,
): string {
  if (isEmpty) return 'There is no system on it yet.';
  const { steps, writesOver } = routes[routeId];
  if (routeId === 'stay') return `The present system stays as it is${until(present)}.`;
  if (routeId === 'hold') return 'The present system stays, off the network.';
  if (routeId === 'replace')
    return 'The present system is wiped with its disk once the data is on the new device.';
  if (steps.includes('isolate-old-system')) {
    const trial = wish?.until == null ? '' : ` On ${wish.until} the trial ends: one of the two goes.`;
    return present && supportDaysLeft(present, today) >= 0
      ? `The present system stays, on the network${until(present)}.${trial}`
      : `The present system stays, off the network.${trial}`;
  }
  if (steps.includes('start-upgrade') || steps.includes('install-over'))
    return 'The present system becomes the new one.';
  return writesOver === 'system-partition'
    ? 'The present system is erased with its partition.'
    : 'The present system is erased with its disk.';
}

function until(present: Release | undefined): string {
  const day = present && supportedUntil(present);
  return day == null ? '' : ` until ${day}`;
}
