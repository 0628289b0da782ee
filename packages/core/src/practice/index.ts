/** House rules, with both sides of each, and how long steps take. */
export { practiceChanges, practiceLabel, practiceTexts } from './explain';
export {
  DepartureSchema,
  type Practice,
  PracticeSchema,
  type PracticeSetting,
  defaultPractice,
  practiceOfMove,
  practiceSettings,
} from './practice';
export { stepKinds } from './stepTimes';
export { termIds, termLabels } from './weights';
