import { addMinutes, minutesBetween } from '@ulvane/core/quantity';
import { tooEarly } from '@ulvane/core/record';
import { standingOf, type Step, type StepStanding } from '@ulvane/core/runbook';
import { useNow } from '../../api/useNow';
import { useOpenMove } from '../MoveContext';

/** What can be done with a step; made once for the whole runbook. */
export type StepActions = {
  readonly canWrite: (step: Step) => boolean;
  readonly start: (step: Step) => void;
  readonly sign: (step: Step, actualMinutes: number | null, note: string) => Promise<boolean>;
  /** Undefined where a signature is for good. */
  readonly unsign: (step: Step, index: number) => (() => void) | undefined;
  readonly correct: (step: Step) => void;
};

/** Kinds of steps that are signed by what is entered elsewhere. */
export const signedElsewhere: ReadonlySet<Step['kind']> = new Set(['sign-off', 'reconcile', 'identify-disk']);

type Wait = {
  /** When it began and will probably be over; instants. */
  readonly from: string;
  readonly until: string;
  /** When it may be signed without a reason. */
  readonly signFrom: string;
  readonly leftMinutes: number;
  /** Of the likely minutes, 0 to 1. */
  readonly share: number;
};

/** The wait of a step that was started, by the server's clock; undefined where none is under way. */
export function useWait(step: Step, state: StepStanding['state']): Wait | undefined {
  const { move } = useOpenMove();
  const now = useNow(1000);
  const { last } = standingOf(move.signatures, step.id);
  if (state !== 'waiting' || !last) return undefined;
  const until = addMinutes(last.at, step.waiting.likely);
  const gone = minutesBetween(last.at, now);
  return {
    from: last.at,
    until,
    signFrom: addMinutes(last.at, step.waiting.low),
    leftMinutes: minutesBetween(now, until),
    share: Math.min(1, gone / Math.max(1, step.waiting.likely)),
  };
}

/** Why a step cannot be signed yet without a reason; null when it can. */
export function useEarly(step: Step, state: StepStanding['state']): string | null {
  const { move } = useOpenMove();
  const now = useNow(15_000);
  const { last } = standingOf(move.signatures, step.id);
  const minutes = state === 'waiting' && last ? Math.round(minutesBetween(last.at, now)) : null;
  return tooEarly(step, minutes, '');
}
