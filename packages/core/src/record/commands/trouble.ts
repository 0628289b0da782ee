import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { minutesBetween } from '../../quantity/day';
import { printMinutes } from '../../quantity/duration';
import { standingOf } from '../../runbook/signature';
import { troubleSigns, type TroubleId } from '../../runbook/troubles';
import { planDetour } from '../../trouble/detour';
import { causesAt, signsOf, troublePlace, type CauseAt, type TroublePlace } from '../../trouble/place';
import type { CauseAnswer, TroubleCase } from '../../trouble/troubleCase';
import type { Move } from '../move';
import { readPlan, runbookInput } from '../reading';
import { openTroubleOf, withTrouble } from '../troubles';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** Where a sign was seen, and when: the page knows it before anybody answers. */
export type SignSeen = { readonly stepId: string; readonly sign: TroubleId; readonly seenAt: string };

const answerWords: Readonly<Record<CauseAnswer, string>> = {
  yes: 'yes',
  no: 'no',
  cannot: 'cannot be checked',
};

/** The trouble that is meant: the one that is open for this sign and step, or a new one. */
function caseFor(
  move: Move,
  { stepId, sign, seenAt }: SignSeen,
  context: CommandContext,
): Outcome<TroubleCase> {
  const open = openTroubleOf(move);
  if (open && open.sign === sign && open.stepId === stepId) return succeed(open);
  if (open)
    return fail(
      'trouble-open',
      '/sign',
      `“${troubleSigns[open.sign]}” at “${open.stepTitle}” still holds the runbook up: finish or end that first.`,
    );
  const step = move.plan?.runbook.steps.find(({ id }) => id === stepId);
  if (!step)
    return fail(
      'no-such-step',
      '/stepId',
      'The runbook has no such step: it may have been planned again. Reload the page.',
    );
  if (!signsOf(step).includes(sign))
    return fail('no-such-trouble', '/sign', `“${troubleSigns[sign]}” is not a sign of “${step.title}”.`);
  const standing = readPlan(move, context)?.standings.find((one) => one.stepId === stepId);
  if (standing?.state === 'signed')
    return fail('step-conflict', '/stepId', `“${step.title}” is signed: withdraw that signature first.`);
  if (standing?.state === 'locked') return fail('step-locked', '/stepId', standing.reason ?? 'It is locked.');
  // A clock of the page that is ahead, or a page that was open over night, says nothing.
  const age = minutesBetween(seenAt, context.now);
  return succeed({
    number: Math.max(0, ...move.troubles.map(({ number }) => number)) + 1,
    sign,
    stepId,
    stepTitle: step.title,
    seenAt: age >= 0 && age <= 12 * 60 ? seenAt : context.now,
    by: context.actor.name,
    answers: [],
    detour: null,
    tried: [],
    closed: null,
  });
}

type Judged = {
  readonly trouble: TroubleCase;
  readonly place: TroublePlace;
  readonly cause: CauseAt;
};

function judgedCause(move: Move, seen: SignSeen, causeId: string, context: CommandContext): Outcome<Judged> {
  const found = caseFor(move, seen, context);
  if (!found.ok) return found;
  const input = runbookInput(move, context);
  const place = input && troublePlace(input, seen.stepId);
  if (!place)
    return fail(
      'plan-stale',
      '/stepId',
      'The plan is stale: plan again on the runbook, then look for the cause.',
    );
  const cause = causesAt(place, seen.sign).find(({ id }) => id === causeId);
  return cause
    ? succeed({ trouble: found.value, place, cause })
    : fail('no-such-cause', '/causeId', 'There is no such cause behind this sign: reload the page.');
}

/** Notes that a sign was seen: from its step on nothing can be signed until the trouble is over. */
export function openTrouble(move: Move, seen: SignSeen, context: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const found = caseFor(move, seen, context);
  if (!found.ok) return found;
  return changed(
    withTrouble(move, found.value),
    'trouble-seen',
    `${found.value.stepTitle}: “${troubleSigns[seen.sign]}” seen.`,
  );
}

