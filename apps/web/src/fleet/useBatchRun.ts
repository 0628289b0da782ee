import { useCallback, useRef, useState } from 'react';
import { passesByItself } from '../api/call';
import { inBatches, type Patience } from './inBatches';

/** Half a minute: a database that restarts is back by then. */
const patience: Patience = { tries: 15, restMs: 2000 };

export type BatchRun<R> = {
  readonly kind: 'dry' | 'real';
  readonly total: number;
  readonly done: number;
  readonly state: 'running' | 'waiting' | 'stopped' | 'finished';
  readonly results: readonly R[];
};

/** Whether it goes on by itself, and can be stopped. */
export const isRunning = ({ state }: { readonly state: BatchRun<unknown>['state'] }) =>
  state === 'running' || state === 'waiting';

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
        await inBatches(items, size, (batch) => send(batch, kind === 'dry'), {
          onProgress: (done, results) => setRun({ ...begun, done, results: [...results] }),
          onWaiting: () => setRun((last) => last && { ...last, state: 'waiting' }),
          passesByItself,
          patience,
          signal: controller.signal,
        });
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
