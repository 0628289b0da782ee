import { api, type HouseView } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from './call';
import { keys } from './keys';

/** Catalogue and house rules; they change rarely. */
export function useHouse() {
  const { data, error, mutate } = useSWR<HouseView, unknown>(keys.house, () => call(api.house), {
    revalidateOnFocus: false,
  });
  return { house: data, error, mutate };
}
