import { api } from '@ulvane/contract';
import { houseRuleLabel, houseRuleKeys, houseRuleTexts, type HouseRuleKey } from '@ulvane/core/rules';
import { isClosed } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { answerOf } from '../../house/answers';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { useOpenMove } from '../MoveContext';
import { Day } from '../../shell/Instant';

/** Where this move leaves house rules, with the reason. */
export function ExceptionCard() {
  const { move } = useOpenMove();
  const may = useMay();
  const [departing, setDeparting] = useState(false);
  const editable = may.write && !isClosed(move);
  return (
    <section className="sheet" aria-labelledby="exceptions">
      <h2 id="exceptions">Exceptions from house rules on this move</h2>
      {move.departures.length === 0 ? (
        <p className="mb-2">Followed in everything.</p>
      ) : (
        <ul className="check-rows mb-2">
          {move.departures.map(({ setting, value, reason, by, at }) => (
            <li key={setting}>
              <strong>{houseRuleTexts[setting].title}:</strong> {houseRuleLabel(setting, value)}
              <span className="small-print d-block">
                {by}, <Day at={at} />: {reason}
              </span>
            </li>
          ))}
        </ul>
      )}
      {editable && (
        <Button size="sm" variant="quiet" onClick={() => setDeparting(true)}>
          Make an exception
        </Button>
      )}
      {departing && <ExceptionDialog onClose={() => setDeparting(false)} />}
    </section>
  );
}

function ExceptionDialog({ onClose }: { readonly onClose: () => void }) {
  const { view, house, houseRules } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const [setting, setSetting] = useState<HouseRuleKey>('boot');
  const [answer, setAnswer] = useState(String(houseRules.boot));
  const [reason, setReason] = useState('');
  const { sides } = houseRuleTexts[setting];
  const asTheHouse = answer === String(house.houseRules[setting]);
  const keep = async () => {
    if (await change(api.depart, { setting, value: answerOf(answer), reason })) onClose();
  };
  return (
    <FormDialog
      title="Make an exception from the house rules"
      action={asTheHouse ? 'Do as the house does' : 'Make the exception'}
      error={error}
      busy={busy}
      onSubmit={() => void keep()}
      onClose={onClose}
    >
      <Field label="In what">
        {(ids) => (
          <Form.Select
            {...ids}
            value={setting}
            onChange={({ target }) => {
              const next = houseRuleKeys.find((one) => one === target.value) ?? setting;
              setSetting(next);
              setAnswer(String(houseRules[next]));
            }}
          >
            {houseRuleKeys.map((one) => (
              <option key={one} value={one}>
                {houseRuleTexts[one].title}
              </option>
            ))}
          </Form.Select>
        )}
      </Field>
      <fieldset className="mb-2">
        <legend className="form-label">What this move does</legend>
        {sides.map(({ value, label, reason: why }) => (
          <Form.Check
            key={value}
            type="radio"
            name="answer"
            id={`exception-${value}`}
            checked={answer === value}
            onChange={() => setAnswer(value)}
            label={
              <>
                <strong>{label}</strong>
                {value === String(house.houseRules[setting]) && ', as the house does'}. {why}
              </>
            }
          />
        ))}
      </fieldset>
      {!asTheHouse && (
        <Field label="Why">
          {(ids) => (
            <Form.Control
              {...ids}
              as="textarea"
              rows={2}
              required
              value={reason}
              onChange={({ target }) => setReason(target.value)}
            />
          )}
        </Field>
      )}
    </FormDialog>
  );
}
