import { minutesBetween } from '@ulvane/core/quantity';
import { Link, useNavigate } from 'react-router';
import { useNow } from '../api/useNow';
import { useToday } from '../api/useToday';
import { whenText } from './whenText';
import { useKeys } from './useKeys';

/** What to touch next, and when: on every screen. `n` goes there. */
export function NextUp() {
  const { today } = useToday();
  const now = useNow();
  const navigate = useNavigate();
  const [first] = today?.hands ?? [];
  const to = first ? `/moves/${first.reference}` : '/';
  useKeys({ n: () => void navigate(to) });
  if (!today) return <span className="next-hands">Next up …</span>;
  if (!first)
    return (
      <span className="next-hands">
        Next up <span className="what">nothing waits</span>
      </span>
    );
  return (
    <Link className="next-hands" to={to} aria-keyshortcuts="n">
      <span>Next up</span>
      <span className="when">{whenText(minutesBetween(now, first.at))}</span>
      <span className="what">
        {first.device}, {first.site}: {first.sentence}
      </span>
      <kbd aria-hidden="true">N</kbd>
    </Link>
  );
}
