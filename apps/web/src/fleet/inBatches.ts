/** How long one batch that is refused for the moment is sent again, and how long it rests between. */
export type Patience = { readonly tries: number; readonly restMs: number };

type Watched<R> = {
  readonly onProgress: (done: number, results: readonly R[]) => void;
  /** A batch was refused for the moment, and is sent again. */
  readonly onWaiting: () => void;
  /** Nothing of what was refused with it has been done, and it may be asked again. */
  readonly passesByItself: (error: unknown) => boolean;
  readonly patience: Patience;
  readonly signal: AbortSignal;
};

/**
 * Runs a long list through requests of so many at a time; between two of them it can be stopped.
 * @throws what a batch was refused with, when it does not pass by itself
 */
export async function inBatches<T, R>(
  items: readonly T[],
  size: number,
  send: (batch: readonly T[]) => Promise<readonly R[]>,
  { onProgress, onWaiting, passesByItself, patience, signal }: Watched<R>,
): Promise<readonly R[]> {
  const results: R[] = [];
  const sent = async (batch: readonly T[]): Promise<readonly R[]> => {
    for (let tries = 1; ; tries += 1) {
      try {
        return await send(batch);
      } catch (problem) {
        if (!passesByItself(problem) || tries >= patience.tries || signal.aborted) throw problem;
        onWaiting();
        await new Promise((resolve) => setTimeout(resolve, patience.restMs));
        // Stopped while it rested: nothing more is sent.
        if (signal.aborted) throw problem;
      }
    }
  };
  for (let start = 0; start < items.length && !signal.aborted; start += size) {
    results.push(...(await sent(items.slice(start, start + size))));
    onProgress(Math.min(items.length, start + size), results);
  }
  return results;
}
