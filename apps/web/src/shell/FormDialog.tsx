import { useId, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { Problem } from './Problem';

type FormDialogProps = {
  readonly title: string;
  /** What the button that sends the form says. */
  readonly action: string;
  readonly error: unknown;
  readonly busy?: boolean;
  /** A button beside the one that sends. */
  readonly beside?: ReactNode;
  readonly onSubmit: () => void;
  readonly onClose: () => void;
  readonly children: ReactNode;
};

/** A dialog with one form: the refusal, if any, stands above its fields, and nothing typed is lost. */
export function FormDialog({
  title,
  action,
  error,
  busy = false,
  beside,
  onSubmit,
  onClose,
  children,
}: FormDialogProps) {
  const id = useId();
  return (
    <Modal show onHide={onClose} aria-labelledby={id}>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          onSubmit();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title id={id} as="h2">
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Problem error={error} />
          {children}
        </Modal.Body>
        <Modal.Footer>
          {beside ?? (
            <Button variant="quiet" onClick={onClose}>
              Cancel
            </Button>
          )}
          <Button type="submit" disabled={busy}>
            {action}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
