import { api, type MoveList, type MoveListQuery, type MoveRow } from '@ulvane/contract';
import { useCallback, useMemo, useState } from 'react';
import useSWR from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';

const pageSize = 100;

export type MoveRows = {
  readonly total: number;
  readonly first: MoveList | undefined;
  readonly error: unknown;
  /** The row at a place of the whole list; undefined while it is on its way. */
  readonly at: (index: number) => MoveRow | undefined;
  /** Says which places are in sight, so that their rows are fetched. */
  readonly see: (from: number, to: number) => void;
};

/** Pages of one list, identified by the address of its first. */
type Pages = { readonly of: string; readonly rows: ReadonlyMap<number, readonly MoveRow[]> };

/** A long list of moves, of which the pages in sight are fetched; order and filters are the server's. */
export function useMoveRows(query: Omit<MoveListQuery, 'page' | 'pageSize'>): MoveRows {
  const queryOf = useCallback((page: number) => ({ ...query, page, pageSize }), [query]);
  const { data: first, error } = useSWR<MoveList, unknown>(
    keys.moveList(queryOf(1)),
    () => call(api.moves, { query: queryOf(1) }),
    { keepPreviousData: true },
  );
  const [sight, setSight] = useState({ from: 1, to: 1 });
  const inSight = useMemo(() => {
    const last = Math.ceil((first?.total ?? 0) / pageSize);
    const from = Math.max(2, sight.from);
    return Array.from(
      { length: Math.max(0, Math.min(last, sight.to) - from + 1) },
      (_, index) => from + index,
    );
  }, [first, sight]);
  const list = keys.moveList(queryOf(1));
  const { data: pages, error: failed } = useSWR<Pages, unknown>(
    first && inSight.length > 0 ? keys.moveRows(queryOf(1), inSight) : null,
    async () => ({
      of: list,
      rows: new Map(
        await Promise.all(
          inSight.map(
            async (page) => [page, (await call(api.moves, { query: queryOf(page) })).rows] as const,
          ),
        ),
      ),
    }),
    // Rows that stay in sight stay, until the next pages are there; rows of another list do not.
    { keepPreviousData: true },
  );
  const later = pages?.of === list ? pages.rows : undefined;

  return {
    total: first?.total ?? 0,
    first,
    error: error ?? failed,
    at: (index) => {
      const page = Math.floor(index / pageSize) + 1;
      return (page === 1 ? first?.rows : later?.get(page))?.[index % pageSize];
    },
    see: useCallback((from, to) => {
      const next = { from: Math.floor(from / pageSize) + 1, to: Math.floor(to / pageSize) + 1 };
      setSight((now) => (now.from === next.from && now.to === next.to ? now : next));
    }, []),
  };
}
