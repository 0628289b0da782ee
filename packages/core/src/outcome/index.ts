/** Refusals as values, and text as it comes from outside. */
export { formulaCell, plainCell } from './csvCell';
export { type LetterReading, decodeListText, letterReadings, readyListText } from './listText';
export { type Outcome, type Problem } from './outcome';
export {
  type ProblemCode,
  type ProblemStatus,
  problemCodes,
  statusOf,
  titleOf,
  typeOf,
} from './problemCodes';
export { parseWith } from './parseWith';
export { brokenSentence, readJson } from './readJson';
