import type { Problem } from '@ulvane/core/outcome';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Field } from '../shell/Field';
import { useSizes, type Sizes } from '../shell/useSizes';
import { EntryRows } from './EntryRows';
import { blankOf } from './fields';
import type { FieldSpec, WrittenField } from './fieldSpec';
import { isDraft, listOf, separatorOf, textOf, type Draft } from './fieldValue';

type EntryFieldsProps = {
  readonly fields: readonly FieldSpec[];
  readonly draft: Draft;
  /** Where these fields stand in the entry: a JSON pointer, for the problems that belong to them. */
  readonly path: string;
  readonly problems: readonly Problem[];
  readonly onChange: (draft: Draft) => void;
};

/** The fields of an entry, or of a group in it. */
export function EntryFields({ fields, draft, path, problems, onChange }: EntryFieldsProps) {
  const set = (key: string, value: unknown) => {
    const { [key]: _before, ...rest } = draft;
    onChange(value === undefined ? rest : { ...draft, [key]: value });
  };
  return fields.map((field) => (
    <OneField
      key={field.key}
      field={field}
      value={draft[field.key]}
      path={`${path}/${field.key}`}
      problems={problems}
      onChange={(value) => set(field.key, value)}
    />
  ));
}

type OneFieldProps = {
  readonly field: FieldSpec;
  readonly value: unknown;
  readonly path: string;
  readonly problems: readonly Problem[];
  readonly onChange: (value: unknown) => void;
};

function OneField({ field, value, path, problems, onChange }: OneFieldProps) {
  const { label, hint } = field;
  const error = problems.find((problem) => problem.path === path)?.sentence;
  switch (field.kind) {
    case 'flag':
      return (
        <Form.Check
          className="mb-2"
          id={path}
          label={label}
          checked={value === true}
          onChange={({ target }) => onChange(target.checked)}
        />
      );
    case 'many':
      return (
        <fieldset className="mb-2">
          <legend className="form-label">{label}</legend>
          <div className="options">
            {field.options.map((option) => (
              <Form.Check
                key={option.value}
                inline
                id={`${path}-${option.value}`}
                label={option.label}
                checked={listOf(value).includes(option.value)}
                onChange={({ target }) =>
                  onChange(
                    field.options
                      .map((one) => one.value)
                      .filter((one) => (one === option.value ? target.checked : listOf(value).includes(one))),
                  )
                }
              />
            ))}
          </div>
          {error !== undefined && <div className="caution">{error}</div>}
        </fieldset>
      );
    case 'choice':
      return (
        <Field label={label} hint={hint} error={error}>
          {(ids) => (
            <Form.Select
              {...ids}
              value={String(value ?? '')}
              onChange={({ target }) =>
                onChange(field.options.find((option) => String(option.value) === target.value)?.value)
              }
            >
              {field.optional && <option value="">none</option>}
              {field.options.map((option) => (
                <option key={option.value} value={option.value}>
                  {option.label}
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
      );
    case 'group':
      return (
        <fieldset className="entry-group">
          <legend className="h3">{label}</legend>
          {field.optional && (
            <Form.Check
              id={`${path}-there`}
              label="known"
              checked={value !== undefined}
              onChange={({ target }) => onChange(target.checked ? blankOf(field.fields) : undefined)}
            />
          )}
          {isDraft(value) && (
            <div className="entry-fields">
              <EntryFields
                fields={field.fields}
                draft={value}
                path={path}
                problems={problems}
                onChange={onChange}
              />
            </div>
          )}
        </fieldset>
      );
    case 'rows':
      return (
        <EntryRows
          field={field}
          value={value}
          path={path}
          problems={problems}
          onChange={onChange}
          draw={(row) => <EntryFields {...row} problems={problems} />}
        />
      );
    case 'text':
    case 'number':
    case 'day':
    case 'size':
    case 'words':
      return <Written field={field} value={value} error={error} onChange={onChange} />;
  }
}

/** What was written, as the entry's value; what cannot be read stays as text, and the schema says so. */
function valueOfText(field: WrittenField, text: string, parse: Sizes['parse']): unknown {
  const trimmed = text.trim();
  if (trimmed === '' && field.optional) return undefined;
  switch (field.kind) {
    case 'text':
      return trimmed === '' && field.hint?.startsWith('Empty') ? null : text;
    case 'day':
      return trimmed === '' ? null : trimmed;
    case 'number':
      return /^-?\d+([.,]\d+)?$/.test(trimmed) ? Number(trimmed.replace(',', '.')) : trimmed;
    case 'words':
      return trimmed
        .split(separatorOf(field))
        .map((part) => part.trim())
        .filter((part) => part !== '');
    case 'size': {
      const bytes = parse(trimmed, field.family);
      return bytes.ok ? bytes.value : trimmed;
    }
  }
}

function Written({
  field,
  value,
  error,
  onChange,
}: {
  readonly field: WrittenField;
  readonly value: unknown;
  readonly error: string | undefined;
  readonly onChange: (value: unknown) => void;
}) {
  const [text, setText] = useState(() => textOf(field, value));
  const { parse, reading } = useSizes();
  const read = field.kind === 'size' ? reading(text, field.family) : undefined;
  return (
    <Field label={field.label} hint={read ?? field.hint} error={error}>
      {(ids) => (
        <Form.Control
          {...ids}
          type={field.kind === 'day' ? 'date' : 'text'}
          inputMode={field.kind === 'number' ? 'numeric' : undefined}
          value={text}
          onChange={({ target }) => {
            setText(target.value);
            onChange(valueOfText(field, target.value, parse));
          }}
        />
      )}
    </Field>
  );
}
