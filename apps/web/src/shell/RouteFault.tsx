import { Link, useRouteError } from 'react-router';

/** Shown when a view itself breaks, so that the way back is never lost. */
export function RouteFault() {
  const error = useRouteError();
  return (
    <main className="page">
      <h1>This page broke</h1>
      <p>
        Nothing was lost on the server. <Link to="/">Back to Today</Link>, or reload the page.
      </p>
      <pre className="small-print">{error instanceof Error ? error.message : String(error)}</pre>
    </main>
  );
}
