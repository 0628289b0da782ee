import Form from 'react-bootstrap/Form';
import type { UseFormRegisterReturn } from 'react-hook-form';
import { Field } from './Field';

type InputProps = {
  readonly label: string;
  /** What the form's own `register` gives for this field. */
  readonly of: UseFormRegisterReturn;
  readonly hint?: string | undefined;
  readonly error?: string | undefined;
  readonly mono?: boolean;
  readonly autoFocus?: boolean;
  readonly maxLength?: number;
};

/** One line of text of a form, half as wide as its dialog. */
export function HalfText({ label, of, hint, error, mono = false, autoFocus, maxLength }: InputProps) {
  return (
    <div className="col-6">
      <Field label={label} hint={hint} error={error}>
        {(ids) => (
          <Form.Control
            {...ids}
            {...of}
            className={mono ? 'mono' : ''}
            autoFocus={autoFocus}
            maxLength={maxLength}
          />
        )}
      </Field>
    </div>
  );
}

/** A choice of a form, half as wide as its dialog. */
export function HalfChoice({
  label,
  of,
  options,
}: {
  readonly label: string;
  readonly of: UseFormRegisterReturn;
  readonly options: readonly (readonly [value: string, text: string])[];
}) {
  return (
    <div className="col-6">
      <Field label={label}>
        {(ids) => (
          <Form.Select {...ids} {...of}>
            {options.map(([value, text]) => (
              <option key={value} value={value}>
                {text}
              </option>
            ))}
          </Form.Select>
        )}
      </Field>
    </div>
  );
}
