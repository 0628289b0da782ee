import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandOutcome } from './command';

/** Sets whose device it is, where it stands and when the move is due. */
export function setIdentity(move: Move, identity: Pick<Move, 'owner' | 'site' | 'dueOn'>): CommandOutcome {
  const due = identity.dueOn ? `, due ${identity.dueOn}` : '';
  return (
    refuseWhenDone(move) ??
    changed(
      { ...move, ...identity },
      'identity-set',
      `Owner ${identity.owner || 'not named'}, ${identity.site || 'no site'}${due}.`,
    )
  );
}
