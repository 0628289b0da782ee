/** Which options a device has, what each costs by the steps of its plan, and how they compare. */
export { aspectsOf } from './aspects';
export { type BlockingUnknown, blockingUnknowns } from './blockingUnknowns';
export { type Candidate, type Choice, candidateFor, contextFor, decide } from './candidates';
export { beats, unbeaten, weightLimits } from './compare';
export { type Fit, type FitCell, type FitPrice, FitCellSchema, FitSchema, fitMinutes } from './fitCell';
export {
  type FitColumn,
  type FitGroup,
  type FitOrder,
  type FitRow,
  type FitRowCell,
  type FitTable,
  cheapestOf,
  fitOrders,
  fitTable,
} from './fitTable';
export { hasRuleWords, leadsBack, reasonsInOneLine } from './ruleWords';
export { whyAdvised, whyBehind } from './whyAdvised';
export { presentBecomes } from './presentBecomes';
export { pointsOf, scoreTerms, shownPoints } from './score';
export { smallestChange } from './smallestChange';
export { type FactThatTurns, type WhatWouldChange, advicesOf, whatWouldChange } from './whatWouldChange';
export { type DecideInput, decisionInput, planInput } from './input';
