import { printClockIn, printCount } from '@ulvane/core/quantity';
import { troubleSigns, type TroubleId } from '@ulvane/core/runbook';
import { signsOf } from '@ulvane/core/trouble';
import { Link } from 'react-router';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { runbookPath, troublePath } from './troublePath';
import type { TroubleReading } from './useTrouble';

/** What the screen of the device shows, where the sign is a text. */
const screens: Readonly<Partial<Record<TroubleId, readonly string[]>>> = {
  'loader-prompt': ['loader', 'loader> _'],
  'wrong-scheme': ['Cannot install', 'on this disk'],
  'key-refused': ['This key does', 'not fit'],
  'recovery-key-asked': ['Recovery key:', '______-______'],
  'disk-asks-password': ['Disk password:', '________'],
  'stick-not-offered': ['Boot menu', '1 Disk'],
  'no-disk-shown': ['Where to install', '(no disks)'],
  'no-network': ['Networks', '(none)'],
  'signatures-refused': ['error: invalid', 'signature'],
};

type SignBandProps = { readonly reading: TroubleReading; readonly seenAt: string };

/** What was seen, at which step, by whom and when. */
export function SignBand({ reading: { sign, place, trouble, over, danger }, seenAt }: SignBandProps) {
  const { move } = useOpenMove();
  const zone = useZone();
  const screen = screens[sign];
  const others = place ? signsOf(place.step).filter((id) => id !== sign) : [];
  return (
    <section className="sign-band" aria-labelledby="the-sign">
      {screen && (
        <div className="sign-screen" aria-hidden="true">
          {screen.map((line) => (
            <span key={line}>{line}</span>
          ))}
        </div>
      )}
      <div>
        <p className="soft mb-0">
          {place && `Step ${place.index + 1}, ${place.step.title}. `}
          {trouble
            ? `Seen at ${printClockIn(zone, trouble.seenAt)} by ${trouble.by}.`
            : over
              ? `Seen at ${printClockIn(zone, over.seenAt)} by ${over.by}, and over.`
              : `Looked up at ${printClockIn(zone, seenAt)}; nothing is noted yet.`}
        </p>
        <h2 id="the-sign">{troubleSigns[sign]}</h2>
      </div>
      <div className="sign-others no-print">
        {others.length > 0 && !trouble && (
          <details>
            <summary>
              Another sign <span className="soft">({printCount(others.length, 'other')} of this step)</span>
            </summary>
            <ul>
              {others.map((id) => (
                <li key={id}>
                  <Link to={troublePath(move.reference, place?.step.id ?? '', id)}>{troubleSigns[id]}</Link>
                </li>
              ))}
            </ul>
          </details>
        )}
        <p className="soft mb-0">
          {danger === null && 'Leave the charger plugged in. '}
          <Link className="sign-back" to={runbookPath(move.reference, place?.step.stage)}>
            Runbook
          </Link>
        </p>
      </div>
    </section>
  );
}
