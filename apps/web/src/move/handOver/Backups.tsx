import { api } from '@ulvane/contract';
import {
  copyGrades,
  countGrades,
  gradeOf,
  nextWipe,
  retentionSentence,
  type Destination,
} from '@ulvane/core/backup';
import { addDays, printCount } from '@ulvane/core/quantity';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { ProofMark } from '../../drawing/ProofMark';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { useOpenMove } from '../MoveContext';
import { KeptRuler } from './KeptRuler';
import { useDay } from '../../shell/useDay';

/** What becomes of each backup: label, place, last day, and the record of its wipe. */
export function Backups() {
  const { move, houseRules } = useOpenMove();
  const may = useMay();
  const today = useDay();
  const [editing, setEditing] = useState<{ readonly destination: Destination; readonly wipe: boolean }>();
  const holding = move.destinations.filter(({ takes }) => takes.length > 0);
  if (holding.length === 0) return null;
  const nextDay = nextWipe(move.retention);
  return (
    <section className="sheet">
      <h2>The backups</h2>
      <table className="table">
        <thead>
          <tr>
            <th scope="col">On</th>
            <th scope="col">Label</th>
            <th scope="col">Place</th>
            <th scope="col">Kept until</th>
            <th scope="col">
              <span className="visually-hidden">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {holding.map((destination) => {
            const kept = move.retention.find(({ destinationId }) => destinationId === destination.id);
            return (
              <tr key={destination.id}>
                <th scope="row">
                  {destination.name}
                  <div className="small-print mono">{destination.serial}</div>
                  <CopyGrades destinationId={destination.id} />
                </th>
                <td>{kept?.label ?? <strong>not noted</strong>}</td>
                <td>{kept?.place}</td>
                <td>
                  {kept?.keepUntil}
                  {kept && (
                    <div className="small-print">{retentionSentence(kept, today, houseRules.timeZone)}</div>
                  )}
                </td>
                <td className="number no-print">
                  {may.write && !kept?.wiped && (
                    <button
                      type="button"
                      className="btn-plain"
                      onClick={() => setEditing({ destination, wipe: false })}
                      aria-label={`${kept ? 'Change' : 'Note'} the backup on ${destination.name}`}
                    >
                      {kept ? 'Change' : 'Note'}
                    </button>
                  )}{' '}
                  {may.write && kept && !kept.wiped && move.handover.signedOff !== null && (
                    <button
                      type="button"
                      className="btn-plain"
                      onClick={() => setEditing({ destination, wipe: true })}
                      aria-label={`Record its wipe: ${destination.name}`}
                    >
                      Record its wipe
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {nextDay !== null && <KeptRuler from={today} until={nextDay} />}
      <p className="caution mb-0">
        A backup holds personal data: encrypted where it can be, locked away, labelled, and wiped on its day
        by local rules.
      </p>
      {editing?.wipe === false && (
        <KeepDialog destination={editing.destination} today={today} onClose={() => setEditing(undefined)} />
      )}
      {editing?.wipe === true && (
        <WipeDialog destination={editing.destination} onClose={() => setEditing(undefined)} />
      )}
    </section>
  );
}

/** How the copies on one backup were checked: the weakest mark, and how many there are of each grade. */
function CopyGrades({ destinationId }: { readonly destinationId: string }) {
  const { move } = useOpenMove();
  const copies = move.copies.filter((copy) => copy.destinationId === destinationId);
  const weakest = copyGrades.findLast((grade) => copies.some((copy) => gradeOf(copy) === grade));
  if (weakest === undefined) return <div className="small-print">no copy is recorded</div>;
  return (
    <div className="small-print">
      <ProofMark mark={weakest} label="" /> {countGrades(copies)}
    </div>
  );
}

type DialogProps = { readonly destination: Destination; readonly onClose: () => void };

function KeepDialog({ destination, today, onClose }: DialogProps & { readonly today: string }) {
  const { view, move, houseRules } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const kept = move.retention.find(({ destinationId }) => destinationId === destination.id);
  const { register, handleSubmit } = useForm({
    defaultValues: {
      label: kept?.label ?? `${destination.name}: ${move.reference}`,
      place: kept?.place ?? '',
      keepUntil: kept?.keepUntil ?? addDays(today, houseRules.keepBackupDays),
    },
  });
  const submit = handleSubmit(async (written) => {
    if (await change(api.keepBackup, { destinationId: destination.id, ...written })) onClose();
  });
  return (
    <FormDialog
      title={`The backup on ${destination.name}`}
      action="Note it"
      error={error}
      busy={busy}
      onSubmit={() => void submit()}
      onClose={onClose}
    >
      <Field label="What is written on it">
        {(ids) => <Form.Control {...ids} {...register('label')} required maxLength={100} />}
      </Field>
      <Field label="Where it is kept">
        {(ids) => <Form.Control {...ids} {...register('place')} required maxLength={300} autoFocus />}
      </Field>
      <Field label="Kept until" hint={`House rule: ${printCount(houseRules.keepBackupDays, 'day')}`}>
        {(ids) => <Form.Control {...ids} type="date" {...register('keepUntil')} required />}
      </Field>
    </FormDialog>
  );
}

function WipeDialog({ destination, onClose }: DialogProps) {
  const { view } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const [method, setMethod] = useState('');
  return (
    <FormDialog
      title={`The backup on ${destination.name} has been wiped`}
      action="Record it"
      error={error}
      busy={busy}
      onSubmit={() =>
        void change(api.recordWipe, { destinationId: destination.id, method }).then(
          (done) => done && onClose(),
        )
      }
      onClose={onClose}
      beside={
        <Button variant="quiet" onClick={onClose}>
          Not yet
        </Button>
      }
    >
      <p className="caution">
        read the serial off the drive first: {destination.serial || 'none is noted'}. A wipe cannot be undone.
      </p>
      <Field label="How" hint="Whole drive overwritten once; key of the encrypted volume destroyed">
        {(ids) => (
          <Form.Control
            {...ids}
            autoFocus
            required
            maxLength={300}
            value={method}
            onChange={({ target }) => setMethod(target.value)}
          />
        )}
      </Field>
    </FormDialog>
  );
}
