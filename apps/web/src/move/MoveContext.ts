import type { HouseView, MoveView } from '@ulvane/contract';
import { houseRulesOfMove, type HouseRules } from '@ulvane/core/rules';
import type { Move } from '@ulvane/core/record';
import { createContext, useContext, useMemo } from 'react';

type OpenMove = { readonly view: MoveView; readonly house: HouseView };

export const MoveContext = createContext<OpenMove | undefined>(undefined);

/** The move that the page shows, the house that it is read against, and the house rules that it follows. */
export function useOpenMove(): OpenMove & { readonly move: Move; readonly houseRules: HouseRules } {
  const open = useContext(MoveContext);
  if (!open) throw new Error('there is no open move here');
  const { move } = open.view;
  // A new object only when something in it is new: readings hang on it.
  const houseRules = useMemo(
    () => houseRulesOfMove(open.house.houseRules, move.departures),
    [open.house.houseRules, move.departures],
  );
  return { ...open, move, houseRules };
}
