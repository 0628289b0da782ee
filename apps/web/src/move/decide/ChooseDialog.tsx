import { api } from '@ulvane/contract';
import type { Candidate } from '@ulvane/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

type ChooseDialogProps = {
  readonly candidate: Candidate;
  readonly advised: Candidate;
  readonly onClose: () => void;
};

/** Chooses a route; against the advice with a reason. */
export function ChooseDialog({ candidate, advised, onClose }: ChooseDialogProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const navigate = useNavigate();
  const [reason, setReason] = useState('');
  const isAdvice = candidate === advised;
  const choose = async () => {
    const body = {
      routeId: candidate.routeId,
      releaseId: candidate.releaseId,
      reason: isAdvice ? null : reason,
    };
    if (!(await change(api.choose, body))) return;
    onClose();
    await navigate(`/moves/${move.reference}/save`);
  };
  return (
    <Modal show onHide={onClose} aria-labelledby="choose-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          void choose();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title id="choose-title" as="h2">
            {candidate.title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Problem error={error} />
          <p>
            Lost on this route: <strong>{candidate.loses.join(', ')}</strong>.
          </p>
          {!isAdvice && (
            <Field
              label="Why, against the advice?"
              hint={`The advice is: ${advised.title}. The reason stays in the log.`}
            >
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
          )}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button type="submit" disabled={busy}>
            Choose
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
