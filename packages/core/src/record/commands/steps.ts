import type { Copy } from '../../backup/dataSet';
import { fail } from '../../outcome/outcome';
import { lineCrossed, standingOf, type Signature } from '../../runbook/signature';
import type { GateId, Step } from '../../runbook/step';
import { minutesBetween } from '../../quantity/day';
import { alignCopySteps } from '../copySignatures';
import { readPlan, type PlanReading } from '../reading';
import type { Move } from '../move';
import { missingFor } from '../signable';
import { changed, onlyLeads, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

type Found = { readonly step: Step; readonly index: number; readonly reading: PlanReading };

function findStep(move: Move, stepId: string, context: CommandContext): Found | undefined {
  const reading = readPlan(move, context);
  const index = move.plan?.runbook.steps.findIndex(({ id }) => id === stepId) ?? -1;
  const step = move.plan?.runbook.steps[index];
  return reading && step ? { step, index, reading } : undefined;
}

const noSuchStep = () =>
  fail(
    'no-such-step',
    '/stepId',
    'The runbook has no such step: it may have been planned again. Reload the page.',
  );

function lockedReason({ reading, step }: Found): string | null {
  const standing = reading.standings.find(({ stepId }) => stepId === step.id);
  return standing?.state === 'locked' ? (standing.reason ?? 'It is locked.') : null;
}

function withLine(
  move: Move,
  step: Step,
  action: Signature['action'],
  { actor, now }: CommandContext,
  actualMinutes: number | null,
  note: string,
): Move {
  return {
    ...move,
    signatures: [
      ...move.signatures,
      { stepId: step.id, title: step.title, action, at: now, by: actor.name, actualMinutes, note },
    ],
  };
}

/** Starts the wait of a step: its countdown runs from now. */
export function startStep(move: Move, stepId: string, context: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const found = findStep(move, stepId, context);
  if (!found) return noSuchStep();
  const { step } = found;
  const locked = lockedReason(found);
  if (locked !== null) return fail('step-locked', '/stepId', locked);
  if (standingOf(move.signatures, stepId).state !== 'open')
    return fail('step-conflict', '/stepId', `“${step.title}” has been started or signed already.`);
  return changed(
    withLine(move, step, 'start', context, null, ''),
    'step-started',
    `${step.title}: started, about ${step.waiting.likely} min.`,
  );
}

/**
 * Signs a step as done. Verifying a destination verifies its copies. Actual minutes that are not
 * given are counted from the start of a waiting step.
 */
export function signStep(
  move: Move,
  stepId: string,
  given: { readonly actualMinutes: number | null; readonly note: string },
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const found = findStep(move, stepId, context);
  if (!found) return noSuchStep();
  const { step } = found;
  const standing = standingOf(move.signatures, stepId);
  if (standing.state === 'signed')
    return fail(
      'step-conflict',
      '/stepId',
      `“${step.title}” was signed by ${standing.last?.by ?? 'someone'} at ${standing.last?.at.slice(11, 16) ?? ''}.`,
    );
  const locked = lockedReason(found);
  if (locked !== null) return fail('step-locked', '/stepId', locked);
  if (step.requiresLead && context.actor.role !== 'lead') return onlyLeads(`sign “${step.title}”`);
  const missing = missingFor(step, move);
  if (missing !== null) return fail('not-noted', '/stepId', missing);
  if (step.kind === 'sign-off')
    return fail('sign-off-elsewhere', '/stepId', 'The owner signs on Hand over; that signs this step.');
  const counted =
    standing.state === 'started' && standing.last
      ? Math.round(minutesBetween(standing.last.at, context.now))
      : null;
  const signed = withLine(move, step, 'sign', context, given.actualMinutes ?? counted, given.note.trim());
  const verified = { ...signed, copies: [...move.copies, ...verifiedBy(step, move, context)] };
  return changed(
    alignCopySteps(verified, context.now, context.actor.name, 'signed with its verification'),
    'step-signed',
    `${step.title}: signed${given.note.trim() ? ` (${given.note.trim()})` : ''}.`,
  );
}

function verifiedBy(step: Step, move: Move, { actor, now }: CommandContext): Copy[] {
  return step.effects.flatMap((effect) =>
    effect.kind === 'verified-copy'
      ? effect.dataSetIds
          .filter(
            (dataSetId) =>
              !move.copies.some(
                (copy) => copy.dataSetId === dataSetId && copy.destinationId === effect.destinationId,
              ),
          )
          .map((dataSetId) => ({
            dataSetId,
            destinationId: effect.destinationId,
            verifiedAt: now,
            verifiedBy: actor.name,
          }))
      : [],
  );
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
  if (reason.trim() === '') return fail('reason-needed', '/reason', 'Say why the signature is taken back.');
  if (lineCrossed(runbook, move.signatures) && index < (runbook.lineIndex ?? 0))
    return fail(
      'line-crossed',
      '/stepId',
      'The Line has been crossed: what was signed above it stays signed. Put a correction into the note of the next step.',
    );
  const laterSigned =
    index >= (runbook.lineIndex ?? runbook.steps.length)
      ? runbook.steps.slice(index + 1).find(({ id }) => standingOf(move.signatures, id).state !== 'open')
      : undefined;
  if (laterSigned)
    return fail(
      'later-step-signed',
      '/stepId',
      `“${laterSigned.title}” comes after it: take that back first.`,
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
    `${step.title}: signature taken back: ${reason.trim()}`,
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
