import { api } from '@ulvane/contract';
import { thingsToTell } from '@ulvane/core/record';
import { useId } from 'react';
import { useChange } from '../../api/useMove';
import { Instant } from '../../shell/Instant';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

/** What the owner has to be told before signing: a box each, from what the record says. */
export function TellOwner({ open }: { readonly open: boolean }) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const id = useId();
  const things = thingsToTell(move);
  if (things.length === 0) return null;
  const told = things.filter((thing) => thing.told !== null).length;
  return (
    <section className="sheet" aria-labelledby={`${id}-title`}>
      <div className="page-head">
        <h2 id={`${id}-title`}>Tell {move.owner === '' ? 'the owner' : move.owner}</h2>
        <span className="soft">
          {told} of {things.length} told
        </span>
      </div>
      <Problem error={error} onClose={forgetError} />
      <ul className="check-rows">
        {things.map(({ sentence, told: by }, index) => (
          <li key={sentence} className="tell-row">
            <input
              type="checkbox"
              id={`${id}-${index}`}
              checked={by !== null}
              disabled={!open || busy}
              onChange={({ target }) => void change(api.tellOwner, { sentence, told: target.checked })}
            />
            <label htmlFor={`${id}-${index}`}>
              {sentence}
              {by && (
                <span className="small-print d-block">
                  {by.by}, <Instant at={by.at} />
                </span>
              )}
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}
