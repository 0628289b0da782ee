import { useSession } from '../api/useSession';
import { KeySwitch } from '../shell/KeySwitch';
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
        <div>
          <ChangePassword />
          <section className="sheet" aria-labelledby="keys">
            <h2 id="keys">Keyboard</h2>
            <KeySwitch />
            <p className="small-print mb-0">
              The key ? lists them. Tab, Enter, Escape and the arrow keys work in any case.
            </p>
          </section>
        </div>
        <Tokens />
      </div>
    </>
  );
}
