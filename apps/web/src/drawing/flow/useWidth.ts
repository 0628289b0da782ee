import { useLayoutEffect, useRef, useState, type RefObject } from 'react';

/** The width that an element has on the page, in pixels, as it changes. */
export function useWidth<E extends HTMLElement>(first: number): [RefObject<E | null>, number] {
  const element = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useLayoutEffect(() => {
    const { current } = element;
    if (!current) return undefined;
    const watcher = new ResizeObserver(([entry]) => {
      if (entry) setWidth(Math.floor(entry.contentRect.width));
    });
    watcher.observe(current);
    return () => watcher.disconnect();
  }, []);
  return [element, width];
}
