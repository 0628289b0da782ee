import { useEffect, useState } from 'react';
import { Problem } from './Problem';

/** What failed and was awaited by nobody is said on top of the page: no promise is swallowed. */
export function UnseenFault() {
  const [error, setError] = useState<unknown>();
  useEffect(() => {
    const seen = (event: PromiseRejectionEvent) => setError(event.reason);
    window.addEventListener('unhandledrejection', seen);
    return () => window.removeEventListener('unhandledrejection', seen);
  }, []);
  return <Problem error={error} onClose={() => setError(undefined)} />;
}
