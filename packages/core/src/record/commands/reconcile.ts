import { fail } from '../../outcome/outcome';
import { alignAccounting } from '../accountingSignature';
import type { Move } from '../move';
import { reconciledSentence, type Reconciled } from '../reconciled';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** Notes what comparing a data set before and after gave; the comparison before it is replaced. */
export function recordReconciled(
  move: Move,
  found: Omit<Reconciled, 'at' | 'by'>,
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const dataSet = move.dataSets.find(({ id }) => id === found.dataSetId);
  if (!dataSet)
    return fail('no-such-data-set', '/dataSetId', 'The move has no such data set: reload the page.');
  const reconciled: Reconciled = { ...found, at: now, by: actor.name };
  const compared = {
    ...move,
    reconciled: [...move.reconciled.filter(({ dataSetId }) => dataSetId !== found.dataSetId), reconciled],
  };
  return changed(
    alignAccounting(compared, now, actor.name),
    'reconciled',
    `${dataSet.name} compared file by file: ${reconciledSentence(reconciled)}.`,
  );
}

/** Notes that differences were explained or accepted, or that an explanation was taken back. */
export function recordExplained(
  move: Move,
  change: { readonly id: string; readonly explained: number; readonly open: number; readonly what: string },
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const present = move.reconciled.find(({ id }) => id === change.id);
  if (!present)
    return fail('no-such-comparison', '/id', 'That comparison has been made again: reload the page.');
  const name = move.dataSets.find(({ id }) => id === present.dataSetId)?.name ?? present.dataSetId;
  const told = {
    ...move,
    reconciled: move.reconciled.map((entry) =>
      entry === present ? { ...present, explained: change.explained, open: change.open } : entry,
    ),
  };
  return changed(
    alignAccounting(told, now, actor.name),
    'differences-explained',
    `${name}: ${change.what} ${change.open === 0 ? 'Nothing is open any more.' : `${change.open.toLocaleString('en')} are still open.`}`,
  );
}
