/** The move as one document, every command that changes it, and its log. */
export {
  type ChainCheck,
  type ChainContent,
  type ChainFault,
  type ChainHead,
  type ChainLine,
  ChainLineSchema,
  chainStart,
  chainText,
  checkChain,
  extendChain,
  recordHashOf,
} from './chain';
export { callOff, resume } from './commands/callOff';
export { type RouteChoice, chooseRoute } from './commands/choose';
export { type Change, type CommandContext, type CommandOutcome, type Role, roles } from './commands/command';
export { depart } from './commands/makeException';
export { diskWorkContext, keepCapsule, planDisk } from './commands/disk';
export { recordCheck, recordFileList, sameList } from './commands/fileLists';
export { beforeSignOff, noteHandover, signOff, tellOwner } from './commands/handOver';
export { type DayReason, dayAhead, dayReasons } from './dayAhead';
export { diskOfDecision, diskOfPlan } from './diskOf';
export { setIdentity } from './commands/identity';
export { stateWish } from './commands/wish';
export { answerChecklist, keepBackup, keepRenames, recordWipe } from './commands/keeping';
export { packDataSets } from './commands/pack';
export { type PreparationPatch, plan, prepare } from './commands/prepare';
export { recordExplained, recordReconciled } from './commands/reconcile';
export { setDataSets, setDestinations, tickCopy } from './commands/save';
export { joinDataSet } from './commands/splitDataSet';
export { correctStep, overruleGate, signStep, startStep, tooEarly, unsignStep } from './commands/steps';
export { makeFactUnknown, takeSurvey, typeFact, typeFacts } from './commands/survey';
export { rowChanged, takeRow } from './commands/takeRow';
export { readAnswerSheet, tickAnswer } from './commands/tickAnswer';
export { mediumNeed } from './mediumNeed';
export { mediumWritten } from './mediumWritten';
export { type LogEvent } from './event';
export { type MoveExport, MoveExportSchema, exportMove, importMove, moveLimitBytes } from './exportFormat';
export { type FilesFlow, filesFlow } from './filesFlow';
export { HandoverSchema, accountFor } from './handover';
export { type HandoverSheet, handoverSheet } from './handoverSheet';
export { deviceTitle, handsOf } from './hands';
export { ownerHabits } from './ownerHabits';
export { type LineProof, type LogRow, foldLog, isException, lineProofs, proofOf } from './logRows';
export { measuredCopies } from './measuredCopies';
export { type Move, MoveSchema, isClosed, newMove } from './move';
export { upgradeRecord } from './oldRecords';
export { outlookOf } from './outlook';
export { thingsToTell } from './ownerTold';
export { type ExplainedFile, type OwnerSheet, type OwnerSheetInput, ownerSheet } from './ownerSheet';
export {
  type PartVersions,
  PartVersionsSchema,
  conflictingParts,
  versionOfChange,
  partWords,
  partsTouched,
  withTouched,
} from './parts';
export { houseRulesEffect } from './houseRulesEffect';
export { readCopies } from './readCopies';
export {
  type BarrierReading,
  type GateReading,
  type House,
  type PlanReading,
  decideInput,
  readPlan,
  runbookInput,
} from './reading';
export { type Reconciled, differenceCount, reconciledSentence } from './reconciled';
export { type Secret, type SecretKind, SecretSchema, secretKinds } from './secret';
export { type Stage, runningWait, stageOf, stageTitles, stages, stagesDone, asksForCopies } from './stage';
export {
  type SignSeen,
  answerCause,
  closeTrouble,
  leaveDetour,
  openTrouble,
  startDetour,
} from './commands/trouble';
export {
  type CauseRow,
  type TroubleCounts,
  causeRows,
  causeToFix,
  causesFound,
  detourSteps,
  forecastOf,
  openTroubleOf,
  wayBackFrom,
} from './troubles';
