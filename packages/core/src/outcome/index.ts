/** Refusals as values, and text as it comes from outside. */
export { formulaCell, plainCell } from './csvCell';
export { type LetterReading, decodeListText, letterReadings, readyListText } from './listText';
export { type Outcome, type Problem } from './outcome';
export { parseWith } from './parseWith';
