import type { HouseView, MoveView } from '@ulvane/contract';
import { practiceOfMove, type Practice } from '@ulvane/core/practice';
import type { Move } from '@ulvane/core/record';
import { createContext, useContext, useMemo } from 'react';

type OpenMove = { readonly view: MoveView; readonly house: HouseView };

export const MoveContext = createContext<OpenMove | undefined>(undefined);

/** The move that the page shows, the house that it is read against, and the practice that it follows. */
export function useOpenMove(): OpenMove & { readonly move: Move; readonly practice: Practice } {
  const open = useContext(MoveContext);
  if (!open) throw new Error('there is no open move here');
  const { move } = open.view;
  // A new object only when something in it is new: readings hang on it.
  const practice = useMemo(
    () => practiceOfMove(open.house.practice, move.departures),
    [open.house.practice, move.departures],
  );
  return { ...open, move, practice };
}
