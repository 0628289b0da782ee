import { api, type HouseView } from '@ulvane/contract';
import {
  catalogueEntryTitle,
  withEntry,
  type CatalogueEntry,
  type CatalogueKind,
} from '@ulvane/core/catalogue';
import type { Problem } from '@ulvane/core/outcome';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys, manyKeys } from '../api/keys';
import { Field } from '../shell/Field';
import { Problem as ProblemNote } from '../shell/Problem';
import { EntryFields } from './EntryFields';
import { fieldsOf } from './fields';

type Draft = { readonly [key: string]: unknown };

type EntryEditorProps = {
  readonly house: HouseView;
  readonly kind: CatalogueKind;
  /** The entry as it stands, or the beginning of a new one. */
  readonly start: Draft;
  readonly isNew: boolean;
  readonly onDone: (id: string | undefined) => void;
};

/** Edits one entry of the catalogue: every change is checked against the whole catalogue before it is kept. */
export function EntryEditor({ house, kind, start, isNew, onDone }: EntryEditorProps) {
  const { mutate } = useSWRConfig();
  const [draft, setDraft] = useState(start);
  const [error, setError] = useState<unknown>();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [removing, setRemoving] = useState(false);
  const id = String(draft.id ?? '');

  const send = async (work: () => Promise<HouseView>, then: string | undefined) => {
    setError(undefined);
    try {
      await mutate(keys.house, await work(), { revalidate: false });
      await mutate(manyKeys.catalogueHistory);
      onDone(then);
    } catch (problem) {
      setError(problem);
    }
  };
  const keep = () => {
    const checked = withEntry(house.catalogue, kind, id, draft);
    if (isNew && house.catalogue[kind].some((entry) => entry.id === id))
      return setProblems([{ code: 'doubled-id', path: '/id', sentence: `“${id}” is there already.` }]);
    if (!checked.ok) return setProblems(checked.problems);
    setProblems([]);
    const entry: CatalogueEntry | null = checked.value.entry;
    if (entry)
      void send(
        () =>
          call(api.putCatalogueEntry, {
            params: { kind, id },
            body: { version: house.catalogueVersion, entry: { ...entry } },
          }),
        id,
      );
  };
  const remove = () =>
    void send(
      () =>
        call(api.removeCatalogueEntry, { params: { kind, id }, body: { version: house.catalogueVersion } }),
      undefined,
    );

  const fields = fieldsOf(kind, house.catalogue);
  return (
    <Form
      className="sheet"
      aria-label={isNew ? 'New entry' : `Edit ${id}`}
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <h2>{isNew ? 'New entry' : titleOf(house, kind, id)}</h2>
      <ProblemNote error={error} />
      {problems.length > 0 && (
        <div className="notice" role="alert">
          <ul>
            {problems.map(({ path, sentence }) => (
              <li key={path + sentence}>{inItsWords(sentence, path, fields)}</li>
            ))}
          </ul>
        </div>
      )}
      {isNew && (
        <Field
          label="Id"
          hint="Lower-case letters, digits and hyphens; it stays."
          error={problems.find(({ path }) => path === '/id')?.sentence}
        >
          {(ids) => (
            <Form.Control
              {...ids}
              value={id}
              onChange={({ target }) => setDraft({ ...draft, id: target.value })}
            />
          )}
        </Field>
      )}
      <div className="entry-fields">
        <EntryFields fields={fields} draft={draft} path="" problems={problems} onChange={setDraft} />
      </div>
      <div className="d-flex gap-2 mt-2">
        <Button type="submit">Save in the catalogue</Button>
        <Button variant="quiet" onClick={() => onDone(isNew ? undefined : id)}>
          Cancel
        </Button>
        {!isNew && !removing && (
          <Button variant="quiet" className="ms-auto" onClick={() => setRemoving(true)}>
            Delete from the catalogue
          </Button>
        )}
        {removing && (
          <span className="ms-auto">
            Delete it?{' '}
            <Button size="sm" onClick={remove}>
              Yes, delete it
            </Button>{' '}
            <Button size="sm" variant="quiet" onClick={() => setRemoving(false)}>
              No
            </Button>
          </span>
        )}
      </div>
    </Form>
  );
}

/** A refusal in the words of the label beside the field, and not by the field’s name in the document. */
function inItsWords(sentence: string, path: string, fields: ReturnType<typeof fieldsOf>): string {
  const [, name = ''] = path.split('/');
  const field = fields.find((one) => 'key' in one && one.key === name);
  return field && 'label' in field ? sentence.replace(`“${name}”`, `“${field.label}”`) : sentence;
}

function titleOf(house: HouseView, kind: CatalogueKind, id: string): string {
  const entry = house.catalogue[kind].find((one) => one.id === id);
  return entry ? catalogueEntryTitle(entry) : id;
}
