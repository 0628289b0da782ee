import { api, type Endpoint, type Given, type MoveView, type PathParams } from '@ulvane/contract';
import { useCallback, useState } from 'react';
import useSWR, { useSWRConfig } from 'swr';
import type { z } from 'zod';
import { call, isProblem } from './call';
import { keys } from './keys';

export function useMoveView(reference: string) {
  return useSWR<MoveView, unknown>(keys.move(reference), () => call(api.move, { params: { reference } }), {
    refreshInterval: 30_000,
  });
}

/** Takes a move as the server has just answered it for the new truth. */
export function useTakeView(): (view: MoveView) => Promise<void> {
  const { mutate } = useSWRConfig();
  return useCallback(
    async (view: MoveView) => {
      await mutate(keys.move(view.move.reference), view, { revalidate: false });
      void mutate(keys.today);
    },
    [mutate],
  );
}

type WithoutVersion<T> = Omit<T, 'version'>;

/** An entry that changes the move of its path, and answers with it. */
type ChangeOfMove = Endpoint<z.ZodType, z.ZodType, typeof api.move.response, `/moves/:reference${string}`>;

/** The parameters of its path beside the move's reference. */
type OtherParams<E extends ChangeOfMove> = keyof Omit<PathParams<E['path']>, 'reference'> extends never
  ? []
  : [params: Omit<PathParams<E['path']>, 'reference'>];

/**
 * Changes a move: sends the version that the page shows, takes the answer as the new truth, and after
 * a conflict fetches what is there now. Resolves to whether it was done; `error` says why not.
 */
export function useChange(view: MoveView) {
  const { mutate } = useSWRConfig();
  const takeView = useTakeView();
  const [error, setError] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const { version, move } = view;
  const { reference } = move;

  const change = useCallback(
    async <E extends ChangeOfMove>(
      entry: E,
      body: WithoutVersion<z.input<E['body']>>,
      ...[params]: OtherParams<E>
    ): Promise<boolean> => {
      setBusy(true);
      setError(undefined);
      try {
        // Every body that changes a move is its own fields and the version.
        const next = await call(entry, {
          params: { reference, ...params },
          body: { ...body, version },
        } as Given<ChangeOfMove>);
        await takeView(next);
        return true;
      } catch (problem) {
        setError(problem);
        if (isProblem(problem) && problem.problem.status === 409) void mutate(keys.move(reference));
        return false;
      } finally {
        setBusy(false);
      }
    },
    [mutate, takeView, reference, version],
  );

  return { change, error, busy, forgetError: useCallback(() => setError(undefined), []) };
}
