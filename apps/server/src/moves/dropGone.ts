import type { Move } from '@ulvane/core/record';
import type { EntityManager } from 'typeorm';

const goneFrom = (was: readonly { readonly id: string }[], is: readonly { readonly id: string }[]) => {
  const kept = new Set(is.map(({ id }) => id));
  return was.map(({ id }) => id).filter((id) => !kept.has(id));
};

/** Removes the lines of lists and comparisons that a change of a move has left without their head. */
export async function dropGone(manager: EntityManager, was: Move, is: Move): Promise<void> {
  const lists = goneFrom(was.fileLists, is.fileLists);
  if (lists.length > 0) await manager.query('DELETE FROM file_entry WHERE list_id = ANY($1)', [lists]);
  const comparisons = goneFrom(was.reconciled, is.reconciled);
  if (comparisons.length > 0)
    await manager.query('DELETE FROM difference WHERE reconciliation_id = ANY($1)', [comparisons]);
}
