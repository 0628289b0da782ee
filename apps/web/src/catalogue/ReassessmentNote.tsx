import { api } from '@ulvane/contract';
import { useEffect, useRef } from 'react';
import useSWR, { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys, manyKeys } from '../api/keys';

/** How far the fleet has been assessed against the present catalogue; silent when it is all done. */
export function ReassessmentNote({ version }: { readonly version: number }) {
  const { mutate } = useSWRConfig();
  const { data } = useSWR(keys.reassessment(version), () => call(api.reassessment), {
    refreshInterval: (latest) => (latest && latest.waiting === 0 ? 0 : 700),
  });
  const wasWaiting = useRef(false);
  const waiting = data?.waiting ?? 0;
  useEffect(() => {
    // Lists that were fetched in between show the verdicts of before.
    if (wasWaiting.current && waiting === 0) void mutate(manyKeys.moveLists);
    wasWaiting.current = waiting > 0;
  }, [mutate, waiting]);
  if (!data || waiting === 0) return null;
  const done = data.total - waiting;
  return (
    <p className="notice" role="status">
      Assessing the fleet against the catalogue: {done} of {data.total} devices{' '}
      <progress max={data.total} value={done} aria-label="devices assessed" />
    </p>
  );
}
