/** What goes wrong: signs, their causes on this device, and the detours that lead back to the runbook. */
export { type Cause } from './cause';
export { type CauseCounts, dangerOf } from './causesOf';
export { planDetour, stopLetter } from './detour';
export { type CauseAt, type TroublePlace, causesAt, signsOf, troublePlace } from './place';
export {
  type CauseAnswer,
  type TroubleCase,
  TroubleCaseSchema,
  answersOf,
  causeAnswers,
} from './troubleCase';
