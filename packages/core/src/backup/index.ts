/** What is copied where, whether it fits, how it was checked, how long it is kept. */
export { ShapeCounter, clusterOf, clusterSizes, neededOn } from './allocation';
export { type CopyCheck } from './check';
export { type CopiesOfDataSet, type CountedCopy, copiesOf, countingCopies } from './copies';
export { copyTime, sourceMedium } from './copyTime';
export {
  type Copy,
  type DataSet,
  DataSetSchema,
  type Destination,
  DestinationSchema,
  dataSetKinds,
  linkClasses,
  mediumClasses,
} from './dataSet';
export { type Drive, DriveSchema, contentOn, driveHealths, freeOn } from './drive';
export { type FileFit, checkFiles } from './fileFit';
export { type FileListHead, type FileListRole, fileListRoles, fileListSources, listOf } from './fileListHead';
export { fitOf } from './fit';
export { type TreeNode, folderTree, liesIn, placesTest } from './folderTree';
export { type ChecklistLine, checklistOf, forgottenThings } from './forgotten';
export { copyGrades, countGrades, describeGrade, gradeOf } from './grade';
export { type MeasuredCopy, MeasuredCopySchema, learntCopyTime, learntSentence } from './measuredCopy';
export { faultOfName, foldedName, legalName } from './nameRules';
export { type NextOnSave, nextOnSave } from './nextOnSave';
export { type Packing, type Parcel, type Shelf, pack } from './pack';
export { type PackHelp, emptyShelf, packHelp, soldSizes } from './packHelp';
export { proposeDataSets, slugOf, usedPartitions } from './proposals';
export { RenameSchema, planRenames, renameBack, renamer } from './renames';
export { RetentionSchema, nextWipe, retentionSentence } from './retention';
export { isSameDevice } from './sameDrive';
export { type FlowBox, type SaveFlow, saveFlow } from './saveFlow';
export { riskOf } from './scope';
export { scopeNotices } from './scopeNotices';
export { raised, upcaseTable } from './upcase';
