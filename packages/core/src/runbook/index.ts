/** Steps, the Line, gates, custody, signatures. */
export { type ChosenDisk, ChosenDiskSchema, ChosenRoomSchema } from './chosen';
export { type AnswerPiece, type AnsweredPage, type AnswerSource, answerText } from './answers/answer';
export { type AnswerSheet, answerSheet, type SkippedCheck } from './answers/answerSheet';
export { type HandPartition, type HandPartitions } from './answers/handPartitions';
export { checkLine, pageLine, partitionLine, sheetLines, skipLine, tickOf } from './answers/tick';
export { buildRunbook, totalMinutes } from './buildRunbook';
export { custodyAlarms, custodyNow, custodyOf } from './custody';
export { CapsuleSchema, type DiskWork, DiskWorkSchema } from './diskPlan';
export { diskToWrite, disksToWrite } from './diskToWrite';
export { diskShares } from './diskShares';
export { forecast } from './forecast';
export { planDiskSegments } from './planDiskSegments';
export { type PlanDisk, planDisks } from './planDisks';
export { planStates } from './planStates';
export { planSteps } from './planSteps';
export {
  type DiskWorkPlan,
  type WorkContext,
  diskBytesPerSecond,
  diskWorkOf,
  guardedDiskWork,
  promisedPartitions,
} from './diskWork';
export { gates } from './gates';
export { encryptedWhen } from './machineOf';
export { type RunbookInput } from './input';
export { isolationIds, isolationTexts } from './isolation';
export { type Preparation, PreparationSchema, nothingPrepared } from './preparation';
export {
  type Crossing,
  CrossingSchema,
  type StepStanding,
  isSigned,
  lineCrossed,
  standingOf,
  stepStandings,
} from './signature';
export { layoutApart, shareOfDisk } from './layoutApart';
export { imageIsFetched } from './mediumOf';
export { startOn } from './startOn';
export { type PlanDifference, planDifferences } from './stale';
export { type GateId, type Runbook, type Step, StepSchema, gateIds } from './step';
export { type TroubleId, troubleIds, troubleSigns } from './troubles';
