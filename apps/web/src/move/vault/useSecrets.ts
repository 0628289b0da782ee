import { api, type SecretHead } from '@ulvane/contract';
import { useEffect, useState } from 'react';
import useSWR from 'swr';
import { call } from '../../api/call';
import { keys } from '../../api/keys';

type Shown = { readonly id: string; readonly value: string; readonly secondsLeft: number };

/** The secrets of a move, and the one that is shown now: hidden again by itself, and each showing in the log. */
export function useSecrets(reference: string) {
  const { data, error, mutate } = useSWR(keys.secrets(reference), () =>
    call(api.secrets, { params: { reference } }),
  );
  const [shown, setShown] = useState<Shown>();
  useEffect(() => {
    if (!shown) return;
    const timer = setTimeout(
      () =>
        setShown((now) =>
          now && now.secondsLeft > 1 ? { ...now, secondsLeft: now.secondsLeft - 1 } : undefined,
        ),
      1000,
    );
    return () => clearTimeout(timer);
  }, [shown]);
  const show = async ({ id }: Pick<SecretHead, 'id'>) => {
    const { value, seconds } = await call(api.showSecret, { params: { reference, id } });
    setShown({ id, value, secondsLeft: seconds });
    await mutate();
  };
  return { secrets: data?.secrets, error, mutate, shown, show, hide: () => setShown(undefined) };
}
