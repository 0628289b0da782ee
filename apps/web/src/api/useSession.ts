import { api, type Session } from '@ulvane/contract';
import useSWR from 'swr';
import { call } from './call';
import { keys } from './keys';

/** Who is signed in; undefined while it is asked. */
export function useSession() {
  const { data, error, mutate } = useSWR<Session, unknown>(keys.session, () => call(api.session), {
    revalidateOnFocus: false,
  });
  return { session: data, error, mutate };
}

/** What the signed-in account may do. */
export function useMay(): { readonly write: boolean; readonly lead: boolean } {
  const { session } = useSession();
  const role = session?.account?.role;
  return { write: role === 'technician' || role === 'lead', lead: role === 'lead' };
}
