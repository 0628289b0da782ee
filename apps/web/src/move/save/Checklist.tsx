import { api } from '@ulvane/contract';
import { checklistOf, type ChecklistLine } from '@ulvane/core/backup';
import { isClosed } from '@ulvane/core/record';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

/** What is often forgotten: everywhere, by the present system, by each application; gone through line by line. */
export function Checklist({ onAdd }: { readonly onAdd: (line: ChecklistLine) => void }) {
  const { view, move, house } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const [refusing, setRefusing] = useState<ChecklistLine>();
  const [reason, setReason] = useState('');
  const open = may.write && !isClosed(move);
  const lines = checklistOf(move.facts, house.catalogue, move.dataSets, move.notNeeded);
  const left = lines.filter(({ state }) => state === 'open');
  const done = lines.filter(({ state }) => state !== 'open');
  return (
    <section className="sheet">
      <div className="page-head">
        <h2>Often forgotten</h2>
        <span className="soft">
          {left.length === 0 ? 'every line is answered' : `${left.length} of ${lines.length} to go through`}
        </span>
      </div>
      <p className="caution">
        saved passwords and keys only with the owner’s consent and present; wipe every export after the
        restore.
      </p>
      {!refusing && <Problem error={error} onClose={forgetError} />}
      <ul className="check-rows">
        {left.map((line) => (
          <li key={line.id}>
            <strong>{line.name}</strong>
            {line.because !== '' && <span className="soft"> of {line.because}</span>}{' '}
            {open && (
              <span className="no-print">
                <button
                  type="button"
                  className="btn-plain"
                  onClick={() => onAdd(line)}
                  aria-label={`Add ${line.name}`}
                >
                  Add
                </button>{' '}
                <button
                  type="button"
                  className="btn-plain"
                  onClick={() => {
                    setReason('');
                    setRefusing(line);
                  }}
                  aria-label={`${line.name} is not needed`}
                >
                  Not needed
                </button>
              </span>
            )}
            <br />
            <span className="soft">{line.howToGetItOut}</span>
          </li>
        ))}
      </ul>
      {done.length > 0 && (
        <details>
          <summary>{done.length} answered</summary>
          <ul className="check-rows">
            {done.map((line) => (
              <li key={line.id}>
                <span aria-hidden="true">{line.state === 'listed' ? '✓' : '–'}</span> {line.name}:{' '}
                {line.notNeeded
                  ? `not needed, says ${line.notNeeded.by}: ${line.notNeeded.reason}`
                  : 'a data set'}{' '}
                {line.notNeeded && open && (
                  <button
                    type="button"
                    className="btn-plain no-print"
                    disabled={busy}
                    onClick={() => void change(api.answerForgotten, { reason: null }, { id: line.id })}
                    aria-label={`Look again at ${line.name}`}
                  >
                    Look again
                  </button>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      {refusing && (
        <FormDialog
          title={`${refusing.name}: not needed`}
          action="Save"
          error={error}
          busy={busy}
          onClose={() => setRefusing(undefined)}
          onSubmit={() =>
            void change(api.answerForgotten, { reason }, { id: refusing.id }).then(
              (done) => done && setRefusing(undefined),
            )
          }
        >
          <Field label="Why, and who says so" hint="The owner keeps all bookmarks at work">
            {(ids) => (
              <Form.Control
                {...ids}
                autoFocus
                required
                maxLength={300}
                value={reason}
                onChange={({ target }) => setReason(target.value)}
              />
            )}
          </Field>
        </FormDialog>
      )}
    </section>
  );
}
