/** Bytes, counts, days, times: parsed, printed, calculated. */
export { apportion } from './apportion';
export { type BoxUnit, boxUnits } from './boxUnit';
export {
  type UnitFamily,
  gibibyteBytes,
  gigabyteBytes,
  mebibyteBytes,
  parseBytes,
  printApart,
  printBothUnits,
  printBytes,
  printExactBytes,
} from './bytes';
export { printCount } from './count';
export { addDays, addMinutes, daysBetween, minutesBetween } from './day';
export { DaySchema } from './daySchema';
export { printHours, printMinutes } from './duration';
export { dayIn, printClockIn, printInstantIn } from './localTime';
export { type NumberMark, markOfColumn, numberMarks, readWrittenNumber } from './writtenNumber';
