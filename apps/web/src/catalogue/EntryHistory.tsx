import { Instant } from '../shell/Instant';
import { api, type CatalogueChange } from '@ulvane/contract';
import type { CatalogueKind } from '@ulvane/core/catalogue';
import useSWR from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { Problem } from '../shell/Problem';

/** Who changed an entry, or the catalogue, when and how. */
export function EntryHistory({ kind, id }: { readonly kind: CatalogueKind | ''; readonly id: string }) {
  const { data, error } = useSWR(keys.entryHistory(kind, id), () =>
    call(api.catalogueHistory, { query: { kind, id } }),
  );
  return (
    <section className="sheet" aria-labelledby="history">
      <h2 id="history">{id === '' ? 'Last changes of the catalogue' : 'Changes of this entry'}</h2>
      <Problem error={error} />
      {data?.changes.length === 0 && <p className="mb-0 soft">None: it is as it was shipped.</p>}
      <ul className="check-rows">
        {data?.changes.slice(0, 20).map((change) => (
          <li key={change.at + change.kind + change.id}>
            <strong>{change.title}</strong> {change.what} by {change.by}, <Instant at={change.at} />
            <ChangedFields fields={change.fields} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Field by field, before and after. */
export function ChangedFields({ fields }: Pick<CatalogueChange, 'fields'>) {
  return fields.map(({ path, before, after }) => (
    <span key={path} className="small-print d-block text-break">
      {path}: {shorten(before)} → {shorten(after)}
    </span>
  ));
}

function shorten(text: string | null): string {
  if (text === null) return 'nothing';
  return text.length > 160 ? `${text.slice(0, 160)}…` : text;
}
