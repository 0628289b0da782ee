import { api, type HouseView } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from './call';

/** Catalogue and house practice; they change rarely. */
export function useHouse() {
  const { data, error, mutate } = useSWR<HouseView, unknown>('house', () => call(api.house), {
    revalidateOnFocus: false,
  });
  return { house: data, error, mutate };
}
