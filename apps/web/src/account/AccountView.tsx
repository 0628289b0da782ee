import { useSession } from '../api/useSession';
import { ChangePassword } from './ChangePassword';
import { Tokens } from './Tokens';

/** One's own account: the password, and ways in for programs. */
export function AccountView() {
  const { session } = useSession();
  return (
    <>
      <title>Your account · Ulvane</title>
      <div className="page-head">
        <h1>Your account</h1>
        <span className="soft">
          {[...new Set([session?.account?.name, session?.account?.role])].join(', ')}
        </span>
      </div>
      <div className="columns">
        <ChangePassword />
        <Tokens />
      </div>
    </>
  );
}
