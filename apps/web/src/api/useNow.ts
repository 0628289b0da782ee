import { useEffect, useState } from 'react';
import { useSession } from './useSession';

/** The server's clock, running on in the page; it stands still where the server's is pinned. */
export function useNow(everyMilliseconds = 5000): string {
  const { session } = useSession();
  const [received, setReceived] = useState(() => ({ server: session?.now, at: Date.now() }));
  const [, tick] = useState(0);
  useEffect(() => setReceived({ server: session?.now, at: Date.now() }), [session?.now]);
  useEffect(() => {
    const timer = setInterval(() => tick((count) => count + 1), everyMilliseconds);
    return () => clearInterval(timer);
  }, [everyMilliseconds]);
  if (received.server === undefined) return new Date().toISOString();
  if (session?.pinned) return received.server;
  return new Date(Date.parse(received.server) + Date.now() - received.at).toISOString();
}
