import { addMinutes, minutesBetween } from '../quantity/day';
import { standingOf, type Signature } from './signature';
import type { Step } from './step';

/** When a step was or will be at work; instants. */
type StepSpan = {
  readonly from: string;
  /** Where hands are free again and the device works alone. */
  readonly handsUntil: string;
  readonly until: string;
  readonly done: boolean;
};

type Forecast = {
  /** One a step; undefined for a signed one of which no time is known. */
  readonly spans: readonly (StepSpan | undefined)[];
  readonly handsOnMinutes: number;
  readonly waitingMinutes: number;
  readonly doneAt: string;
};

/** When a signed step was at work: since its start, else so long before its signature as it took or was planned. */
function pastSpan(step: Step, signatures: readonly Signature[]): StepSpan | undefined {
  const { last } = standingOf(signatures, step.id);
  if (!last) return undefined;
  const begun = signatures.findLast((line) => line.stepId === step.id && line.action === 'start');
  const handsOn = last.actualMinutes ?? step.handsOn.likely;
  const from = begun?.at ?? addMinutes(last.at, -handsOn);
  const hands = addMinutes(from, handsOn);
  return { from, handsUntil: hands < last.at ? hands : last.at, until: last.at, done: true };
}

/**
 * When the steps that are not signed will be at work, one after the other from now on, by their likely minutes; what
 * is under way counts from its start.
 * @param now instant
 */
export function forecast(steps: readonly Step[], signatures: readonly Signature[], now: string): Forecast {
  let at = now;
  let handsOnMinutes = 0;
  let waitingMinutes = 0;
  const spans = steps.map((step): StepSpan | undefined => {
    const { state, last } = standingOf(signatures, step.id);
    if (state === 'signed') return pastSpan(step, signatures);
    const { handsOn, waiting } = step;
    if (state === 'started' && last) {
      // Its start is signed when the hands have done their part.
      const left = Math.max(0, waiting.likely - minutesBetween(last.at, now));
      waitingMinutes += left;
      at = addMinutes(at, left);
      return { from: last.at, handsUntil: last.at, until: at, done: false };
    }
    handsOnMinutes += handsOn.likely;
    waitingMinutes += waiting.likely;
    const from = at;
    const handsUntil = addMinutes(from, handsOn.likely);
    at = addMinutes(handsUntil, waiting.likely);
    return { from, handsUntil, until: at, done: false };
  });
  return { spans, handsOnMinutes, waitingMinutes, doneAt: at };
}
