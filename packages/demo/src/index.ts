export { generateDemo, type Demo, type DemoInput } from './generate';
export { between, pick, seededRandom, serial, uuidFrom, type Random } from './random';
export type { RecordedMove } from './recorder';
export { surveyOf } from './survey';
export { DemoTablesSchema, type DemoTables, type Group } from './tables';
