import { api, type Session } from '@ulvane/contract';
import { NavLink, Link, useNavigate } from 'react-router';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { NextUp } from './NextUp';
import { useKeys } from './useKeys';

const places = [
  { to: '/', title: 'Today', key: 't' },
  { to: '/fleet', title: 'Fleet', key: 'f' },
  { to: '/drives', title: 'Drives', key: 'd' },
  { to: '/shelf', title: 'Media shelf', key: 'm' },
  { to: '/disks', title: 'Disk bench', key: 'b' },
  { to: '/catalogue', title: 'Catalogue', key: 'c' },
  { to: '/house', title: 'House', key: 'h' },
] as const;

export function Header({ session }: { readonly session: Session }) {
  const navigate = useNavigate();
  const { mutate } = useSWRConfig();
  useKeys(Object.fromEntries(places.map(({ to, key }) => [key, () => void navigate(to)])));
  const signOut = async () => {
    await call(api.signOut);
    await mutate(() => true, undefined, { revalidate: false });
    await mutate(keys.session);
  };
  return (
    <header className="top">
      <Link to="/" className="word" aria-label="Ulvane, to Today">
        <svg width="9" height="18" aria-hidden="true">
          <rect width="3" height="18" fill="var(--line)" />
          <rect x="6" width="3" height="18" fill="var(--line)" />
        </svg>
        Ulvane
      </Link>
      <nav aria-label="Main">
        {places.map(({ to, title, key }) => (
          <NavLink key={to} to={to} end={to === '/'} aria-keyshortcuts={key}>
            {title}
          </NavLink>
        ))}
      </nav>
      <NextUp />
      <div className="who">
        <NavLink to="/account" title="Your account">
          {session.account?.name}
          {session.account && session.account.name !== session.account.role && `, ${session.account.role}`}
        </NavLink>
        <button type="button" className="btn-plain" onClick={() => void signOut()}>
          Sign out
        </button>
      </div>
    </header>
  );
}
