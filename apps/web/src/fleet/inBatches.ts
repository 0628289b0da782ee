/** Runs a long list through requests of so many at a time; between two of them it can be stopped. */
export async function inBatches<T, R>(
  items: readonly T[],
  size: number,
  send: (batch: readonly T[]) => Promise<readonly R[]>,
  onProgress: (done: number, results: readonly R[]) => void,
  signal: AbortSignal,
): Promise<readonly R[]> {
  const results: R[] = [];
  for (let start = 0; start < items.length && !signal.aborted; start += size) {
    results.push(...(await send(items.slice(start, start + size))));
    onProgress(Math.min(items.length, start + size), results);
  }
  return results;
}
