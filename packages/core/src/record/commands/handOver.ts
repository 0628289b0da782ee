import { printCount } from '../../quantity/count';
import type { ProblemCode } from '../../outcome/problemCodes';
import { fail, type Problem } from '../../outcome/outcome';
import { isSigned } from '../../runbook/signature';
import { accountFor, type Handover } from '../handover';
import { alignAccounting } from '../accountingSignature';
import type { Move } from '../move';
import { thingsToTell } from '../ownerTold';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** Notes what was found after the restore, what is still open, and what happens to the backup. */
export function noteHandover(
  move: Move,
  notes: Pick<Handover, 'found' | 'openPoints'>,
  { actor, now }: CommandContext,
): CommandOutcome {
  const open = accountFor({ ...move, handover: notes }).filter(({ state }) => state === 'open').length;
  return (
    refuseWhenDone(move) ??
    changed(
      alignAccounting({ ...move, handover: { ...move.handover, ...notes } }, now, actor.name),
      'handover-noted',
      open === 0
        ? 'Every data set is accounted for.'
        : `${printCount(open, 'data set')} not accounted for yet.`,
    )
  );
}

/** Notes that the owner was told one thing, or withdraws that. */
export function tellOwner(
  move: Move,
  { sentence, told }: { readonly sentence: string; readonly told: boolean },
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const things = thingsToTell(move);
  if (!things.some((thing) => thing.sentence === sentence))
    return fail(
      'nothing-to-tell',
      '/sentence',
      'The record no longer says this: reload the page, and read what is to be told now.',
    );
  // What the record no longer says was told of another state.
  const others = things.flatMap((thing) => (thing.told && thing.sentence !== sentence ? [thing.told] : []));
  return changed(
    {
      ...move,
      handover: {
        ...move.handover,
        told: told ? [...others, { sentence, at: now, by: actor.name }] : others,
      },
    },
    'owner-told',
    told ? `The owner was told: ${sentence}` : `Not told after all: ${sentence}`,
  );
}

/** Everything that keeps the owner from signing off, each with its cure. */
export function beforeSignOff(move: Move): readonly Problem[] {
  const problems: Problem[] = [];
  const add = (code: ProblemCode, path: string, sentence: string) => problems.push({ code, path, sentence });
  if (!move.plan) {
    add('no-plan', '/plan', 'There is no runbook: plan the move on Prepare.');
    return problems;
  }
  const unsigned = move.plan.runbook.steps.filter(
    ({ id, kind }) => kind !== 'sign-off' && !isSigned(move.signatures, id),
  );
  if (unsigned.length > 0)
    add(
      'steps-open',
      '/signatures',
      `${printCount(unsigned.length, 'step')} ${unsigned.length === 1 ? 'is' : 'are'} not signed, first “${unsigned[0]?.title ?? ''}”.`,
    );
  const writes = move.plan.runbook.lineIndex !== null;
  for (const { dataSetId, state, openBecause } of writes ? accountFor(move) : [])
    if (state === 'open') {
      const name = move.dataSets.find(({ id }) => id === dataSetId)?.name ?? dataSetId;
      add('files-open', `/handover/found/${dataSetId}`, `${name}: ${openBecause}`);
    }
  for (const { id, name, takes } of move.destinations)
    if (takes.length > 0 && !move.retention.some(({ destinationId }) => destinationId === id))
      add(
        'backup-not-noted',
        `/retention/${id}`,
        `The backup on ${name}: say what is written on it, where it is kept, and until which day.`,
      );
  const untold = thingsToTell(move).filter(({ told }) => told === null).length;
  if (untold > 0)
    add(
      'owner-not-told',
      '/handover/told',
      `${printCount(untold, 'thing')} that the owner has to be told ${untold === 1 ? 'is' : 'are'} not ticked.`,
    );
  return problems;
}

/** The owner signs; the move's record is closed with it. */
export function signOff(move: Move, ownerName: string, { actor, now }: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (ownerName.trim() === '')
    return fail('no-owner-name', '/ownerName', 'Write the name of the owner who signs.');
  const problems = beforeSignOff(move);
  if (problems.length > 0) return { ok: false, problems };
  const step = move.plan?.runbook.steps.find(({ kind }) => kind === 'sign-off');
  const line = step
    ? [
        {
          stepId: step.id,
          title: step.title,
          action: 'sign' as const,
          at: now,
          by: actor.name,
          actualMinutes: null,
          note: `signed by ${ownerName.trim()}`,
        },
      ]
    : [];
  return changed(
    {
      ...move,
      signatures: [...move.signatures, ...line],
      handover: { ...move.handover, signedOff: { ownerName: ownerName.trim(), at: now, by: actor.name } },
    },
    'signed-off',
    `Handed over; ${ownerName.trim()} signed.`,
  );
}
