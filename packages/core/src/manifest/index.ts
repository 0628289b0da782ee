/** Lists of files with checksums, and what became of each file. */
export { bagDeclaration, bagItReader, printBagInfo, printBagItLine, readPayloadOxum } from './bagIt';
export { type BagPaper, type BagPayload, bagProblems, printTagManifest } from './bagPapers';
export { checksumListReader, printChecksumLine } from './checksumList';
export { csvListHeader, csvListReader } from './csvList';
export {
  type Difference,
  type DifferenceKind,
  describeKind,
  differenceKinds,
  differencesOf,
  folderOfDifference,
} from './differences';
export { type FileEntry, FileEntrySchema, type FileTrouble, fileTroubles } from './entry';
export { type Note } from './findings';
export { type ListKind, kindOfList } from './kindOfList';
export { LineSplitter } from './lineSplitter';
export { readListPath } from './listPath';
export { type ListReader, type ReadList, listLimitRows, rowsWhere } from './listReader';
export { noiseRules } from './noise';
export {
  ListBuilder,
  type ListSummary,
  type PackedList,
  entriesOf,
  entryAt,
  markOf,
  packList,
  pathAt,
  summarise,
} from './packed';
export { type FileKind, type Reconciliation, fileKinds, reconcile } from './reconcile';
export { RowTable, byPath } from './rowTable';
export { chanceOfFinding, describeSample, drawSample, sampleSizeFor } from './sample';
