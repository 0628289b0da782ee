/** The public face of the package. */
export { api } from './api';
export {
  type Endpoint,
  type Given,
  type Giving,
  type TokenScope,
  bodyLimitOf,
  parameterSchema,
  tokenNeed,
  tokenScopes,
} from './endpoint';
export { type PathParams, pathOf } from './path';
export {
  type DifferenceGroup,
  type DifferenceLine,
  type DriveView,
  DriveViewSchema,
  type Files,
  FilesSchema,
  type ListFormat,
  type Sealed,
  SealedSchema,
  type SecretHead,
  SecretHeadSchema,
} from './fileShapes';
export {
  type ChoiceOutcome,
  type FileOutcome,
  type FleetGroup,
  type ListMapping,
  ListMappingSchema,
  type MoveList,
  type MoveListQuery,
  MoveListQuerySchema,
  MoveListSchema,
  type MoveRow,
  type Reassessment,
  type RowOutcome,
  type ShoppingLine,
  groupKeys,
  rowsAtOnce,
  sortKeys,
  surveysAtOnce,
  type FitTableQuery,
  FitTableQuerySchema,
  type FitTableView,
} from './fleetShapes';
export { type ImageView, type ShelfView } from './api/shelf';
export { openApiDocument } from './openApi';
export { type ProblemDetails, ProblemDetailsSchema } from './problem';
export { type LogRecord, LogRecordSchema, type UnreadableMove } from './recordShapes';
export {
  type Account,
  type ApiToken,
  type CatalogueChange,
  CatalogueChangeSchema,
  EntryChangeSchema,
  type Health,
  type HouseView,
  type MoveView,
  MoveViewSchema,
  type HouseRulesChange,
  type Session,
  type SurveyPreview,
  type Today,
  TodaySchema,
} from './shapes';
