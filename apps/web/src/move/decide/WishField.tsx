import { api } from '@ulvane/contract';
import { isClosed } from '@ulvane/core/record';
import { purposes, purposeTexts, type Purpose } from '@ulvane/core/route';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

const notStated = 'not-stated';
const purposeOf = (text: string): Purpose | undefined => purposes.find((one) => one === text);

/** Why the move is made: the advice follows it. A trial asks for its last day before it is saved. */
export function WishField() {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const may = useMay();
  const { wish } = move;
  const [trialUntil, setTrialUntil] = useState<string>();
  const chosen = trialUntil === undefined ? wish?.purpose : 'trial';
  const state = (text: string) => {
    const purpose = purposeOf(text);
    if (purpose === 'trial') return setTrialUntil(wish?.until ?? '');
    setTrialUntil(undefined);
    return void change(api.stateWish, { wish: purpose ? { purpose, until: null } : null });
  };
  const saveTrial = async () => {
    if (await change(api.stateWish, { wish: { purpose: 'trial', until: trialUntil ?? '' } }))
      setTrialUntil(undefined);
  };
  return (
    <Form
      className="wish"
      onSubmit={(event) => {
        event.preventDefault();
        void saveTrial();
      }}
    >
      <Problem error={error} />
      <Field
        label="Why the move is made"
        hint={
          chosen
            ? `${purposeTexts[chosen].about}${wish?.until && trialUntil === undefined ? ` Until ${wish.until}.` : ''}`
            : 'Not stated: a system that gets security updates can stay.'
        }
      >
        {(ids) => (
          <Form.Select
            {...ids}
            size="sm"
            value={chosen ?? notStated}
            disabled={!may.write || isClosed(move) || busy}
            onChange={({ target }) => state(target.value)}
          >
            <option value={notStated}>Not stated</option>
            {purposes.map((purpose) => (
              <option key={purpose} value={purpose}>
                {purposeTexts[purpose].title}
              </option>
            ))}
          </Form.Select>
        )}
      </Field>
      {trialUntil !== undefined && (
        <>
          <Field label="Last day of the trial">
            {(ids) => (
              <Form.Control
                {...ids}
                size="sm"
                type="date"
                required
                value={trialUntil}
                onChange={({ target }) => setTrialUntil(target.value)}
              />
            )}
          </Field>
          <Button size="sm" type="submit" disabled={busy}>
            Save the trial
          </Button>
        </>
      )}
    </Form>
  );
}
