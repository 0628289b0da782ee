import Form from 'react-bootstrap/Form';
import { Field } from './Field';

/** A reason that the log keeps, in a few lines; it has to be given. */
export function ReasonField({
  label,
  hint,
  value,
  onValue,
}: {
  readonly label: string;
  readonly hint: string;
  readonly value: string;
  readonly onValue: (value: string) => void;
}) {
  return (
    <Field label={label} hint={hint}>
      {(ids) => (
        <Form.Control
          {...ids}
          as="textarea"
          rows={3}
          value={value}
          onChange={({ target }) => onValue(target.value)}
          required
          autoFocus
        />
      )}
    </Field>
  );
}
