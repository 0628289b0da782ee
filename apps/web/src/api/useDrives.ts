import { api, type DriveView } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from './call';
import { keys } from './keys';

/** The inventory of backup drives and sticks. */
export function useDrives() {
  const { data, error, mutate } = useSWR<{ drives: DriveView[] }, unknown>(keys.drives, () =>
    call(api.drives),
  );
  return { drives: data?.drives, error, mutate };
}
