import { api } from '@ulvane/contract';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { useFormDraft } from '../shell/useDraft';
import { useChange } from '../api/useMove';
import { Field } from '../shell/Field';
import { FormDialog } from '../shell/FormDialog';
import { useOpenMove } from './MoveContext';

type IdentityDialogProps = { readonly onClose: () => void; readonly onCallOff: () => void };

export function IdentityDialog({ onClose, onCallOff }: IdentityDialogProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const form = useForm({
    defaultValues: { owner: move.owner, site: move.site, dueOn: move.dueOn ?? '' },
  });
  const { register, handleSubmit } = form;
  const forgetDraft = useFormDraft(`${move.reference} identity`, form);
  const close = () => {
    forgetDraft();
    onClose();
  };
  const submit = handleSubmit(async ({ owner, site, dueOn }) => {
    if (await change(api.setIdentity, { owner, site, dueOn: dueOn === '' ? null : dueOn })) close();
  });
  return (
    <FormDialog
      title="Whose device, and by when"
      action="Save"
      error={error}
      busy={busy}
      onSubmit={() => void submit()}
      onClose={close}
    >
      <Field label="Owner">
        {(ids) => <Form.Control {...ids} {...register('owner')} maxLength={100} autoFocus />}
      </Field>
      <Field label="Site">{(ids) => <Form.Control {...ids} {...register('site')} maxLength={100} />}</Field>
      <Field label="Due on">{(ids) => <Form.Control {...ids} {...register('dueOn')} type="date" />}</Field>
      <button type="button" className="btn-plain" onClick={onCallOff}>
        Call this move off
      </button>
    </FormDialog>
  );
}
