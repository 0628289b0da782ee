import { addMinutes, daysBetween, minutesBetween } from '../quantity/day';

export type WaitingMove = {
  readonly reference: string;
  readonly device: string;
  readonly site: string;
  readonly dueOn: string | null;
  /** The wait under way, if any. */
  readonly wait: { readonly title: string; readonly startedAt: string; readonly minutes: number } | null;
  /** What to do next when nothing is waited for. */
  readonly nextTitle: string;
  /** A step of the move has been signed or started already: it lies on the bench. */
  readonly begun: boolean;
  readonly blockedBecause: string | null;
};

type NextHand = {
  readonly reference: string;
  readonly device: string;
  readonly site: string;
  readonly sentence: string;
  /** ISO instant at which hands are needed. */
  readonly at: string;
  /** Minutes from now; 0 or less: now. */
  readonly inMinutes: number;
  readonly daysLeft: number | null;
  readonly blockedBecause: string | null;
};

/**
 * What needs a hand next, across moves, in the order to go: waits that are over (longest first),
 * then what lies on the bench, then what waits with its end, then the rest by the days left.
 * @param now ISO instant
 * @param today ISO date of the house
 */
export function nextUp(moves: readonly WaitingMove[], now: string, today: string): readonly NextHand[] {
  return moves
    .map((move) => {
      const at = move.wait ? addMinutes(move.wait.startedAt, move.wait.minutes) : now;
      const inMinutes = minutesBetween(now, at);
      const hand: NextHand = {
        reference: move.reference,
        device: move.device,
        site: move.site,
        sentence: move.wait ? move.wait.title : move.nextTitle,
        at,
        inMinutes,
        daysLeft: move.dueOn === null ? null : daysBetween(today, move.dueOn),
        blockedBecause: move.blockedBecause,
      };
      return { hand, rank: rankOf(move, inMinutes) };
    })
    .sort(
      (a, b) =>
        a.rank - b.rank ||
        (a.rank === 0 || a.rank === 2 ? a.hand.inMinutes - b.hand.inMinutes : 0) ||
        (a.hand.daysLeft ?? 9999) - (b.hand.daysLeft ?? 9999) ||
        a.hand.reference.localeCompare(b.hand.reference, 'en'),
    )
    .map(({ hand }) => hand);
}

function rankOf(move: WaitingMove, inMinutes: number): number {
  if (move.wait) return inMinutes <= 0 ? 0 : 2;
  if (move.begun) return move.blockedBecause ? 3 : 1;
  return move.blockedBecause ? 5 : 4;
}
