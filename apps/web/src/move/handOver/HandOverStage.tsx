import { api } from '@ulvane/contract';
import { beforeSignOff, handoverSheet, isClosed } from '@ulvane/core/record';
import { Download, Printer } from 'lucide-react';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { addressOf } from '../../api/call';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { Account } from './Account';
import { Backups } from './Backups';
import { HandoverNotes } from './HandoverNotes';
import { TellOwner } from './TellOwner';
import { Reconciling } from './Reconciling';

/** Files accounted for, open points, the backup's fate, and the owner's signature. */
export function HandOverStage() {
  const { view, move, house } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const [ownerName, setOwnerName] = useState(move.owner);
  const sheet = handoverSheet(move, house);
  const problems = beforeSignOff(move);
  const open = may.write && !isClosed(move);
  const params = { reference: move.reference };
  return (
    <>
      <div className="page-head">
        <h2>Hand-over sheet</h2>
        <span className="ms-auto d-flex gap-2 no-print">
          <Button size="sm" variant="quiet" onClick={() => window.print()}>
            <Printer size={15} aria-hidden="true" /> Print
          </Button>
          <a className="btn btn-quiet btn-sm" href={addressOf(api.handoverPdf, { params })} download>
            <Download size={15} aria-hidden="true" /> Hand-over sheet, PDF
          </a>
          <a className="btn btn-quiet btn-sm" href={addressOf(api.ownerPdf, { params })} download>
            <Download size={15} aria-hidden="true" /> Owner’s sheet, PDF
          </a>
          <a
            className="btn btn-quiet btn-sm"
            href={addressOf(api.exportMove, { params })}
            download={`${move.reference}.json`}
          >
            <Download size={15} aria-hidden="true" /> Whole move as JSON
          </a>
        </span>
      </div>
      <div className="columns wide-left">
        <div>
          <Account />
          <Reconciling />
          {open && <HandoverNotes key={move.dataSets.map(({ id }) => id).join()} />}
          {!open && (
            <section className="sheet">
              <h2>Files accounted for</h2>
              <table className="table">
                <thead>
                  <tr>
                    <th scope="col">Data set</th>
                    <th scope="col">Before</th>
                    <th scope="col">After</th>
                    <th scope="col">Outcome</th>
                  </tr>
                </thead>
                <tbody>
                  {sheet.files.map(({ name, before, after, outcome }) => (
                    <tr key={name}>
                      <th scope="row">{name}</th>
                      <td>{before}</td>
                      <td>{after}</td>
                      <td>{outcome}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {sheet.files.length === 0 && <p className="empty">No data set was listed.</p>}
              <h2 className="mt-3">Open points</h2>
              {sheet.openPoints.length === 0 ? (
                <p>None.</p>
              ) : (
                <ul>
                  {sheet.openPoints.map((point) => (
                    <li key={point}>{point}</li>
                  ))}
                </ul>
              )}
            </section>
          )}
          <Backups />
          <section className="sheet">
            <h2>What was done, and by whom</h2>
            {sheet.done.length === 0 ? (
              <p className="empty">No step is signed yet.</p>
            ) : (
              <table className="table">
                <thead>
                  <tr>
                    <th scope="col">Step</th>
                    <th scope="col">By</th>
                    <th scope="col">When</th>
                    <th scope="col" className="number">
                      Took
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {sheet.done.map(({ title, by, at, minutes, note }) => (
                    <tr key={title + at}>
                      <td>
                        {title}
                        {note !== '' && <div className="small-print">{note}</div>}
                      </td>
                      <td>{by}</td>
                      <td className="number">{at}</td>
                      <td className="number">{minutes}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </section>
        </div>
        <div>
          {(sheet.firmware.length > 0 || sheet.troubles.length > 0) && (
            <section className="sheet">
              {sheet.firmware.length > 0 && (
                <>
                  <h2>Positions of the firmware</h2>
                  <Lines lines={sheet.firmware} />
                </>
              )}
              {sheet.troubles.length > 0 && (
                <>
                  <h2 className="mt-3">What went wrong</h2>
                  <Lines lines={sheet.troubles} />
                </>
              )}
            </section>
          )}
          {sheet.overrules.length > 0 && (
            <section className="sheet">
              <h2>Gates that were overruled</h2>
              <ul className="mb-0">
                {sheet.overrules.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </section>
          )}
          <TellOwner open={open} />
          <section className="sheet">
            <h2>The owner signs</h2>
            <Problem error={error} onClose={forgetError} />
            {sheet.signed !== null && (
              <p className="mb-0">
                <strong>Signed: {sheet.signed}.</strong> The record is closed; it can be read, printed and
                exported.
              </p>
            )}
            {sheet.signed === null && problems.length > 0 && (
              <>
                <p className="mb-1">Not yet:</p>
                <ul className="mb-0">
                  {problems.map(({ path, sentence }) => (
                    <li key={path + sentence}>{sentence}</li>
                  ))}
                </ul>
              </>
            )}
            {open && problems.length === 0 && (
              <Form
                onSubmit={(event) => {
                  event.preventDefault();
                  void change(api.signOff, { ownerName });
                }}
              >
                <p>Everything is accounted for. Signing closes the record.</p>
                <Field label="Name of the owner who signs">
                  {(ids) => (
                    <Form.Control
                      {...ids}
                      value={ownerName}
                      onChange={(event) => setOwnerName(event.target.value)}
                      required
                    />
                  )}
                </Field>
                <Button type="submit" disabled={busy}>
                  The owner has signed
                </Button>
              </Form>
            )}
            <div className="print-only">
              <p style={{ marginTop: '18mm' }}>______________________________ owner</p>
              <p style={{ marginTop: '12mm' }}>______________________________ for the organisation</p>
            </div>
          </section>
        </div>
      </div>
    </>
  );
}

function Lines({ lines }: { readonly lines: readonly string[] }) {
  return (
    <ul className="mb-0">
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}
