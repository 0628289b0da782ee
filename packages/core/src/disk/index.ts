export {
  contentKinds,
  contentNames,
  type ContentKind,
  type LeftState,
  type RecognisedContent,
} from './content/content';
export { recogniseContent } from './content/recognise';
export {
  rememberedOf,
  RememberedSchema,
  ResolutionSchema,
  type ConversionOptions,
  type ConversionOutcome,
  type ConversionPlan,
  type Obstacle,
  type Remedy as ConversionRemedy,
  type RememberedTable,
  type Resolution,
} from './convert/conversion';
export { leastEfiBytes } from './convert/efi';
export { alignedRun, freeRuns, type Run } from './convert/freeRuns';
export { planConversion } from './convert/planConversion';
export { planTableConversion } from './convert/planTableConversion';
export { slackBytes, whyNotShrunk } from './convert/shrinkCheck';
export { routeLayout } from './routeLayout';
export { crc32, printCrc32 } from './sectors/crc32';
export { bufferSource, readPadded, sectorSizes, type SectorSource } from './sectors/sectorSource';
export { applyWrites, inStretches, type SectorWrite } from './sectors/sectorWrite';
export { undoCapsule, type UndoCapsule } from './sectors/undoCapsule';
export {
  parseWrites,
  printCapsule,
  printWrites,
  writesFor,
  WritesFileSchema,
  type WritesFile,
} from './sectors/writesFile';
export { alignmentSectors, segmentsOf, type Fate, type Segment } from './segment';
export {
  bothMeanings,
  boxUnits,
  explainSizeBox,
  shrinkBox,
  sizeBox,
  type BothMeanings,
  type BoxUnit,
  type ShrinkBox,
  type SizeBox,
} from './sizeBox';
export { sameSize, surveyedFromTable, tableFromSurvey } from './fromSurvey';
export { guardDisk, type GuardContext } from './guards';
export { meantBy, whyAnotherDisk, whyNotTold, type DiskMarks } from './marks';
export { encodeTable } from './table/encodeTable';
export { newGuid, parseGuid, type Random } from './table/guid';
export {
  calledBy,
  endLba,
  gptBounds,
  inDiskOrder,
  mbrLimitLba,
  nameOf,
  tableBytes,
  type Finding,
  type PartitionTable,
  type TablePartition,
} from './table/partitionTable';
export { planMend, type MendPlan } from './table/mendGpt';
export type { GptCopy } from './table/readGpt';
export { partitionTypes, typeOf, type PartitionType } from './table/partitionTypes';
export { readPartitionTable } from './table/readPartitionTable';
export { leastSectors } from './layout/areas';
export { applyLayout } from './layout/applyLayout';
export {
  LayoutPlanGoalSchema,
  reserveFactor,
  type LayoutOptions,
  type LayoutPlanGoal,
  type WantedPartition,
} from './layout/goal';
export { describeOperation, riskPoints, type Operation, type PlannedOperation } from './layout/operation';
export type { LayoutPlan } from './layout/layoutPlan';
export { planLayout } from './layout/planLayout';
export { sizeRange, type SizeRange } from './layout/sizeRange';
export {
  diskFlow,
  sourcesOf,
  type BandFate,
  type DiskFlow,
  type FlowBand,
  type FlowColumn,
  type Stretch,
} from './flow/diskFlow';
export { describedConversion } from './convert/conversionOperations';
export { drawConversion, drawPlan, planSegments, tableSegments } from './planSegments';
