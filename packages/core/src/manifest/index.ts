/** Lists of files with checksums: read, written, compared. */
export * from './bagIt';
export * from './bagPapers';
export * from './checksumList';
export * from './csvList';
export * from './differences';
export * from './entry';
export type { Note } from './findings';
export { commonFolder, readListPath } from './listPath';
export * from './kindOfList';
export { LineSplitter } from './lineSplitter';
export { byPath, RowTable } from './rowTable';
export { listLimitRows, rowsWhere, type ListOptions, type ListReader, type ReadList } from './listReader';
export * from './noise';
export * from './packed';
export * from './reconcile';
export * from './sample';
