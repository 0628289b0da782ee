import { api, type Today } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from './call';

export const todayKey = 'today';

export function useToday() {
  const { data, error } = useSWR<Today, unknown>(todayKey, () => call(api.today), {
    refreshInterval: 20_000,
  });
  return { today: data, error };
}
