import { api } from '@ulvane/contract';
import type { Candidate } from '@ulvane/core';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useNavigate } from 'react-router';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
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
    <FormDialog
      title={candidate.title}
      action="Choose"
      error={error}
      busy={busy}
      onSubmit={() => void choose()}
      onClose={onClose}
    >
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
    </FormDialog>
  );
}
