export { contentKinds, contentNames, type ContentKind, type RecognisedContent } from './content/content';
export { recogniseContent } from './content/recognise';
export type {
  ConversionOptions,
  ConversionOutcome,
  ConversionPlan,
  Obstacle,
  Remedy as ConversionRemedy,
  Remembered,
  Resolution,
} from './convert/conversion';
export { leastEfiBytes } from './convert/efi';
export { alignedRun, freeRuns, type Run } from './convert/freeRuns';
export { planConversion } from './convert/planConversion';
export { slackBytes, whyNotShrunk } from './convert/shrinkCheck';
export { layoutAfter, type LayoutGoal } from './layoutAfter';
export { crc32, printCrc32 } from './sectors/crc32';
export { bufferSource, readPadded, sectorSizes, type SectorSource } from './sectors/sectorSource';
export { applyWrites, type SectorWrite } from './sectors/sectorWrite';
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
export { explainSizeBox, sizeBox, type SizeBox } from './sizeBox';
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
export { partitionTypes, typeOf, type PartitionType } from './table/partitionTypes';
export { readPartitionTable } from './table/readPartitionTable';
export { leastSectors } from './layout/areas';
export { applyLayout } from './layout/applyLayout';
export { reserveFactor, type LayoutOptions, type LayoutPlanGoal, type WantedPartition } from './layout/goal';
export { describeOperation, riskPoints, type Operation, type PlannedOperation } from './layout/operation';
export { planLayout, type LayoutPlan } from './layout/planLayout';
