import type { Problem } from '@ulvane/core/outcome';
import { useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { blankOf } from './fields';
import type { FieldSpec, RowsField } from './fieldSpec';
import { isDraft, listOf, rowInWords, type Draft } from './fieldValue';

type EntryRowsProps = {
  readonly field: RowsField;
  readonly value: unknown;
  readonly path: string;
  readonly problems: readonly Problem[];
  readonly onChange: (rows: readonly unknown[]) => void;
  /** Draws the fields of the row that is open; a row may hold rows. */
  readonly draw: (row: {
    readonly fields: readonly FieldSpec[];
    readonly draft: Draft;
    readonly path: string;
    readonly onChange: (draft: Draft) => void;
  }) => ReactNode;
};

/** The fields that a row has beside the usual ones, by its first. */
function variantOf({ fields, variants }: RowsField, row: Draft) {
  const [first] = fields;
  return (first && variants?.[String(row[first.key])]) ?? [];
}

/** A row that the first field makes another kind of begins anew. */
function changed(field: RowsField, row: Draft, next: Draft): Draft {
  const [first] = field.fields;
  return field.variants && first && next[first.key] !== row[first.key]
    ? { [first.key]: next[first.key], ...blankOf(variantOf(field, next)) }
    : next;
}

/** A list of an entry, a line a row; one is open at a time, and each in which something is wrong. */
export function EntryRows({ field, value, path, problems, onChange, draw }: EntryRowsProps) {
  const [open, setOpen] = useState<number>();
  const rows = listOf(value);
  const put = (index: number, row: unknown) => onChange(rows.map((one, at) => (at === index ? row : one)));
  return (
    <fieldset className="entry-group">
      <legend className="h3">{field.label}</legend>
      {rows.map((row, index) => {
        if (!isDraft(row)) return null;
        const own = `${path}/${index}`;
        const isWrong = problems.some(
          (problem) => problem.path === own || problem.path.startsWith(`${own}/`),
        );
        const isOpen = open === index || isWrong;
        const fields = [...field.fields, ...variantOf(field, row)];
        return (
          // Rows have nothing of their own to be told apart by; they are few and typed one by one.
          <div key={`${index} of ${rows.length}`} className="entry-row">
            <div className="entry-line">
              <button
                type="button"
                className="btn-plain entry-summary"
                aria-expanded={isOpen}
                onClick={() => setOpen(isOpen ? undefined : index)}
              >
                {rowInWords(fields, row)}
              </button>
              <button
                type="button"
                className="btn-plain small-print"
                aria-label={`Remove: ${field.label}, ${index + 1}`}
                onClick={() => {
                  setOpen(undefined);
                  onChange(rows.filter((_row, at) => at !== index));
                }}
              >
                Remove
              </button>
            </div>
            {isOpen && (
              <div className="entry-fields">
                {draw({
                  fields,
                  draft: row,
                  path: own,
                  onChange: (next) => put(index, changed(field, row, next)),
                })}
              </div>
            )}
          </div>
        );
      })}
      <Button
        size="sm"
        variant="quiet"
        onClick={() => {
          const start = blankOf(field.fields);
          setOpen(rows.length);
          onChange([...rows, { ...start, ...blankOf(variantOf(field, start)) }]);
        }}
      >
        Add: {field.label.toLowerCase()}
      </Button>
    </fieldset>
  );
}
