import { useCallback, useRef, useState } from 'react';
import { inBatches } from './inBatches';

export type BatchRun<R> = {
  readonly kind: 'dry' | 'real';
  readonly total: number;
  readonly done: number;
  readonly state: 'running' | 'stopped' | 'finished';
  readonly results: readonly R[];
};

/** A long run of requests with its progress; `stop` ends it after the batch that is on its way. */
export function useBatchRun<T, R>(
  size: number,
  send: (batch: readonly T[], dryRun: boolean) => Promise<readonly R[]>,
) {
  const [run, setRun] = useState<BatchRun<R>>();
  const [error, setError] = useState<unknown>();
  const abort = useRef<AbortController | undefined>(undefined);

  const start = useCallback(
    async (items: readonly T[], kind: 'dry' | 'real') => {
      const controller = new AbortController();
      abort.current = controller;
      setError(undefined);
      const begun: BatchRun<R> = { kind, total: items.length, done: 0, state: 'running', results: [] };
      setRun(begun);
      try {
        await inBatches(
          items,
          size,
          (batch) => send(batch, kind === 'dry'),
          (done, results) => setRun({ ...begun, done, results: [...results] }),
          controller.signal,
        );
        setRun((last) => last && { ...last, state: controller.signal.aborted ? 'stopped' : 'finished' });
      } catch (problem) {
        setError(problem);
        setRun((last) => last && { ...last, state: 'stopped' });
      }
    },
    [send, size],
  );

  return {
    run,
    error,
    start,
    stop: useCallback(() => abort.current?.abort(), []),
    forget: useCallback(() => setRun(undefined), []),
  };
}
