import { purposeTexts, type Wish } from '../../route/wish';
import type { Move } from '../move';
import { changed, refuseWhenDone, todayOf, type CommandContext, type CommandOutcome } from './command';
import { fail } from '../../outcome/outcome';

/** States why the move is made, or takes that back: the advice follows it. */
export function stateWish(move: Move, wish: Wish | null, context: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (wish?.until != null && wish.until <= todayOf(context))
    return fail('hold-is-over', '/wish/until', 'A trial ends on a day that is still to come.');
  return changed(
    { ...move, wish },
    'wish-stated',
    wish === null
      ? 'Why the move is made: not stated any more.'
      : `Why the move is made: ${purposeTexts[wish.purpose].title.toLowerCase()}${wish.until === null ? '' : `, ${wish.until}`}.`,
  );
}
