import { Outlet } from 'react-router';
import { sentencesOf } from './api/call';
import { useSession } from './api/useSession';
import { SignIn } from './signIn/SignIn';
import { Header } from './shell/Header';
import { HouseFault } from './shell/HouseFault';
import { KeyHelp } from './shell/KeyHelp';
import { UnseenFault } from './shell/UnseenFault';
import { Loading } from './shell/Loading';

/** The frame of every view; without a signed-in account it shows the sign-in instead. */
export function Shell() {
  const { session, error } = useSession();
  if (error !== undefined && !session)
    return (
      <main className="page">
        <h1>Ulvane</h1>
        <div className="notice" role="alert">
          {sentencesOf(error).join(' ')}
        </div>
      </main>
    );
  if (!session) return <Loading what="Ulvane" />;
  if (!session.account) return <SignIn session={session} />;
  return (
    <>
      <a className="visually-hidden-focusable" href="#content">
        Skip to the content
      </a>
      {session.demo && (
        <aside className="demo-banner" aria-label="About this demo">
          This is the demo: {session.organisation}, its devices and people are invented. Change what you like.
        </aside>
      )}
      <Header session={session} />
      <main className="page" id="content" tabIndex={-1}>
        <UnseenFault />
        <HouseFault />
        <Outlet />
      </main>
      <KeyHelp />
    </>
  );
}
