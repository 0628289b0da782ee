import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';

type PassphraseDialogProps = {
  readonly title: string;
  readonly action: string;
  /** A new passphrase, which has to be long enough. */
  readonly fresh?: boolean;
  readonly onGiven: (passphrase: string) => Promise<void>;
  readonly onClose: () => void;
};

const shortest = 12;

/** Asks for the passphrase of an encrypted file. */
export function PassphraseDialog({ title, action, fresh = false, onGiven, onClose }: PassphraseDialogProps) {
  const [passphrase, setPassphrase] = useState('');
  const [error, setError] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const tooShort = fresh && passphrase.length < shortest;
  const submit = async () => {
    setBusy(true);
    setError(undefined);
    try {
      await onGiven(passphrase);
      onClose();
    } catch (problem) {
      setError(problem);
      setBusy(false);
    }
  };
  return (
    <FormDialog
      title={title}
      action={action}
      error={error}
      busy={busy || passphrase === '' || tooShort}
      onSubmit={() => void submit()}
      onClose={onClose}
    >
      <Field
        label="Passphrase"
        hint={
          fresh
            ? `${shortest} characters or more; without it nobody opens the file, Ulvane neither.`
            : 'The one that the file was written with.'
        }
      >
        {(ids) => (
          <Form.Control
            {...ids}
            autoFocus
            type="password"
            autoComplete="off"
            value={passphrase}
            onChange={({ target }) => setPassphrase(target.value)}
          />
        )}
      </Field>
    </FormDialog>
  );
}
