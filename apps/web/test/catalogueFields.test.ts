import { readFileSync } from 'node:fs';
import { catalogueKinds, entrySchemas, resolveCatalogue, type CatalogueKind } from '@ulvane/core/catalogue';
import { describe, expect, it } from 'vitest';
import { blankEntry, blankOf, fieldsOf } from '../src/catalogue/fields';
import type { FieldSpec } from '../src/catalogue/fieldSpec';

const file: unknown = JSON.parse(
  readFileSync(new URL('../../../data/catalogue/catalogue.json', import.meta.url), 'utf8'),
);
const resolved = resolveCatalogue(file, '2026-03-02');
if (!resolved.ok) throw new Error('the catalogue does not resolve');
const catalogue = resolved.value;

/** Every field that an entry of this part can have, by its schema. */
const keysOf = (kind: CatalogueKind) => Object.keys(entrySchemas[kind].shape).filter((key) => key !== 'id');

function labelsOf(fields: readonly FieldSpec[]): string[] {
  return fields.flatMap((field) => [
    field.label,
    ...('fields' in field ? labelsOf(field.fields) : []),
    ...('variants' in field && field.variants
      ? Object.values(field.variants).flatMap((own) => labelsOf(own))
      : []),
  ]);
}

describe.each(catalogueKinds)('the form of %s', (kind) => {
  const fields = fieldsOf(kind, catalogue);

  it('has a field for everything that the schema has, and no other', () => {
    expect(fields.map(({ key }) => key).sort()).toEqual(keysOf(kind).sort());
  });

  it('labels every field', () => {
    for (const label of labelsOf(fields)) expect(label.length).toBeGreaterThan(2);
  });

  it('offers every value that the shipped entries have', () => {
    for (const entry of catalogue[kind])
      for (const field of fields) {
        if (field.kind !== 'choice' && field.kind !== 'many') continue;
        const value: unknown = Object.entries(entry).find(([key]) => key === field.key)?.[1];
        const values: readonly unknown[] = Array.isArray(value) ? value : value === undefined ? [] : [value];
        for (const one of values) expect(field.options.map((option) => option.value)).toContain(one);
      }
  });

  it('starts a new entry that lacks only what has to be written', () => {
    const checked = entrySchemas[kind].safeParse(blankEntry(kind, catalogue));
    // Empty names, noughts and empty lists are left to fill in: nothing is of the wrong kind.
    const wrong = checked.success
      ? []
      : checked.error.issues.filter(({ code }) => code === 'invalid_type' || code === 'unrecognized_keys');
    expect(wrong).toEqual([]);
  });
});

describe('requirements', () => {
  it('of every kind start with all that their schema needs', () => {
    const rows = fieldsOf('releases', catalogue).find(({ key }) => key === 'requirements');
    if (rows?.kind !== 'rows' || !rows.variants) throw new Error('requirements are rows with variants');
    const shape = entrySchemas.releases.shape.requirements.element;
    for (const [kind, fields] of Object.entries(rows.variants)) {
      const checked = shape.safeParse({ kind, ...blankOf(fields) });
      const wrong = checked.success ? [] : checked.error.issues.filter(({ code }) => code !== 'too_small');
      expect([kind, wrong]).toEqual([kind, []]);
    }
  });
});
