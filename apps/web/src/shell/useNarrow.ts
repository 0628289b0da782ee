import { useSyncExternalStore } from 'react';

const query = '(max-width: 1080px)';

function subscribe(changed: () => void): () => void {
  const list = window.matchMedia(query);
  list.addEventListener('change', changed);
  return () => list.removeEventListener('change', changed);
}

/** Whether the page is too narrow for two columns. */
export function useNarrow(): boolean {
  return useSyncExternalStore(subscribe, () => window.matchMedia(query).matches);
}
