import { useId, type ReactNode } from 'react';

type FieldProps = {
  readonly label: string;
  readonly hint?: string | undefined;
  readonly error?: string | undefined;
  /** Gets the id that the label points at, and the id of hint and error. */
  readonly children: (ids: {
    readonly id: string;
    readonly 'aria-describedby': string | undefined;
    readonly 'aria-invalid': boolean;
  }) => ReactNode;
};

/** A labelled input with its hint and its error. */
export function Field({ label, hint, error, children }: FieldProps) {
  const id = useId();
  const described = error ?? hint;
  return (
    <div className="mb-2">
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      {children({
        id,
        'aria-describedby': described === undefined ? undefined : `${id}-text`,
        'aria-invalid': error !== undefined,
      })}
      {described !== undefined && (
        <div id={`${id}-text`} className={error === undefined ? 'small-print' : 'caution'}>
          {described}
        </div>
      )}
    </div>
  );
}
