import { printCount } from '@ulvane/core/quantity';
import { Instant } from '../shell/Instant';
import type { SurveyPreview } from '@ulvane/contract';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { Link } from 'react-router';

type PreviewDialogProps = {
  readonly preview: SurveyPreview;
  readonly isNew: boolean;
  readonly onTake: () => Promise<void>;
  readonly onClose: () => void;
};

/** What taking a survey would change, fact by fact, before it is taken. */
export function PreviewDialog({ preview, isNew, onTake, onClose }: PreviewDialogProps) {
  const [busy, setBusy] = useState(false);
  const { changes } = preview;
  const take = async () => {
    setBusy(true);
    await onTake();
    setBusy(false);
  };
  return (
    <Modal show onHide={onClose} size="lg" scrollable aria-labelledby="preview-title">
      <Modal.Header closeButton>
        <Modal.Title id="preview-title" as="h2">
          {isNew
            ? `New device: ${preview.device}`
            : `What this survey changes: ${printCount(changes.length, 'fact')}`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {preview.sameSerial !== null && (
          <p className="notice">
            A device with the same serial is here already:{' '}
            <Link to={`/moves/${preview.sameSerial}/survey`}>{preview.sameSerial}</Link>. Apply the survey
            there, unless this is meant to be a second move.
          </p>
        )}
        {changes.length === 0 ? (
          <p>Nothing new: every fact that it carries is known already.</p>
        ) : (
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Fact</th>
                {!isNew && <th scope="col">Before</th>}
                <th scope="col">{isNew ? 'Measured' : 'After'}</th>
              </tr>
            </thead>
            <tbody>
              {changes.map(({ key, label, before, after }) => (
                <tr key={`${key} ${label}`}>
                  <th scope="row">{label}</th>
                  {!isNew && <td>{before ?? <em className="soft">unknown</em>}</td>}
                  <td>{after}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <p className="small-print mt-2 mb-0">
          Measured on the device <Instant at={preview.takenAt} />. Facts that it does not carry stay as they
          are.
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button onClick={() => void take()} disabled={busy || (!isNew && changes.length === 0)}>
          {isNew ? 'Start a move with it' : 'Apply survey'}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
