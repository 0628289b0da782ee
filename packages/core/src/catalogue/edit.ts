import { z } from 'zod';
import { fail, succeed, type Outcome } from '../outcome/outcome';
import { parseWith } from '../outcome/parseWith';
import {
  CatalogueFileSchema,
  catalogueKinds,
  entrySchemas,
  type Catalogue,
  type CatalogueEntry,
  type CatalogueKind,
} from './catalogue';
import { checkCatalogue } from './check';
import { releaseTitle } from './find';
import { resolveCatalogue } from './resolve';

const catalogueFormatName = 'ulvane-catalogue';
const catalogueFormatVersion = 1;
/** The shipped catalogue has some 60 kB; a hundred times as much is still one. */
export const catalogueLimitBytes = 8 * 1024 * 1024;

/** A catalogue as it is written to a file; see docs/formats.md. */
export const CatalogueExportSchema = z.strictObject({
  format: z.literal(catalogueFormatName),
  version: z.literal(catalogueFormatVersion),
  ...CatalogueFileSchema.shape,
});

/** @example exportCatalogue(catalogue) // { format: 'ulvane-catalogue', version: 1, families: […], … } */
export function exportCatalogue(catalogue: Catalogue): z.infer<typeof CatalogueExportSchema> {
  return { format: catalogueFormatName, version: catalogueFormatVersion, ...catalogue };
}

const HeadSchema = z.looseObject({ format: z.literal(catalogueFormatName), version: z.int() });

/**
 * Reads a catalogue that was exported. Relative support days count from `today` (ISO date).
 * Refused: another format, a newer version, what does not fit the schema, and what `checkCatalogue` finds.
 */
export function importCatalogue(input: unknown, today: string): Outcome<Catalogue> {
  const head = parseWith(HeadSchema, input);
  if (!head.ok)
    return fail(
      'not-a-catalogue',
      '/format',
      `This is not a catalogue: “format” should be “${catalogueFormatName}”, with a version.`,
    );
  if (head.value.version > catalogueFormatVersion)
    return fail(
      'catalogue-newer',
      '/version',
      `The catalogue has version ${head.value.version}; this Ulvane reads up to ${catalogueFormatVersion}.`,
    );
  const { format: _format, version: _version, ...parts } = head.value;
  return resolveCatalogue(parts, today);
}

export function catalogueEntryTitle(entry: CatalogueEntry): string {
  if ('maker' in entry) return `${entry.maker} ${entry.model}`;
  return 'edition' in entry ? releaseTitle(entry) : entry.name;
}

type EntryField = {
  readonly path: string;
  readonly before: string | null;
  readonly after: string | null;
};

export type EntryChange = {
  readonly kind: CatalogueKind;
  readonly id: string;
  readonly title: string;
  readonly what: 'added' | 'removed' | 'changed';
  /** Field by field, for changed entries. */
  readonly fields: readonly EntryField[];
};

const written = (value: unknown): string | null =>
  value === undefined ? null : typeof value === 'string' ? value : JSON.stringify(value);

/** The fields in which two entries differ; a list or a group counts as one field. */
function entryFields(before: object, after: object): readonly EntryField[] {
  const was = new Map<string, unknown>(Object.entries(before));
  const is = new Map<string, unknown>(Object.entries(after));
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((path) => {
    const fields = { path, before: written(was.get(path)), after: written(is.get(path)) };
    return fields.before === fields.after ? [] : [fields];
  });
}

/** What taking `after` in place of `before` would change, entry by entry. */
export function catalogueChanges(before: Catalogue, after: Catalogue): readonly EntryChange[] {
  return catalogueKinds.flatMap((kind) => {
    const old = new Map<string, CatalogueEntry>(before[kind].map((entry) => [entry.id, entry]));
    const next = new Map<string, CatalogueEntry>(after[kind].map((entry) => [entry.id, entry]));
    const told = (entry: CatalogueEntry, what: EntryChange['what'], fields: readonly EntryField[] = []) => ({
      kind,
      id: entry.id,
      title: catalogueEntryTitle(entry),
      what,
      fields,
    });
    return [
      ...[...next.values()].flatMap((entry) => {
        const was = old.get(entry.id);
        if (!was) return [told(entry, 'added')];
        const fields = entryFields(was, entry);
        return fields.length === 0 ? [] : [told(entry, 'changed', fields)];
      }),
      ...[...old.values()].filter(({ id }) => !next.has(id)).map((entry) => told(entry, 'removed')),
    ];
  });
}

/**
 * The catalogue with one entry put in (new, or in place of the one with its id) or, with null, taken
 * out. Refused when the entry does not fit its schema, or when the catalogue would not be sound.
 */
export function withEntry(
  catalogue: Catalogue,
  kind: CatalogueKind,
  id: string,
  input: unknown,
): Outcome<{ readonly catalogue: Catalogue; readonly entry: CatalogueEntry | null }> {
  let entry: CatalogueEntry | null = null;
  if (input !== null) {
    const parsed = parseWith(entrySchemas[kind], input);
    if (!parsed.ok) return parsed;
    entry = parsed.value;
    if (entry.id !== id)
      return fail('id-stays', '/id', `The id of an entry stays: “${id}”. Make a new entry for another id.`);
  } else if (!catalogue[kind].some((known) => known.id === id))
    return fail('no-such-entry', '', `There is no “${id}” in ${kind}.`);
  const next = {
    ...catalogue,
    [kind]: putIn<CatalogueEntry>(catalogue[kind], id, entry),
  };
  const known = new Set(checkCatalogue(catalogue).map(({ sentence }) => sentence));
  const problems = checkCatalogue(next).filter(({ sentence }) => !known.has(sentence));
  return problems.length > 0 ? { ok: false, problems } : succeed({ catalogue: next, entry });
}

function putIn<T extends { readonly id: string }>(
  list: readonly T[],
  id: string,
  entry: T | null,
): readonly T[] {
  if (entry === null) return list.filter((known) => known.id !== id);
  return list.some((known) => known.id === id)
    ? list.map((known) => (known.id === id ? entry : known))
    : [...list, entry];
}
