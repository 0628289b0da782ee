import { zodResolver } from '@hookform/resolvers/zod';
import { api } from '@ulvane/contract';
import { printBothUnits } from '@ulvane/core/quantity';
import { isClosed } from '@ulvane/core/record';
import { layoutApart, shareOfDisk, type RunbookInput } from '@ulvane/core/runbook';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Field } from '../../shell/Field';
import { nameField } from '../../shell/formFields';
import { Problem } from '../../shell/Problem';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';

/** Whether system and data are split, as the size of the disk suggests, and into which partitions. */
export function DataPartsCard({ input }: { readonly input: RunbookInput }) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const { bytesOf, sizeOrEmpty, reading } = useSizes();
  const form = useForm({
    resolver: zodResolver(z.object({ name: nameField, size: sizeOrEmpty })),
    defaultValues: { name: '', size: '' },
  });
  const { errors } = form.formState;
  const kept = move.preparation.dataParts;
  const parts = layoutApart(input)?.parts ?? [];
  const share = shareOfDisk(input);
  const note = (dataParts: typeof kept) => change(api.prepare, { preparation: { dataParts } });
  const add = form.handleSubmit(async ({ name, size }) => {
    const part = { name: name.trim(), sizeBytes: size === '' ? null : bytesOf(size) };
    // What takes the rest stays behind those that have a size.
    const sized = kept.filter(({ sizeBytes }) => sizeBytes !== null);
    const open = kept.filter(({ sizeBytes }) => sizeBytes === null);
    if (await note(part.sizeBytes === null ? [...kept, part] : [...sized, part, ...open])) form.reset();
  });
  const editable = may.write && !isClosed(move);
  return (
    <section className="sheet">
      <h2>System and data</h2>
      <Problem error={error} onClose={forgetError} />
      {share && <p>{share.sentence()}</p>}
      {parts.length === 0 ? (
        <p className="soft">
          System and data share one partition
          {input.houseRules.dataPartition === 'one' ? ', by the house rules' : ''}.
        </p>
      ) : (
        <ul className="check-rows">
          {parts.map(({ name, sizeBytes }) => (
            <li key={name} className="d-flex gap-2 align-items-center">
              <strong>{name}</strong>
              <span>{sizeBytes === null ? 'the rest' : printBothUnits(sizeBytes)}</span>
              {kept.length === 0 ? (
                <span className="soft">by the house rules</span>
              ) : (
                editable && (
                  <Button
                    size="sm"
                    variant="quiet"
                    className="ms-auto"
                    disabled={busy}
                    aria-label={`Remove ${name}`}
                    onClick={() => void note(kept.filter((part) => part.name !== name))}
                  >
                    Remove
                  </Button>
                )
              )}
            </li>
          ))}
        </ul>
      )}
      {editable && (
        <form className="row g-2 align-items-start" noValidate onSubmit={(event) => void add(event)}>
          <div className="col-5">
            <Field label="Partition for" error={errors.name?.message}>
              {(ids) => <Form.Control size="sm" {...ids} {...form.register('name')} maxLength={30} />}
            </Field>
          </div>
          <div className="col-5">
            <Field
              label="Its size"
              hint={reading(form.watch('size')) ?? 'Empty: the rest of the disk.'}
              error={errors.size?.message}
            >
              {(ids) => <Form.Control size="sm" {...ids} {...form.register('size')} />}
            </Field>
          </div>
          <div className="col-2 pt-4">
            <Button size="sm" variant="quiet" type="submit" disabled={busy}>
              Add
            </Button>
          </div>
        </form>
      )}
    </section>
  );
}
