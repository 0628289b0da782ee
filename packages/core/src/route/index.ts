/** Which ways lead to a release, by which rules, and how the installer is brought. */
export { installerMedia, installerMediaFor, stepsOfRoute } from './installerMedia';
export { isRouteId, routes } from './catalogueOfRoutes';
export { type RouteDefinition, type RouteId, isApart, routeIds } from './definition';
export { activationTexts, readLicence } from './licence';
export { type SetUpConflict, conflictText, setUpConflicts, withoutWords } from './setUp';
export { type Purpose, type Wish, WishSchema, purposeTexts, purposes } from './wish';
