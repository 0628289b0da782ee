/** Releases, models, applications, file systems: read, checked, edited. */
export {
  type Activation,
  type Application,
  type InstallerMediumId,
  type Catalogue,
  type CatalogueEntry,
  type CatalogueFile,
  CatalogueFileSchema,
  type CatalogueKind,
  CatalogueSchema,
  type Model,
  type Release,
  activationKinds,
  encryptionMoments,
  loaderSignatures,
  installerMediumIds,
  mediumWays,
  driverParts,
  setUpSkips,
  type MediumWay,
  catalogueKinds,
  entrySchemas,
  keepsakeKinds,
  limitedParts,
} from './catalogue';
export { checkCatalogue } from './check';
export {
  CatalogueExportSchema,
  type EntryChange,
  catalogueChanges,
  catalogueEntryTitle,
  catalogueLimitBytes,
  exportCatalogue,
  importCatalogue,
  withEntry,
} from './edit';
export { type InstallerPage, installChoices, pageKinds, pageMoments } from './installerPage';
export { type FileSystemId, fileSystemLimit, fileSystems } from './fileSystems';
export { findFamily, findModel, findRelease, releaseTitle, supportDaysLeft, supportedUntil } from './find';
export { type Requirement, type RequirementKind, requirementKinds } from './requirement';
export { habitChanges } from './habits';
export { resolveCatalogue } from './resolve';
