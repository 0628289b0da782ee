import { api, type MoveList, type MoveListQuery, type MoveRow } from '@ulvane/contract';
import { useCallback, useEffect, useMemo, useState } from 'react';
import useSWR from 'swr';
import { addressOf, call } from '../api/call';

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

/** A long list of moves, fetched page by page as it comes into sight; order and filters are the server's. */
export function useMoveRows(query: Omit<MoveListQuery, 'page' | 'pageSize'>): MoveRows {
  const queryOf = useCallback((page: number) => ({ ...query, page, pageSize }), [query]);
  const address = addressOf(api.moves, { query: queryOf(1) });
  const { data: first, error } = useSWR<MoveList, unknown>(
    address,
    () => call(api.moves, { query: queryOf(1) }),
    { keepPreviousData: true },
  );
  // Pages behind the first, by the list that they belong to: another list starts anew.
  const [later, setLater] = useState<{
    readonly of: MoveList | undefined;
    readonly pages: ReadonlyMap<number, readonly MoveRow[]>;
  }>({
    of: undefined,
    pages: new Map(),
  });
  const [sight, setSight] = useState({ from: 1, to: 1 });
  const pages = useMemo(
    () => (later.of === first ? later.pages : new Map<number, readonly MoveRow[]>()),
    [later, first],
  );

  useEffect(() => {
    if (!first) return;
    let wanted = true;
    const last = Math.ceil(first.total / pageSize);
    for (let page = Math.max(2, sight.from); page <= Math.min(last, sight.to); page += 1) {
      if (pages.has(page)) continue;
      void call(api.moves, { query: queryOf(page) }).then(({ rows }) => {
        if (wanted)
          setLater((now) => ({
            of: first,
            pages: new Map(now.of === first ? now.pages : undefined).set(page, rows),
          }));
      });
    }
    return () => {
      wanted = false;
    };
  }, [first, pages, queryOf, sight]);

  return {
    total: first?.total ?? 0,
    first,
    error,
    at: (index) => {
      const page = Math.floor(index / pageSize) + 1;
      return (page === 1 ? first?.rows : pages.get(page))?.[index % pageSize];
    },
    see: useCallback((from, to) => {
      const next = { from: Math.floor(from / pageSize) + 1, to: Math.floor(to / pageSize) + 1 };
      setSight((now) => (now.from === next.from && now.to === next.to ? now : next));
    }, []),
  };
}
