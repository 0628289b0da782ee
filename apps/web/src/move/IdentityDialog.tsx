import { api } from '@ulvane/contract';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useForm } from 'react-hook-form';
import { useChange } from '../api/useMove';
import { Field } from '../shell/Field';
import { Problem } from '../shell/Problem';
import { useOpenMove } from './MoveContext';

export function IdentityDialog({ onClose }: { readonly onClose: () => void }) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const { register, handleSubmit } = useForm({
    defaultValues: { owner: move.owner, site: move.site, dueOn: move.dueOn ?? '' },
  });
  const submit = handleSubmit(async ({ owner, site, dueOn }) => {
    if (await change(api.setIdentity, { owner, site, dueOn: dueOn === '' ? null : dueOn })) onClose();
  });
  return (
    <Modal show onHide={onClose} aria-labelledby="identity-title">
      <Form onSubmit={(event) => void submit(event)}>
        <Modal.Header closeButton>
          <Modal.Title id="identity-title" as="h2">
            Whose device, and by when
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Problem error={error} />
          <Field label="Owner">
            {(ids) => <Form.Control {...ids} {...register('owner')} maxLength={100} autoFocus />}
          </Field>
          <Field label="Site">
            {(ids) => <Form.Control {...ids} {...register('site')} maxLength={100} />}
          </Field>
          <Field label="Due on">
            {(ids) => <Form.Control {...ids} {...register('dueOn')} type="date" />}
          </Field>
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={busy}>
            Keep
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
