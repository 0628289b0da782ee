import { api, type HouseView } from '@ulvane/contract';
import {
  catalogueEntryTitle,
  catalogueKinds,
  type CatalogueEntry,
  type CatalogueKind,
} from '@ulvane/core/catalogue';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useSearchParams } from 'react-router';
import { addressOf } from '../api/call';
import { useHouse } from '../api/useHouse';
import { useMay } from '../api/useSession';
import { Field } from '../shell/Field';
import { Loading } from '../shell/Loading';
import { EntryCard } from './EntryCard';
import { EntryEditor } from './EntryEditor';
import { EntryHistory } from './EntryHistory';
import { EntryList } from './EntryList';
import { blankEntry } from './fields';
import { ReassessmentNote } from './ReassessmentNote';
import { ImportCatalogue } from './ImportCatalogue';

const kindTitles: Record<CatalogueKind, string> = {
  releases: 'Releases',
  models: 'Models',
  applications: 'Applications',
  families: 'Families',
};
const kindsShown: readonly CatalogueKind[] = ['releases', 'models', 'applications', 'families'];

/** What devices are judged by: searched by everybody, edited by leads. */
export function CatalogueView() {
  const { house } = useHouse();
  if (!house) return <Loading what="the catalogue" />;
  return <LoadedCatalogue house={house} />;
}

function LoadedCatalogue({ house }: { readonly house: HouseView }) {
  const may = useMay();
  const [search, setSearch] = useSearchParams();
  const [editing, setEditing] = useState<'entry' | 'new'>();
  const [takingIn, setTakingIn] = useState(false);
  const { catalogue, catalogueVersion } = house;
  const kind = catalogueKinds.find((known) => known === search.get('kind')) ?? 'releases';
  const id = search.get('id') ?? '';
  const words = search.get('search') ?? '';
  const entries: readonly CatalogueEntry[] = catalogue[kind];
  const entry = entries.find((one) => one.id === id);
  const shown = entries.filter((one) => fits(one, words));
  const show = (changes: { readonly kind?: string; readonly id?: string; readonly search?: string }) => {
    const next = { kind, id, search: words, ...changes };
    setEditing(undefined);
    setSearch(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== '')), {
      replace: true,
    });
  };
  return (
    <>
      <title>Catalogue · Ulvane</title>
      <div className="page-head">
        <h1>Catalogue</h1>
        <span className="soft">
          {catalogue.families.length} families, {catalogue.releases.length} releases,{' '}
          {catalogue.models.length} models, {catalogue.applications.length} applications
        </span>
        <a className="btn btn-quiet btn-sm ms-auto" href={addressOf(api.exportCatalogue)}>
          Export
        </a>
        {may.lead && (
          <Button size="sm" variant="quiet" onClick={() => setTakingIn(true)}>
            Import a catalogue
          </Button>
        )}
      </div>
      <ReassessmentNote version={catalogueVersion} />
      <div className="fleet-tools">
        <Field label="Part">
          {(ids) => (
            <Form.Select
              {...ids}
              value={kind}
              onChange={({ target }) => show({ kind: target.value, id: '' })}
            >
              {kindsShown.map((one) => (
                <option key={one} value={one}>
                  {kindTitles[one]} ({catalogue[one].length})
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
        <Field label="Search">
          {(ids) => (
            <Form.Control
              {...ids}
              type="search"
              value={words}
              onChange={({ target }) => show({ search: target.value })}
            />
          )}
        </Field>
        {may.lead && (
          <Button
            size="sm"
            className="mb-2"
            onClick={() => {
              show({ id: '' });
              setEditing('new');
            }}
          >
            New entry
          </Button>
        )}
      </div>
      <div className="columns wide-left">
        <EntryList
          kind={kind}
          catalogue={catalogue}
          shown={new Set(shown.map((one) => one.id))}
          opened={id}
          onOpen={(next) => show({ id: next })}
        />
        <div>
          {editing !== undefined && (
            <EntryEditor
              key={`${kind} ${id} ${editing}`}
              house={house}
              kind={kind}
              start={editing === 'new' ? blankEntry(kind, catalogue) : { ...entry }}
              isNew={editing === 'new'}
              onDone={(next) => show({ id: next ?? '' })}
            />
          )}
          {entry && editing === undefined && (
            <EntryCard
              kind={kind}
              entry={entry}
              catalogue={catalogue}
              title={catalogueEntryTitle(entry)}
              onEdit={may.lead ? () => setEditing('entry') : undefined}
            />
          )}
          <EntryHistory kind={id === '' ? '' : kind} id={id} />
        </div>
      </div>
      {takingIn && <ImportCatalogue house={house} onClose={() => setTakingIn(false)} />}
    </>
  );
}

/** Every word somewhere in the entry. */
function fits(entry: CatalogueEntry, words: string): boolean {
  const text = `${catalogueEntryTitle(entry)} ${JSON.stringify(entry)}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
