import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Field } from './Field';
import { FormDialog } from './FormDialog';

type ReasonDialogProps = {
  readonly title: string;
  readonly label: string;
  readonly hint: string;
  readonly action: string;
  readonly error: unknown;
  readonly onGive: (reason: string) => Promise<boolean>;
  readonly onClose: () => void;
};

/** Asks for a written reason before something that the log keeps. */
export function ReasonDialog({ title, label, hint, action, error, onGive, onClose }: ReasonDialogProps) {
  const [reason, setReason] = useState('');
  return (
    <FormDialog
      title={title}
      action={action}
      error={error}
      onSubmit={() => void onGive(reason).then((done) => done && onClose())}
      onClose={onClose}
    >
      <Field label={label} hint={hint}>
        {(ids) => (
          <Form.Control
            {...ids}
            as="textarea"
            rows={3}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            required
            autoFocus
          />
        )}
      </Field>
    </FormDialog>
  );
}
