import { useVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import { useEffect, useRef, type RefObject } from 'react';
import type { MoveRows } from './useMoveRows';

type Window = {
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly items: readonly VirtualItem[];
  /** Heights that stand for the rows above and below, in pixels. */
  readonly above: number;
  readonly below: number;
  readonly scrollTo: (index: number) => void;
};

/** Draws only the rows in sight, and tells the list which ones these are. */
export function useWindow({ total, see }: Pick<MoveRows, 'total' | 'see'>, rowHeight: number): Window {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = items.at(-1)?.index ?? 0;
  useEffect(() => see(from, to), [see, from, to]);
  return {
    scroller,
    items,
    above: items[0]?.start ?? 0,
    below: Math.max(0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0)),
    scrollTo: (index) => virtual.scrollToIndex(index),
  };
}
