import type { Move } from '@ulvane/core/record';
import { columnsOf, type DerivedColumns, type HouseAt } from '../moves/row';

export type AssessInput = {
  readonly moves: readonly Move[];
  readonly house: HouseAt;
  /** ISO date */
  readonly today: string;
};

/** What lists show of each move, in their order. */
export function assessMoves({ moves, house, today }: AssessInput): DerivedColumns[] {
  return moves.map((move) => columnsOf(move, house, today));
}
