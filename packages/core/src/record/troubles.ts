import { forecast } from '../runbook/forecast';
import { isSigned, standingOf, type StepStanding } from '../runbook/signature';
import type { Step } from '../runbook/step';
import { troubleSigns, type TroubleId } from '../runbook/troubles';
import type { CauseCounts } from '../trouble/causesOf';
import { stopLetter } from '../trouble/detour';
import type { CauseAt } from '../trouble/place';
import { answersOf, type TroubleCase } from '../trouble/troubleCase';
import type { Move } from './move';

/** How often each cause was found behind each sign in this house. */
export type TroubleCounts = Readonly<Partial<Record<TroubleId, CauseCounts>>>;

/** What holds the runbook up; undefined where nothing does. */
export function openTroubleOf({ troubles }: Pick<Move, 'troubles'>): TroubleCase | undefined {
  return troubles.find(({ closed }) => closed === null);
}

/** The stops of the detour that is under way; empty where none is. */
export function detourSteps(move: Pick<Move, 'troubles'>): readonly Step[] {
  return openTroubleOf(move)?.detour?.steps ?? [];
}

/** The steps of a move in the order in which they are done: the stops of a detour before the step that they lead back to. */
export function stepsInOrder(move: Pick<Move, 'troubles' | 'plan'>): readonly Step[] {
  const steps = move.plan?.runbook.steps ?? [];
  const trouble = openTroubleOf(move);
  return steps.flatMap((step) => (step.id === trouble?.stepId ? [...detourSteps(move), step] : [step]));
}

/** When steps and stops will be at work. */
export function forecastOf(
  move: Pick<Move, 'troubles' | 'plan' | 'signatures'>,
  now: string,
): ReturnType<typeof forecast> & { readonly stopSpans: ReturnType<typeof forecast>['spans'] } {
  const ordered = stepsInOrder(move);
  const all = forecast(ordered, move.signatures, now);
  const stops = new Set(detourSteps(move));
  const spansOf = (which: (step: Step) => boolean) =>
    all.spans.filter((_span, index) => {
      const step = ordered[index];
      return step !== undefined && which(step);
    });
  return {
    ...all,
    spans: spansOf((step) => !stops.has(step)),
    stopSpans: spansOf((step) => stops.has(step)),
  };
}

/** What a trouble says where a step cannot be signed. @example heldUpBy(trouble) // 'Held up: “No network” at “Install updates”.' */
function heldUpBy({ sign, stepTitle, detour }: TroubleCase): string {
  return detour
    ? `Held up by the detour “${detour.title}”: it comes first.`
    : `Held up: “${troubleSigns[sign]}” at “${stepTitle}”. Find the cause, or end it with a note.`;
}

/** Where steps are with what went wrong: from the step with the sign on nothing can be signed until that is over. */
export function heldUp(
  move: Pick<Move, 'troubles' | 'plan'>,
  standings: readonly StepStanding[],
): readonly StepStanding[] {
  const trouble = openTroubleOf(move);
  const at = trouble ? (move.plan?.runbook.steps.findIndex(({ id }) => id === trouble.stepId) ?? -1) : -1;
  if (!trouble || at < 0) return standings;
  return standings.map((standing, index) =>
    index < at || standing.state === 'signed'
      ? standing
      : { ...standing, state: 'locked', reason: heldUpBy(trouble) },
  );
}

/** Where the stops of a detour are: one after the other, each when its barrier is open. */
export function stopStandings(
  { troubles, signatures }: Pick<Move, 'troubles' | 'signatures'>,
  closedBarriers: ReadonlyMap<string, string>,
): readonly StepStanding[] {
  const steps = detourSteps({ troubles });
  return steps.map((step, index): StepStanding => {
    const { state } = standingOf(signatures, step.id);
    if (state === 'signed') return { stepId: step.id, state: 'signed', reason: null };
    if (state === 'started') return { stepId: step.id, state: 'waiting', reason: null };
    const before = steps.slice(0, index).findIndex(({ id }) => !isSigned(signatures, id));
    const reason =
      closedBarriers.get(step.id) ??
      (before < 0 ? null : `Stop ${stopLetter(before)} of the detour comes first.`);
    return { stepId: step.id, state: reason === null ? 'open' : 'locked', reason };
  });
}

/** A trouble is over when the last stop of its detour is signed: the runbook goes on. */
export function alignTrouble(move: Move, at: string, by: string): Move {
  const trouble = openTroubleOf(move);
  const { detour } = trouble ?? {};
  if (!trouble || !detour || !detour.steps.every(({ id }) => isSigned(move.signatures, id))) return move;
  return withTrouble(move, {
    ...trouble,
    closed: { how: 'remedied', causeId: detour.causeId, note: '', at, by },
  });
}

/** The move with a trouble as it is now. */
export function withTrouble(move: Move, trouble: TroubleCase): Move {
  const others = move.troubles.filter(({ number }) => number !== trouble.number);
  return { ...move, troubles: [...others, trouble].toSorted((a, b) => a.number - b.number) };
}

/** What has to be undone before a detour is left: of the stops that were begun only, the last one first. */
export function wayBackFrom({
  troubles,
  signatures,
}: Pick<Move, 'troubles' | 'signatures'>): readonly string[] {
  return (openTroubleOf({ troubles })?.detour?.wayBack ?? []).flatMap(({ stepId, undo }) =>
    standingOf(signatures, stepId).state === 'open' ? [] : [undo],
  );
}

/** What was behind the troubles of a move that were remedied, for the counts of the house. */
export function causesFound({ troubles }: Pick<Move, 'troubles'>): readonly {
  readonly sign: TroubleId;
  readonly causeId: string;
}[] {
  return troubles.flatMap(({ sign, closed }) =>
    closed?.causeId == null ? [] : [{ sign, causeId: closed.causeId }],
  );
}

/** A cause on the page: with what was answered about it, and whether it is out of the question. */
export type CauseRow = {
  readonly cause: CauseAt;
  readonly answer: TroubleCase['answers'][number] | undefined;
  /** By the state, by its answer, or because its detour did not help. */
  readonly isExcluded: boolean;
};

export function causeRows(
  causes: readonly CauseAt[],
  trouble: Pick<TroubleCase, 'answers'> | undefined,
): readonly CauseRow[] {
  const answers = trouble ? answersOf(trouble) : new Map<string, never>();
  return causes.map((cause) => {
    const answer = answers.get(cause.id);
    return { cause, answer, isExcluded: cause.likelihood === 0 || answer?.answer === 'no' };
  });
}

/** The cause whose remedy is offered: the one that was found, else the likeliest that is left. */
export function causeToFix(rows: readonly CauseRow[]): CauseAt | undefined {
  const left = rows.filter(({ isExcluded }) => !isExcluded);
  return (left.find(({ answer }) => answer?.answer === 'yes') ?? left[0])?.cause;
}
