import {
  causeRows,
  causeToFix,
  forecastOf,
  openTroubleOf,
  runbookInput,
  type CauseRow,
} from '@ulvane/core/record';
import { addMinutes, minutesBetween } from '@ulvane/core/quantity';
import { forecast, troubleIds, type TroubleId } from '@ulvane/core/runbook';
import {
  causesAt,
  dangerOf,
  planDetour,
  troublePlace,
  type TroubleCase,
  type TroublePlace,
} from '@ulvane/core/trouble';
import { useMemo } from 'react';
import { useOpenMove } from '../MoveContext';

type PlannedDetour = NonNullable<ReturnType<typeof planDetour>>;

export type TroubleReading = {
  readonly sign: TroubleId;
  /** Where the plan as it would be made now has the step; undefined where it has none. */
  readonly place: TroublePlace | undefined;
  /** What is noted of it; undefined as long as nobody has answered. */
  readonly trouble: TroubleCase | undefined;
  /** The last time that it was over at this step; undefined while it is open, and where it never was. */
  readonly over: TroubleCase | undefined;
  readonly danger: string | null;
  readonly rows: readonly CauseRow[];
  /** Troubles of the house with this sign that were remedied. */
  readonly cases: number;
  readonly timesOf: (causeId: string) => number;
};

/** Causes and answers of a sign at a step of the open move; undefined where the address names no sign. */
export function useTrouble(stepId: string, signText: string): TroubleReading | undefined {
  const { move, house } = useOpenMove();
  return useMemo(() => {
    const sign = troubleIds.find((id) => id === signText);
    if (!sign) return undefined;
    const input = runbookInput(move, house);
    const place = input && troublePlace(input, stepId);
    const open = openTroubleOf(move);
    const trouble = open && open.stepId === stepId && open.sign === sign ? open : undefined;
    const counts = house.troubleCounts[sign] ?? {};
    return {
      sign,
      place,
      trouble,
      over: trouble
        ? undefined
        : move.troubles.findLast((one) => one.stepId === stepId && one.sign === sign && one.closed !== null),
      danger: dangerOf(sign),
      rows: place ? causeRows(causesAt(place, sign, counts), trouble) : [],
      cases: Object.values(counts).reduce((sum, times) => sum + times, 0),
      timesOf: (causeId) => counts[causeId] ?? 0,
    };
  }, [move, house, stepId, signText]);
}

/** The detour that fixes a cause, as it is under way or would be started; null where nothing here helps. */
export function useDetour(
  { place, trouble, rows }: TroubleReading,
  chosenId: string | undefined,
): { readonly cause: CauseRow['cause']; readonly detour: PlannedDetour | null } | undefined {
  const underWay = trouble?.detour;
  const id = underWay?.causeId ?? chosenId;
  const cause = rows.find((row) => row.cause.id === id)?.cause ?? causeToFix(rows);
  return useMemo(
    () => (place && cause ? { cause, detour: planDetour(place, cause, underWay?.number ?? 1) } : undefined),
    [place, cause, underWay?.number],
  );
}

export type DetourTimes = {
  /** When each stop begins and is over; instants. */
  readonly stops: readonly { readonly from: string; readonly until: string }[];
  readonly handsOnMinutes: number;
  readonly waitingMinutes: number;
  /** When the move is done with it, and when it would have been. */
  readonly doneAt: string;
  readonly insteadOf: string;
  readonly laterMinutes: number;
};

/** What a detour does to the day. @param seenAt instant at which the sign was seen */
export function useDetourTimes(
  detour: PlannedDetour,
  isUnderWay: boolean,
  seenAt: string,
  now: string,
): DetourTimes {
  const { move } = useOpenMove();
  const steps = detour.stops.map(({ step }) => step);
  const own = forecast(steps, move.signatures, now);
  const handsOnMinutes = steps.reduce((sum, { handsOn }) => sum + handsOn.likely, 0);
  const waitingMinutes = steps.reduce((sum, { waiting }) => sum + waiting.likely, 0);
  const doneAt = isUnderWay
    ? forecastOf(move, now).doneAt
    : addMinutes(forecastOf(move, now).doneAt, handsOnMinutes + waitingMinutes);
  const insteadOf = forecast(move.plan?.runbook.steps ?? [], move.signatures, seenAt).doneAt;
  return {
    stops: own.spans.map((span) => span ?? { from: now, until: now }),
    handsOnMinutes,
    waitingMinutes,
    doneAt,
    insteadOf,
    laterMinutes: minutesBetween(insteadOf, doneAt),
  };
}
