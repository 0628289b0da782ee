/** Which ways lead to a release, which are allowed, and how they compare. */
export { aspectsOf } from './aspects';
export { type BlockingUnknown, blockingUnknowns } from './blockingUnknowns';
export { installerMedia, installerMediaFor, stepsOfRoute } from './installerMedia';
export {
  type Candidate,
  type Choice,
  type DecideInput,
  candidateFor,
  contextFor,
  decide,
} from './candidates';
export { isRouteId, routes } from './catalogueOfRoutes';
export { beats, unbeaten, weightLimits } from './compare';
export { type RouteDefinition, type RouteId, isApart, routeIds } from './definition';
export { activationTexts, readLicence } from './licence';
export { pointsOf, scoreTerms, shownPoints } from './score';
export { smallestChange } from './smallestChange';
export { type FactThatTurns, type WhatWouldChange, advicesOf, whatWouldChange } from './whatWouldChange';
