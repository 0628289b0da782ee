/** What is known of a device, from where, and what a new survey would change. */
export { compareFacts } from './compareFacts';
export { completeness, factsOfSomeWays } from './completeness';
export { contradictionsOf, undisputedFacts } from './contradictions';
export { describeDisk, describeFact, factTexts } from './describe';
export {
  type Disk,
  DiskSchema,
  type Partition,
  diskBytes,
  diskMark,
  partitionBytes,
  systemDisk,
} from './disk';
export {
  type FactKey,
  type Facts,
  FactsSchema,
  disagreement,
  factKeys,
  factValueSchemas,
  isEmptyDevice,
  noSystem,
  opticalDrives,
  storageModes,
  licenceOwners,
  valueOf,
} from './facts';
export { factsFromSurvey, mergeFacts } from './factsFromSurvey';
export { type Survey, type SurveyFolder, SurveySchema, surveyLimitBytes } from './format';
export { importSurvey } from './importSurvey';
export {
  type ListRow,
  firstRowOfSerial,
  guessMapping,
  isListField,
  listFieldLabel,
  listFields,
  marksOfList,
  readListRow,
  shownCell,
} from './listFields';
export { withFacts } from './patch';
export { presentTitle } from './presentTitle';
export { forgetFact, setTypedFact } from './typedFact';
