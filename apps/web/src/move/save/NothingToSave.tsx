import { api } from '@ulvane/contract';
import { isEmptyDevice } from '@ulvane/core/survey';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { Day } from '../../shell/Instant';

/** The empty list, and the statement that takes its place where there is nothing of anyone's on the device. */
export function NothingToSave() {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const may = useMay();
  const [statement, setStatement] = useState('');
  const stated = move.preparation.nothingToSave;
  if (stated)
    return (
      <p>
        Nothing to save, says {stated.by}, <Day at={stated.at} />: “{stated.statement}”{' '}
        {may.write && (
          <button
            type="button"
            className="btn-plain"
            onClick={() => void change(api.prepare, { preparation: { nothingToSave: null } })}
          >
            Withdraw
          </button>
        )}
      </p>
    );
  const state = (text: string) =>
    void change(api.prepare, { preparation: { nothingToSave: { statement: text } } });
  if (isEmptyDevice(move.facts))
    return (
      <div className="empty">
        <p>No system is on the device: there is nothing of anyone’s to save.</p>
        <Problem error={error} />
        {may.write && (
          <Button size="sm" disabled={busy} onClick={() => state('new disk, no system on it')}>
            Nothing to save: new disk
          </Button>
        )}
      </div>
    );
  return (
    <div className="empty">
      <p>No data set yet. Go through the owner’s folders and the list of what is often forgotten.</p>
      <Problem error={error} />
      {may.write && (
        <details>
          <summary>There is nothing on it that anyone would miss</summary>
          <Field label="How do you know?">
            {(ids) => (
              <Form.Control
                {...ids}
                value={statement}
                onChange={(event) => setStatement(event.target.value)}
                placeholder="Spare device, erased last week; asked the pier master"
              />
            )}
          </Field>
          <Button
            size="sm"
            variant="quiet"
            disabled={busy || statement.trim() === ''}
            onClick={() => state(statement)}
          >
            State that there is nothing to save
          </Button>
        </details>
      )}
    </div>
  );
}
