import type { Retention } from '../../backup/keeping/retention';
import type { Rename } from '../../backup/destinations/renames';
import { checklistOf, type ChecklistAnswer } from '../../backup/scope/forgotten';
import { printCount } from '../../quantity/count';
import { fail } from '../../outcome/outcome';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome, todayOf } from './command';

/**
 * Answers lines of the checklist in one go: that there is none (with who says so, if that matters), that the
 * owner is to be asked, or that a line is open again.
 */
export function answerChecklist(
  move: Move,
  given: readonly ChecklistAnswer[],
  { actor, now, catalogue }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  // Said twice, the last word counts.
  const answers = [...new Map(given.map((answer) => [answer.id, answer])).values()];
  const lines = new Map(
    checklistOf(move.facts, catalogue, move.dataSets, move).map((line) => [line.id, line]),
  );
  const unknown = answers.find(({ id }) => !lines.has(id));
  if (unknown)
    return fail(
      'no-such-line',
      '/answers',
      `The checklist of this device has no line “${unknown.id}”: reload the page.`,
    );
  const listed = answers.find(({ id, answer }) => answer !== 'open' && lines.get(id)?.state === 'listed');
  if (listed)
    return fail(
      'already-a-data-set',
      '/answers',
      `${lines.get(listed.id)?.name ?? listed.id} is a data set of this move: delete the data set first.`,
    );
  const answered = new Set(answers.map(({ id }) => id));
  const said = (answer: ChecklistAnswer['answer']) => answers.filter((one) => one.answer === answer);
  const kept = <T extends { readonly id: string }>(list: readonly T[]) =>
    list.filter(({ id }) => !answered.has(id));
  const names = (of: readonly ChecklistAnswer[]) =>
    of
      .map(
        ({ id, reason }) =>
          `${lines.get(id)?.name ?? id}${reason.trim() === '' ? '' : ` (${reason.trim()})`}`,
      )
      .join(', ');
  const sentences = [
    ['There is none, or it is not needed', said('none')],
    ['The owner is asked', said('ask')],
    ['Open again', said('open')],
  ] as const;
  return changed(
    {
      ...move,
      notNeeded: [
        ...kept(move.notNeeded),
        ...said('none').map(({ id, reason }) => ({ id, reason: reason.trim(), at: now, by: actor.name })),
      ],
      askedOwner: [
        ...kept(move.askedOwner),
        ...said('ask').map(({ id }) => ({ id, at: now, by: actor.name })),
      ],
    },
    'forgotten-answered',
    `${printCount(answers.length, 'question')} of the checklist answered. ${sentences
      .flatMap(([words, of]) => (of.length === 0 ? [] : [`${words}: ${names(of)}.`]))
      .join(' ')}`,
  );
}

/** Keeps the list of other names that files of a data set have on a destination. */
export function keepRenames(
  move: Move,
  given: { readonly dataSetId: string; readonly destinationId: string; readonly renames: readonly Rename[] },
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const { dataSetId, destinationId } = given;
  const dataSet = move.dataSets.find(({ id }) => id === dataSetId);
  const destination = move.destinations.find(({ id }) => id === destinationId);
  if (!dataSet || !destination?.takes.includes(dataSetId))
    return fail(
      'no-such-copy',
      '/dataSetId',
      'That destination has no copy of that data set planned: tick “copy here” on Save first.',
    );
  const others = move.renames.filter(
    (entry) => entry.dataSetId !== dataSetId || entry.destinationId !== destinationId,
  );
  return changed(
    {
      ...move,
      renames:
        given.renames.length === 0
          ? others
          : [...others, { dataSetId, destinationId, names: [...given.renames] }],
    },
    'renames-kept',
    given.renames.length === 0
      ? `${dataSet.name} on ${destination.name}: no name is another there.`
      : `${dataSet.name} on ${destination.name}: ${given.renames.length} ${given.renames.length === 1 ? 'name is another' : 'names are others'} there; the list is kept.`,
  );
}

/** Label, place and last day of the backup on a destination. A wipe that is recorded stays. */
export function keepBackup(
  move: Move,
  kept: Omit<Retention, 'wiped'>,
  context: CommandContext,
): CommandOutcome {
  const destination = move.destinations.find(({ id }) => id === kept.destinationId);
  if (!destination) return fail('no-such-destination', '/destinationId', 'The move has no such destination.');
  const present = move.retention.find(({ destinationId }) => destinationId === kept.destinationId);
  if (present?.wiped)
    return fail(
      'wiped-already',
      '/destinationId',
      `The backup on ${destination.name} has been wiped already.`,
    );
  if (kept.keepUntil < todayOf(context))
    return fail('day-is-over', '/keepUntil', 'A backup is kept until a day that is still to come.');
  return changed(
    {
      ...move,
      retention: [
        ...move.retention.filter(({ destinationId }) => destinationId !== kept.destinationId),
        { ...kept, wiped: null },
      ],
    },
    'backup-kept',
    `Backup on ${destination.name}: “${kept.label}”, ${kept.place}, kept until ${kept.keepUntil}.`,
  );
}

/** Records that a backup has been wiped. Its record may be closed: the backup outlives it. */
export function recordWipe(
  move: Move,
  wipe: { readonly destinationId: string; readonly method: string },
  { actor, now }: CommandContext,
): CommandOutcome {
  const kept = move.retention.find(({ destinationId }) => destinationId === wipe.destinationId);
  const destination = move.destinations.find(({ id }) => id === wipe.destinationId);
  if (!kept || !destination)
    return fail(
      'no-such-backup',
      '/destinationId',
      'No backup is noted there: note label, place and day first.',
    );
  if (kept.wiped) return fail('wiped-already', '/destinationId', 'The backup has been wiped already.');
  if (wipe.method.trim() === '') return fail('no-method', '/method', 'Say how it was wiped.');
  if (!move.handover.signedOff)
    return fail(
      'not-handed-over',
      '/destinationId',
      'The move is not handed over yet: the backup may still be needed. Wipe it after the owner has signed.',
    );
  return changed(
    {
      ...move,
      retention: move.retention.map((entry) =>
        entry === kept ? { ...kept, wiped: { at: now, by: actor.name, method: wipe.method.trim() } } : entry,
      ),
    },
    'backup-wiped',
    `Backup on ${destination.name} wiped: ${wipe.method.trim()}`,
  );
}
