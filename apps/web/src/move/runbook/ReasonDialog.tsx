import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';

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
    <Modal show onHide={onClose} aria-labelledby="reason-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          void onGive(reason).then((done) => done && onClose());
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title id="reason-title" as="h2">
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Problem error={error} />
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
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button type="submit">{action}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
