import type { Step } from '@ulvane/core/runbook';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useDraft } from '../../shell/useDraft';
import { useOpenMove } from '../MoveContext';

type SignFormProps = {
  readonly step: Step;
  /** Why it cannot be signed without a note yet; null when it can. */
  readonly early: string | null;
  readonly onSign: (actualMinutes: number | null, note: string) => Promise<boolean>;
  readonly onClose: () => void;
};

/** Minutes that a step took, and a note, with its signature. */
export function SignForm({ step, early, onSign, onClose }: SignFormProps) {
  const { move } = useOpenMove();
  const [minutes, setMinutes, forgetMinutes] = useDraft(`${move.reference} ${step.id} minutes`);
  const [note, setNote, forgetNote] = useDraft(`${move.reference} ${step.id} note`);
  return (
    <>
      {early !== null && <p className="caution mb-0">{early}</p>}
      <form
        className="d-flex gap-2 mt-2 no-print"
        onSubmit={(event) => {
          event.preventDefault();
          void onSign(minutes.trim() === '' ? null : Number(minutes), note).then((done) => {
            if (!done) return;
            forgetMinutes();
            forgetNote();
            onClose();
          });
        }}
      >
        <Form.Control
          size="sm"
          type="number"
          min={0}
          max={100000}
          aria-label={`Actual minutes of ${step.title}`}
          placeholder="actual min"
          value={minutes}
          onChange={(event) => setMinutes(event.target.value)}
        />
        <Form.Control
          size="sm"
          aria-label={`Note on ${step.title}`}
          placeholder="note"
          value={note}
          onChange={(event) => setNote(event.target.value)}
          maxLength={2000}
        />
        <Button size="sm" type="submit">
          Sign
        </Button>
      </form>
    </>
  );
}
