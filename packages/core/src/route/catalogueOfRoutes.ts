import type { RouteDefinition, RouteId } from './definition';
import { alternativeSystem } from './routes/alternativeSystem';
import { besideSameDisk, besideSecondDisk } from './routes/beside';
import { cleanSystemPartition } from './routes/cleanSystemPartition';
import { cleanWholeDisk } from './routes/cleanWholeDisk';
import { hold } from './routes/hold';
import { inPlaceUpgrade } from './routes/inPlaceUpgrade';
import { patchedInstall } from './routes/patchedInstall';
import { replace } from './routes/replace';
import { stay } from './routes/stay';
import { waivedClean, waivedSystemPartition, waivedUpgrade } from './routes/waivedChecks';

/** Every route; adding one is adding its entry here. */
export const routes: Readonly<Record<RouteId, RouteDefinition>> = {
  'in-place-upgrade': inPlaceUpgrade,
  'clean-whole-disk': cleanWholeDisk,
  'clean-system-partition': cleanSystemPartition,
  'waived-upgrade': waivedUpgrade,
  'waived-clean': waivedClean,
  'waived-system-partition': waivedSystemPartition,
  'patched-install': patchedInstall,
  'beside-same-disk': besideSameDisk,
  'beside-second-disk': besideSecondDisk,
  'alternative-system': alternativeSystem,
  replace,
  stay,
  hold,
};

/** @example isRouteId('hold') // true */
export function isRouteId(text: string): text is RouteId {
  return text in routes;
}
