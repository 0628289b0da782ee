import type { RouteDefinition, RouteId } from './definition';
import { alternativeSystem } from './routes/alternativeSystem';
import { cleanSystemPartition } from './routes/cleanSystemPartition';
import { cleanWholeDisk } from './routes/cleanWholeDisk';
import { hold } from './routes/hold';
import { inPlaceUpgrade } from './routes/inPlaceUpgrade';

/** Every route; adding one is adding its entry here. */
export const routes: Readonly<Record<RouteId, RouteDefinition>> = {
  'in-place-upgrade': inPlaceUpgrade,
  'clean-whole-disk': cleanWholeDisk,
  'clean-system-partition': cleanSystemPartition,
  'alternative-system': alternativeSystem,
  hold,
};

/** @example isRouteId('hold') // true */
export function isRouteId(text: string): text is RouteId {
  return text in routes;
}
