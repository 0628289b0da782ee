import type { Retention } from '../../backup/keeping/retention';
import type { Rename } from '../../backup/destinations/renames';
import { forgottenThings } from '../../backup/scope/forgotten';
import { fail } from '../../outcome/outcome';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome, todayOf } from './command';

/** Says of a line of the checklist that it is not needed here, with a reason; or takes that back. */
export function answerForgotten(
  move: Move,
  answer: { readonly id: string; readonly reason: string | null },
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const others = move.notNeeded.filter(({ id }) => id !== answer.id);
  const name = forgottenThings.find(({ id }) => id === answer.id)?.name ?? answer.id.replaceAll('-', ' ');
  if (answer.reason === null)
    return changed({ ...move, notNeeded: others }, 'forgotten-open', `${name}: to be looked at again.`);
  if (answer.reason.trim() === '')
    return fail('no-reason', '/reason', 'Say why it is not needed: it is missed weeks later.');
  return changed(
    {
      ...move,
      notNeeded: [...others, { id: answer.id, reason: answer.reason.trim(), at: now, by: actor.name }],
    },
    'forgotten-answered',
    `${name}: not needed. ${answer.reason.trim()}`,
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
