import { printExactBytes } from '@ulvane/core/quantity';
import type { FieldSpec, WrittenField } from './fieldSpec';

export type Draft = { readonly [key: string]: unknown };

export const isDraft = (value: unknown): value is Draft =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

/** Sentences may hold commas. */
export const separatorOf = ({ label }: WrittenField) => (label.includes('semicolon') ? ';' : ',');

/** A value as it is typed. */
export function textOf(field: WrittenField, value: unknown): string {
  if (value === undefined || value === null) return '';
  if (field.kind === 'size' && typeof value === 'number') return printExactBytes(value, field.family);
  if (field.kind === 'words')
    return listOf(value)
      .map(String)
      .join(separatorOf(field) === ';' ? '; ' : ', ');
  return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
}

/** What a row of a list says of itself, in a line: its values in their order, those that are nothing left out. */
export function rowInWords(fields: readonly FieldSpec[], row: Draft): string {
  const words = fields.map((field) => wordsOf(field, row[field.key])).filter((text) => text !== '');
  return words.length === 0 ? 'not filled in yet' : words.join(' · ');
}

function wordsOf(field: FieldSpec, value: unknown): string {
  switch (field.kind) {
    case 'flag':
      return value === true ? field.label.toLowerCase() : '';
    case 'choice':
      return field.options.find((option) => option.value === value)?.label ?? '';
    case 'many':
      return field.options
        .filter((option) => listOf(value).includes(option.value))
        .map(({ label }) => label)
        .join(', ');
    case 'rows': {
      const rows = listOf(value);
      return rows.length === 0
        ? ''
        : rows
            .filter(isDraft)
            .map((row) => rowInWords(field.fields, row))
            .join(', ');
    }
    case 'group':
      return isDraft(value) ? rowInWords(field.fields, value) : '';
    case 'text':
    case 'number':
    case 'day':
    case 'size':
    case 'words':
      return textOf(field, value);
  }
}
