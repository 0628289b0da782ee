import { databaseDrills } from './database';
import type { Drill } from './drill';
import { fuzzDrill } from './fuzz';
import { largestDrill } from './largest';
import { serverDrills } from './servers';
import { uploadDrills } from './uploads';

/** Every drill that runs in a world of its own. */
export const drills: readonly Drill[] = [
  ...serverDrills,
  ...databaseDrills,
  ...uploadDrills,
  fuzzDrill,
  largestDrill,
];
