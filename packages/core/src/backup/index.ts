/** What is copied where, whether it fits, how it was checked, how long it is kept. */
export { ShapeCounter, clusterOf, clusterSizes, neededOn } from './destinations/allocation';
export { type CopyCheck } from './copies/check';
export { type CopiesOfDataSet, type CountedCopy, copiesOf, countingCopies } from './copies/copies';
export { copyTime, sourceMedium } from './copies/copyTime';
export {
  type Copy,
  type DataSet,
  DataSetSchema,
  type Destination,
  DestinationSchema,
  dataSetKinds,
  linkClasses,
  mediumClasses,
} from './scope/dataSet';
export {
  type MediumContent,
  MediumContentSchema,
  mediumChecks,
  mediumModes,
} from './destinations/mediumContent';
export { type Drive, DriveSchema, contentOn, driveHealths, freeOn } from './destinations/drive';
export { type FileFit, checkFiles } from './destinations/fileFit';
export {
  type FileListHead,
  type FileListRole,
  fileListRoles,
  fileListSources,
  listOf,
} from './copies/fileListHead';
export { fitOf } from './destinations/fit';
export { type TreeNode, folderTree, liesIn, placesTest } from './scope/folderTree';
export {
  type ChecklistAnswer,
  checklistAnswers,
  type ChecklistLine,
  checklistOf,
  forgottenThings,
} from './scope/forgotten';
export { copyGrades, countGrades, describeGrade, gradeOf } from './copies/grade';
export { describeOutdated, type OutdatedCopy } from './copies/outdated';
export { type MeasuredCopy, MeasuredCopySchema, learntCopyTime, learntSentence } from './copies/measuredCopy';
export { faultOfName, foldedName, legalName } from './destinations/nameRules';
export { type NextOnSave, nextOnSave } from './copies/nextOnSave';
export { type Packing, type Parcel, type Shelf, pack } from './packing/pack';
export { type PackHelp, emptyShelf, packHelp, soldSizes } from './packing/packHelp';
export { proposeDataSets, slugOf, usedPartitions } from './scope/proposals';
export { RenameSchema, planRenames, renameBack, renamer } from './destinations/renames';
export { RetentionSchema, nextWipe, retentionSentence } from './keeping/retention';
export { isSameDevice } from './destinations/sameDrive';
export { type FlowBox, type SaveFlow, saveFlow } from './copies/saveFlow';
export { riskOf } from './scope/scope';
export { scopeNotices } from './scope/scopeNotices';
export { raised, upcaseTable } from './destinations/upcase';
