/** Tables and file systems as bytes; conversion, undo, layouts, and plans as bands. */
export { contentNames } from './content/content';
export { recogniseContent } from './content/recognise';
export {
  type ConversionOptions,
  type ConversionOutcome,
  type ConversionPlan,
  type Obstacle,
  type RememberedTable,
  type Resolution,
  rememberedOf,
} from './convert/conversion';
export { describedConversion } from './convert/conversionOperations';
export { planConversion } from './convert/planConversion';
export { planTableConversion } from './convert/planTableConversion';
export {
  type DiskFlow,
  type FlowBand,
  type FlowColumn,
  type Stretch,
  diskFlow,
  sourcesOf,
} from './flow/diskFlow';
export { sameSize, surveyedFromTable, tableFromSurvey } from './fromSurvey';
export { guardDisk } from './guards';
export { applyLayout } from './layout/applyLayout';
export { type LayoutOptions, type LayoutPlanGoal } from './layout/goal';
export { type LayoutPlan } from './layout/layoutPlan';
export { type PlannedOperation } from './layout/operation';
export { planLayout } from './layout/planLayout';
export { type SizeRange, sizeRange } from './layout/sizeRange';
export { meantBy } from './marks';
export { segmentsOfConversion, segmentsOfPlan, planSegments, tableSegments } from './planSegments';
export { shrinkableBytes } from './room';
export { routeLayout } from './routeLayout';
export { crc32 } from './sectors/crc32';
export { type SectorSource, bufferSource } from './sectors/sectorSource';
export { type SectorWrite, applyWrites, inStretches } from './sectors/sectorWrite';
export { undoCapsule } from './sectors/undoCapsule';
export {
  type WritesFile,
  WritesFileSchema,
  parseWrites,
  encodeCapsule,
  encodeWrites,
  writesFor,
} from './sectors/writesFile';
export { type Fate, type Segment, alignmentSectors, segmentsOf } from './segment';
export { bothMeanings, explainSizeBox, shrinkBox, sizeBox } from './sizeBox';
export { encodeTable } from './table/encodeTable';
export { newGuid, parseGuid } from './table/guid';
export { type TableFix, planTableFix } from './table/fixGpt';
export {
  type PartitionTable,
  type TablePartition,
  calledBy,
  endLba,
  gptBounds,
  inDiskOrder,
} from './table/partitionTable';
export { typeOf } from './table/partitionTypes';
export { type GptCopy } from './table/readGpt';
export { readPartitionTable } from './table/readPartitionTable';
