import { api } from '@ulvane/contract';
import { Link } from 'react-router';
import useSWR from 'swr';
import { call } from '../../api/call';
import { keys } from '../../api/keys';
import { Day } from '../../shell/Instant';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

/** At the step with the owner: what they were shown with an earlier device, and that a note is kept for the next. */
export function OwnerHabits() {
  const { reference, owner } = useOpenMove().move;
  const { data, error } = useSWR(keys.ownerHabits(reference, owner), () =>
    call(api.ownerHabits, { params: { reference } }),
  );
  const isNamed = owner.trim() !== '';
  return (
    <section className="owner-habits" aria-label="Earlier devices of the owner">
      <Problem error={error} />
      {data && data.earlier.length > 0 && (
        <ul>
          {data.earlier.map((one) => (
            <li key={one.reference}>
              <strong>{one.note === '' ? 'Shown, nothing noted.' : one.note}</strong>{' '}
              <span className="soft">
                <Link to={`/moves/${one.reference}/log`}>{one.reference}</Link>, {one.device}, {one.move},{' '}
                <Day at={one.at} />, {one.by}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="small-print mb-0">
        {isNamed && data?.earlier.length === 0 && `No earlier device of ${owner} is here. `}
        What is noted when this step is signed is shown with{' '}
        {isNamed ? `the next device of ${owner}` : 'the owner’s next device, once this move names its owner'}.
      </p>
    </section>
  );
}
