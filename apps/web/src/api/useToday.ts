import { api, type Today } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from './call';
import { keys } from './keys';

export function useToday() {
  const { data, error } = useSWR<Today, unknown>(keys.today, () => call(api.today), {
    refreshInterval: 20_000,
  });
  return { today: data, error };
}
