import { fail, succeed, type Outcome } from '../../outcome/outcome';
import { meantBy, whyAnotherDisk } from '../../disk/marks';
import { printCount } from '../../quantity/count';
import { gibibyteBytes, gigabyteBytes } from '../../quantity/bytes';
import {
  isSigned,
  lineCrossed,
  lineStep,
  standingOf,
  type Crossing,
  type Signature,
} from '../../runbook/signature';
import type { GateId, Step } from '../../runbook/step';
import { printClockIn } from '../../quantity/localTime';
import { minutesBetween } from '../../quantity/day';
import { diskBytes } from '../../survey/disk';
import { alignAccounting } from '../accountingSignature';
import { alignCopySteps } from '../copySignatures';
import { diskOfPlan } from '../diskOf';
import { diskFittedSince } from '../fittedDisk';
import { alignIdentified, whyNotIdentified } from '../identitySignature';
import { readPlan, type PlanReading } from '../reading';
import type { Move } from '../move';
import { missingFor } from '../signable';
import { copiesStatedBy } from '../statedCopies';
import { alignTrouble, detourSteps } from '../troubles';
import { changed, onlyLeads, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** A step of the runbook by its place in it, or a stop of the detour that is under way: that has none, -1. */
type Found = { readonly step: Step; readonly index: number; readonly reading: PlanReading };

function findStep(move: Move, stepId: string, context: CommandContext): Found | undefined {
  const reading = readPlan(move, context);
  const index = move.plan?.runbook.steps.findIndex(({ id }) => id === stepId) ?? -1;
  const step = move.plan?.runbook.steps[index] ?? detourSteps(move).find(({ id }) => id === stepId);
  return reading && step ? { step, index, reading } : undefined;
}

const noSuchStep = () =>
  fail(
    'no-such-step',
    '/stepId',
    'The runbook has no such step: it may have been planned again. Reload the page.',
  );

function lockedReason({ reading, step }: Found): string | null {
  const standing = [...reading.standings, ...reading.stops].find(({ stepId }) => stepId === step.id);
  return standing?.state === 'locked' ? (standing.reason ?? 'It is locked.') : null;
}

function withLine(
  move: Move,
  step: Step,
  action: Signature['action'],
  { actor, now }: CommandContext,
  actualMinutes: number | null,
  note: string,
  crossing?: Crossing | null,
): Move {
  return {
    ...move,
    signatures: [
      ...move.signatures,
      {
        stepId: step.id,
        title: step.title,
        action,
        at: now,
        by: actor.name,
        actualMinutes,
        note,
        ...(crossing ? { crossing } : {}),
      },
    ],
  };
}

/**
 * Starts the wait of a step: its countdown runs from now. At the Line the start is the crossing, and needs what the
 * installer shows of the disk.
 */
export function startStep(
  given: Move,
  stepId: string,
  context: CommandContext,
  shown: Crossing | null = null,
): CommandOutcome {
  const closed = refuseWhenDone(given);
  if (closed) return closed;
  const crossed = atTheLine(given, stepId, shown, context);
  if (!crossed.ok) return crossed;
  const { move, crossing } = crossed.value;
  const found = findStep(move, stepId, context);
  if (!found) return noSuchStep();
  const { step } = found;
  const locked = lockedReason(found);
  if (locked !== null) return fail('step-locked', '/stepId', locked);
  if (standingOf(move.signatures, stepId).state !== 'open')
    return fail('step-conflict', '/stepId', `“${step.title}” has been started or signed already.`);
  if (crossing === 'needed') return crossingNeeded();
  return changed(
    withLine(move, step, 'start', context, null, '', crossing),
    'step-started',
    `${step.title}: started, about ${step.waiting.likely} min.${seenText(crossing)}`,
  );
}

const seenText = (crossing: Crossing | undefined) =>
  crossing ? ` The installer showed …${crossing.serialEnd}, ${crossing.sizeShown}.` : '';

const crossingNeeded = () =>
  fail(
    'crossing-needed',
    '/crossing',
    'Type the end of the disk’s serial and its size as the installer’s own page shows them: the step at the Line is signed by these two.',
  );

/**
 * The move with the serial and the size that were typed at the Line in place of those of Prepare. Anywhere but at the
 * Line what was typed says nothing; another disk than the plan's is refused.
 */
function atTheLine(
  move: Move,
  stepId: string,
  shown: Crossing | null | undefined,
  context: CommandContext,
): Outcome<{ readonly move: Move; readonly crossing: Crossing | 'needed' | undefined }> {
  if (!needsCrossing(move, stepId)) return succeed({ move, crossing: undefined });
  const { state, last } = standingOf(move.signatures, stepId);
  const crossing = shown ?? (state === 'started' ? last?.crossing : undefined);
  if (!crossing) return succeed({ move, crossing: 'needed' });
  const another = anotherDisk(move, crossing);
  if (another !== undefined) return fail('another-disk', '/crossing', another);
  const marked = withMarks(move, crossing, context);
  return succeed({ move: alignIdentified(marked, context.now, context.actor.name), crossing });
}

type Signing = {
  readonly actualMinutes: number | null;
  readonly note: string;
  /** What the installer's page shows of the disk; needed at the Line, and only there. */
  readonly crossing?: Crossing | null | undefined;
};

/**
 * Signs a step as done. Verifying a destination verifies its copies. Actual minutes that are not
 * given are counted from the start of a waiting step; before its shortest time it is signed with a reason only. The step
 * at the Line needs the disk's serial and size as the installer shows them.
 */
export function signStep(
  given: Move,
  stepId: string,
  { actualMinutes, note, crossing: shown }: Signing,
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(given);
  if (closed) return closed;
  const crossed = atTheLine(given, stepId, shown, context);
  if (!crossed.ok) return crossed;
  const { move, crossing } = crossed.value;
  const found = findStep(move, stepId, context);
  if (!found) return noSuchStep();
  const { step } = found;
  const standing = standingOf(move.signatures, stepId);
  if (standing.state === 'signed')
    return fail(
      'step-conflict',
      '/stepId',
      `“${step.title}” was signed by ${standing.last?.by ?? 'someone'} at ${printClockIn(context.houseRules.timeZone, standing.last?.at ?? context.now)}.`,
    );
  const locked = lockedReason(found);
  if (locked !== null) return fail('step-locked', '/stepId', locked);
  if (step.requiresLead && context.actor.role !== 'lead') return onlyLeads(`sign “${step.title}”`);
  const missing = missingFor(step, move);
  if (missing !== null) return fail('not-noted', '/stepId', missing);
  if (step.kind === 'sign-off')
    return fail(
      'sign-off-elsewhere',
      '/stepId',
      'The owner signs on Hand over; this step is signed with it.',
    );
  if (crossing === 'needed') return crossingNeeded();
  const counted =
    standing.state === 'started' && standing.last
      ? Math.round(minutesBetween(standing.last.at, context.now))
      : null;
  const early = tooEarly(step, actualMinutes ?? counted, note);
  if (early !== null) return fail('too-early', '/note', early);
  const stated = copiesStatedBy(step, move, context.now, context.actor.name);
  const signed = withLine(move, step, 'sign', context, actualMinutes ?? counted, note.trim(), crossing);
  const { now, actor } = context;
  // Once a disk is fitted, the one that was identified is not the one in the device.
  const identified = step.kind === 'fit-part' ? alignIdentified(signed, now, actor.name) : signed;
  const aligned = alignCopySteps({ ...identified, copies: [...move.copies, ...stated] }, now, actor.name);
  return changed(
    alignTrouble(alignAccounting(aligned, now, actor.name), now, actor.name),
    'step-signed',
    `${step.title}: signed${note.trim() ? ` (${note.trim()})` : ''}.${stated.length > 0 ? ` ${printCount(stated.length, 'copy')} stated by hand.` : ''}${seenText(crossing)}`,
  );
}

/** Whether the step at this place crosses the Line of a route that writes to a disk. */
function needsCrossing({ plan, signatures }: Move, stepId: string): boolean {
  return (
    plan !== null &&
    lineStep(plan.runbook)?.id === stepId &&
    plan.runbook.gates.includes('disk-identified') &&
    !lineCrossed(plan.runbook, signatures)
  );
}

function anotherDisk(move: Move, crossing: Crossing): string | undefined {
  const fitted = diskFittedSince(move);
  if (fitted !== undefined) return fitted;
  const disk = diskOfPlan(move);
  // Where a disk does not tell its serial and a lead has answered for that, the size is what is left to compare.
  const silent = disk !== undefined && disk.serial === undefined;
  const answered = move.overrules.some(({ gateId }) => gateId === 'disk-identified');
  return (
    disk && whyAnotherDisk(silent && answered ? { ...disk, serial: crossing.serialEnd } : disk, crossing)
  );
}

/** Serial and size from the installer's page take the place of those that were typed on Prepare. */
function withMarks(move: Move, { serialEnd, sizeShown }: Crossing, { actor, now }: CommandContext): Move {
  const disk = diskOfPlan(move);
  const binary = disk !== undefined && meantBy(diskBytes(disk), sizeShown) === 'GiB';
  const sizeGigabytes = binary ? (sizeShown * gibibyteBytes) / gigabyteBytes : sizeShown;
  return {
    ...move,
    preparation: { ...move.preparation, diskMarks: { serialEnd, sizeGigabytes, at: now, by: actor.name } },
  };
}

/** Why a step with a wait cannot be signed yet without a reason; null when it can. @param minutes since its start */
export function tooEarly(
  { title, waiting }: Pick<Step, 'title' | 'waiting'>,
  minutes: number | null,
  note: string,
): string | null {
  if (waiting.low < 1 || note.trim() !== '' || (minutes !== null && minutes >= waiting.low)) return null;
  const since = minutes === null ? 'its start was not noted' : `${minutes} min have gone by`;
  return `“${title}” takes ${waiting.low} min at least, and ${since}: say in the note why it is over already, or type the minutes that it took.`;
}

/** Takes a signature, or a start, back; the line stays in the step's history. */
export function unsignStep(
  move: Move,
  stepId: string,
  reason: string,
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const found = findStep(move, stepId, context);
  if (!found || !move.plan) return noSuchStep();
  const { step, index } = found;
  const { runbook } = move.plan;
  if (standingOf(move.signatures, stepId).state === 'open')
    return fail('step-conflict', '/stepId', `“${step.title}” is not signed.`);
  if (reason.trim() === '') return fail('reason-needed', '/reason', 'Say why the signature is withdrawn.');
  if (step.kind === 'identify-disk' && whyNotIdentified(move) === undefined)
    return fail(
      'step-conflict',
      '/stepId',
      'Serial number and size agree with the survey: withdraw them on Prepare, and this step is open again.',
    );
  if (
    step.destructive &&
    (isSigned(move.signatures, stepId) || standingOf(move.signatures, stepId).last?.crossing)
  )
    return fail(
      'line-crossed',
      '/stepId',
      `The signature of “${step.title}” cannot be withdrawn: what the step erased is gone. Add a correction that says what was wrong.`,
    );
  const isStop = index < 0;
  if (!isStop && lineCrossed(runbook, move.signatures) && index < (runbook.lineIndex ?? 0))
    return fail(
      'line-crossed',
      '/stepId',
      'The Line has been crossed: what was signed above it stays signed. Add a correction that says what was wrong.',
    );
  const later = isStop
    ? detourSteps(move).slice(detourSteps(move).findIndex(({ id }) => id === stepId) + 1)
    : index >= (runbook.lineIndex ?? runbook.steps.length)
      ? runbook.steps.slice(index + 1)
      : [];
  const laterSigned = later.find(({ id }) => standingOf(move.signatures, id).state !== 'open');
  if (laterSigned)
    return fail(
      'later-step-signed',
      '/stepId',
      `“${laterSigned.title}” comes after this step: withdraw that signature first.`,
    );
  const undone = step.effects.flatMap((effect) =>
    effect.kind === 'verified-copy'
      ? effect.dataSetIds.map((dataSetId) => `${effect.destinationId} ${dataSetId}`)
      : [],
  );
  const copies = move.copies.filter(
    ({ dataSetId, destinationId }) => !undone.includes(`${destinationId} ${dataSetId}`),
  );
  return changed(
    { ...withLine(move, step, 'unsign', context, null, reason.trim()), copies },
    'step-unsigned',
    `${step.title}: signature withdrawn: ${reason.trim()}`,
  );
}

/** Says what was wrong about a signature that stands: the line is added, and nothing is undone. */
export function correctStep(
  move: Move,
  stepId: string,
  reason: string,
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const found = findStep(move, stepId, context);
  if (!found) return noSuchStep();
  const { step } = found;
  if (!isSigned(move.signatures, stepId))
    return fail('step-conflict', '/stepId', `“${step.title}” is not signed: there is nothing to correct.`);
  if (reason.trim() === '') return fail('reason-needed', '/reason', 'Say what was wrong.');
  return changed(
    withLine(move, step, 'correct', context, null, reason.trim()),
    'step-corrected',
    `${step.title}: corrected: ${reason.trim()}`,
  );
}

/** A lead overrules a closed gate, with a reason that the log keeps. */
export function overruleGate(
  move: Move,
  gateId: GateId,
  reason: string,
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (context.actor.role !== 'lead') return onlyLeads('overrule a gate');
  if (reason.trim().length < 10)
    return fail(
      'reason-needed',
      '/reason',
      'Write the reason in a sentence (10 characters or more): it stays in the log.',
    );
  const gate = readPlan(move, context)?.gates.find(({ id }) => id === gateId);
  if (!gate) return fail('no-such-gate', '/gateId', 'The runbook has no such gate.');
  if (gate.state !== 'closed') return fail('gate-not-closed', '/gateId', `“${gate.title}” is not closed.`);
  return changed(
    {
      ...move,
      overrules: [
        ...move.overrules,
        {
          gateId,
          reason: reason.trim(),
          at: context.now,
          by: context.actor.name,
          reasons: [...gate.reasons],
          ...(move.plan ? { planAt: move.plan.at } : {}),
        },
      ],
    },
    'gate-overruled',
    `Gate “${gate.title}” overruled: ${reason.trim()}`,
  );
}
