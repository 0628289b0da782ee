import type { HouseView, MoveView } from '@ulvane/contract';
import type { Move } from '@ulvane/core';
import { createContext, useContext } from 'react';

type OpenMove = { readonly view: MoveView; readonly house: HouseView };

export const MoveContext = createContext<OpenMove | undefined>(undefined);

/** The move that the page shows, and the house that it is read against. */
export function useOpenMove(): OpenMove & { readonly move: Move } {
  const open = useContext(MoveContext);
  if (!open) throw new Error('there is no open move here');
  return { ...open, move: open.view.move };
}
