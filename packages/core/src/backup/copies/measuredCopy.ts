import { z } from 'zod';
import type { ThreePoint } from '../../quantity/duration';
import { InstantSchema } from '../../quantity/daySchema';
import { copyTime, type CopyTime } from './copyTime';
import { linkClasses, mediumClasses, type Destination } from '../scope/dataSet';
import { isSameSerial } from '../destinations/sameDrive';

/** A copy of this house that was timed: what, from what, to what, and how long it took. */
export const MeasuredCopySchema = z.strictObject({
  at: InstantSchema,
  /** The drive's own, as noted; empty where it is not. */
  serial: z.string(),
  source: z.enum(['spinning', 'solid-state']),
  link: z.enum(linkClasses),
  medium: z.enum(mediumClasses),
  sizeBytes: z.int().min(0),
  fileCount: z.int().min(0),
  minutes: z.number().positive(),
});
export type MeasuredCopy = z.infer<typeof MeasuredCopySchema>;

type LearntCopyTime = CopyTime & {
  /** How many timed copies had a say, and whether they were to this very drive; none: the starting values alone. */
  readonly from: { readonly copies: number; readonly sameDrive: boolean };
};

/** Copies that are over sooner than this say more of hands than of drives. */
const shortestMinutes = 2;
/** The starting value counts as much as so many timed copies. */
const priorCopies = 1;
/** From so many copies on, their own spread says how sure the time is. */
const enoughCopies = 3;
/** One in ten below, one in ten above. */
const tenth = 1.2816;

/**
 * Minutes to copy, corrected by the copies that this house has timed: those to the same drive, else those over the same
 * link to the same kind of medium. Each says how many times as long as calculated it took; their mean, in logarithms, with
 * the starting value as one more, corrects the likely time. Until there are three the range holds both the calculated and
 * the corrected one; then it is as wide as they differ from each other (one in ten below it, one in ten above).
 */
export function learntCopyTime(
  amount: { readonly sizeBytes: number; readonly fileCount: number },
  source: 'spinning' | 'solid-state',
  destination: Pick<Destination, 'link' | 'medium' | 'serial'>,
  measured: readonly MeasuredCopy[],
): LearntCopyTime {
  const calculated = copyTime(amount, source, destination);
  const told = measured.filter(({ minutes }) => minutes >= shortestMinutes);
  const ofDrive = told.filter(({ serial }) => serial !== '' && isSameSerial(serial, destination.serial));
  const alike =
    ofDrive.length > 0
      ? ofDrive
      : told.filter((one) => one.link === destination.link && one.medium === destination.medium);
  const from = { copies: alike.length, sameDrive: ofDrive.length > 0 };
  const { low, likely, high } = calculated.minutes;
  if (alike.length === 0 || likely === 0) return { ...calculated, from };
  const logs = alike.map((one) => Math.log(one.minutes / reckonedFor(one)));
  const mean = logs.reduce((sum, log) => sum + log, 0) / (logs.length + priorCopies);
  const corrected = likely * Math.exp(mean);
  if (alike.length < enoughCopies)
    return {
      ...calculated,
      minutes: { low: Math.min(low, corrected), likely: corrected, high: Math.max(high, corrected) },
      from,
    };
  // The spread that the starting values have counts as one copy more.
  const guessed = Math.log(high / low) / 2 / tenth;
  const square = logs.reduce((sum, log) => sum + (log - mean) ** 2, priorCopies * guessed ** 2);
  const spread = Math.sqrt(square / (logs.length - 1 + priorCopies)) * Math.sqrt(1 + 1 / logs.length);
  return { ...calculated, minutes: spreadAround(corrected, spread), from };
}

/** The starting value for a copy that was timed, in minutes; never nothing. */
function reckonedFor({ sizeBytes, fileCount, source, link, medium }: MeasuredCopy): number {
  return Math.max(0.05, copyTime({ sizeBytes, fileCount }, source, { link, medium }).minutes.likely);
}

function spreadAround(likely: number, spread: number): ThreePoint {
  return {
    low: likely * Math.exp(-tenth * spread),
    likely,
    high: likely * Math.exp(tenth * spread),
  };
}

/** @example learntSentence({ copies: 4, sameDrive: true }) // 'As 4 timed copies to this drive took.' */
export function learntSentence({ copies, sameDrive }: LearntCopyTime['from']): string {
  if (copies === 0) return 'No copy like it was timed in this house yet.';
  const what = copies === 1 ? '1 timed copy' : `${copies} timed copies`;
  return `As ${what} ${sameDrive ? 'to this drive' : 'over the same link to such a medium'} took.`;
}