/** Answers the check of a cause. Yes does not start its remedy; no excludes it; what cannot be checked excludes nothing. */
export function answerCause(
  move: Move,
  { causeId, answer, ...seen }: SignSeen & { readonly causeId: string; readonly answer: CauseAnswer },
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const judged = judgedCause(move, seen, causeId, context);
  if (!judged.ok) return judged;
  const { trouble, cause } = judged.value;
  if (trouble.detour)
    return fail(
      'detour-open',
      '/causeId',
      `The detour “${trouble.detour.title}” is under way: finish it, or take its way back first.`,
    );
  const since = trouble.answers.at(-1)?.at ?? trouble.seenAt;
  const minutes = Math.max(0, Math.round(minutesBetween(since, context.now)));
  return changed(
    withTrouble(move, {
      ...trouble,
      answers: [...trouble.answers, { causeId, answer, minutes, at: context.now, by: context.actor.name }],
    }),
    'cause-checked',
    `${troubleSigns[trouble.sign]}: “${cause.title}”? ${answerWords[answer]} (${printMinutes(minutes)}).`,
  );
}

/** Puts the remedy of a cause into the runbook as steps that are signed like any. Refused where it cannot be carried out. */
export function startDetour(
  move: Move,
  { causeId, ...seen }: SignSeen & { readonly causeId: string },
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const judged = judgedCause(move, seen, causeId, context);
  if (!judged.ok) return judged;
  const { trouble, cause, place } = judged.value;
  if (trouble.detour)
    return fail('detour-open', '/causeId', `The detour “${trouble.detour.title}” is under way already.`);
  const number =
    move.troubles.reduce((sum, { tried, detour }) => sum + tried.length + (detour ? 1 : 0), 0) + 1;
  const detour = planDetour(place, cause, number);
  if (!detour)
    return fail(
      'no-detour',
      '/causeId',
      typeof cause.remedy === 'string' ? cause.remedy : `“${cause.title}” is excluded: ${cause.because}`,
    );
  if (detour.obstacle)
    return fail(
      'no-detour',
      '/causeId',
      `“${detour.title}” cannot be done here: ${detour.obstacle.missing}.`,
    );
  return changed(
    withTrouble(move, {
      ...trouble,
      detour: {
        number,
        causeId,
        title: detour.title,
        at: context.now,
        by: context.actor.name,
        steps: detour.stops.map(({ step }) => step),
        wayBack: [...detour.wayBack],
      },
    }),
    'detour-started',
    `${trouble.stepTitle}: detour “${detour.title}”, because: ${cause.title}.`,
  );
}

const noSuchCase = () =>
  fail('no-such-trouble', '/number', 'Nothing with this number holds the runbook up: reload the page.');

/** Leaves a detour that did not help, once what it changed is undone: its cause is answered with no. */
export function leaveDetour(
  move: Move,
  number: number,
  reason: string,
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const trouble = openTroubleOf(move);
  if (!trouble || trouble.number !== number) return noSuchCase();
  const { detour } = trouble;
  if (!detour) return fail('no-detour', '/number', 'No detour is under way.');
  if (reason.trim() === '')
    return fail('reason-needed', '/reason', 'Say what you saw instead, and that the way back was taken.');
  const begun = detour.steps.some(({ id }) => standingOf(move.signatures, id).state !== 'open');
  const line = { at: context.now, by: context.actor.name, causeId: detour.causeId };
  return changed(
    withTrouble(move, {
      ...trouble,
      detour: null,
      tried: [
        ...trouble.tried,
        { ...line, number: detour.number, title: detour.title, reason: reason.trim() },
      ],
      answers: begun
        ? [
            ...trouble.answers,
            {
              ...line,
              answer: 'no',
              minutes: Math.max(0, Math.round(minutesBetween(detour.at, context.now))),
            },
          ]
        : trouble.answers,
    }),
    'detour-left',
    `${trouble.stepTitle}: left the detour “${detour.title}”: ${reason.trim()}`,
  );
}

/** Ends a trouble without a detour: it passed by itself, or something else helped. */
export function closeTrouble(
  move: Move,
  number: number,
  note: string,
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const trouble = openTroubleOf(move);
  if (!trouble || trouble.number !== number) return noSuchCase();
  if (trouble.detour)
    return fail(
      'detour-open',
      '/number',
      `The detour “${trouble.detour.title}” is under way: finish it, or take its way back first.`,
    );
  if (note.trim() === '')
    return fail(
      'reason-needed',
      '/note',
      'Say what it was, or what helped: the next one who sees it reads that.',
    );
  return changed(
    withTrouble(move, {
      ...trouble,
      closed: { how: 'otherwise', causeId: null, note: note.trim(), at: context.now, by: context.actor.name },
    }),
    'trouble-closed',
    `${trouble.stepTitle}: “${troubleSigns[trouble.sign]}” is over: ${note.trim()}`,
  );
}
