export type Option = { readonly value: string | number; readonly label: string };

type Common = {
  readonly key: string;
  readonly label: string;
  readonly hint?: string;
  readonly optional?: true;
};

/** A field that is written as text and then read. */
export type WrittenField = Common &
  (
    | { readonly kind: 'text' | 'number' | 'day' | 'words' }
    /** Bytes, written in the family that the trade uses for it. */
    | { readonly kind: 'size'; readonly family: 'binary' | 'decimal' }
  );

/** Any number of groups; with `variants` the first field says which others there are. */
export type RowsField = Common & {
  readonly kind: 'rows';
  readonly fields: readonly FieldSpec[];
  readonly variants?: Readonly<Record<string, readonly FieldSpec[]>>;
};

/** How one field of a catalogue entry is typed. The entry's own schema decides whether it fits. */
export type FieldSpec =
  | WrittenField
  | RowsField
  | (Common & { readonly kind: 'flag' })
  | (Common & { readonly kind: 'choice' | 'many'; readonly options: readonly Option[] })
  /** One group of fields. */
  | (Common & { readonly kind: 'group'; readonly fields: readonly FieldSpec[] });

/** Commands in the order in which they are typed. */
export const commandRows = (key: string, label: string, hint: string): FieldSpec => ({
  kind: 'rows',
  key,
  label,
  fields: [
    { kind: 'text', key: 'does', label: 'What it does' },
    { kind: 'text', key: 'type', label: 'What is typed', hint },
  ],
});

/** Values as options, called as they are written. */
export const plain = (values: readonly string[]): Option[] =>
  values.map((value) => ({ value, label: value.replaceAll('-', ' ') }));
