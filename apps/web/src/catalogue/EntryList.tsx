import {
  findFamily,
  releaseTitle,
  supportedUntil,
  type Catalogue,
  type CatalogueKind,
} from '@ulvane/core/catalogue';
import { daysBetween } from '@ulvane/core/quantity';
import type { ReactNode } from 'react';
import { useDay } from '../shell/useDay';

type EntryListProps = {
  readonly kind: CatalogueKind;
  readonly catalogue: Catalogue;
  readonly shown: ReadonlySet<string>;
  readonly opened: string;
  readonly onOpen: (id: string) => void;
};

/** The entries of one part, each with what it is most often looked up for. */
export function EntryList({ kind, catalogue, shown, opened, onOpen }: EntryListProps) {
  const today = useDay();
  const name = (id: string) => findFamily(catalogue, id)?.name ?? id;
  const open = (id: string, title: string) => (
    <button type="button" className="btn-plain" aria-pressed={opened === id} onClick={() => onOpen(id)}>
      {title}
    </button>
  );
  const table = (heads: readonly string[], rows: readonly (readonly [string, ...ReactNode[]])[]) => (
    <section className="sheet table-scroll">
      <table className="table table-hover">
        <thead>
          <tr>
            {heads.map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows
            .filter(([id]) => shown.has(id))
            .map(([id, ...cells]) => (
              <tr key={id} className={opened === id ? 'opened' : undefined}>
                {cells.map((cell, index) =>
                  index === 0 ? (
                    <th key={heads[index]} scope="row">
                      {cell}
                    </th>
                  ) : (
                    <td key={heads[index]}>{cell}</td>
                  ),
                )}
              </tr>
            ))}
        </tbody>
      </table>
      {shown.size === 0 && <p className="empty">Nothing fits. Search for less.</p>}
    </section>
  );
  switch (kind) {
    case 'releases':
      return table(
        ['Release', 'Family', 'Security updates end', 'Days left', 'Licence'],
        catalogue.releases.map((release) => {
          const until = supportedUntil(release);
          return [
            release.id,
            open(release.id, releaseTitle(release)),
            name(release.family),
            <span key="until" className="text-nowrap">
              {until ?? 'no end'}
            </span>,
            until === null ? '' : daysText(daysBetween(today, until)),
            release.activation.join(', '),
          ];
        }),
      );
    case 'models':
      return table(
        ['Model', 'Years', 'Boot menu', 'Set-up', 'Chip', 'Memory at most'],
        catalogue.models.map((model) => [
          model.id,
          open(model.id, `${model.maker} ${model.model}`),
          <span key="years" className="text-nowrap">
            {model.fromYear}–{model.toYear}
          </span>,
          model.bootMenuKey ?? 'unknown',
          model.setupKey ?? 'unknown',
          model.tpm,
          `${model.memoryCeilingBytes / 1024 ** 3} GiB`,
        ]),
      );
    case 'applications':
      return table(
        ['Application', 'Only for', 'Equivalents'],
        catalogue.applications.map((application) => [
          application.id,
          open(application.id, application.name),
          application.lockedToFamily === undefined ? '' : name(application.lockedToFamily),
          Object.entries(application.equivalents)
            .filter(([, title]) => title !== application.name)
            .map(([family, title]) => `${name(family)}: ${title}`)
            .join('; '),
        ]),
      );
    case 'families':
      return table(
        ['Family', 'About', 'Releases'],
        catalogue.families.map((family) => [
          family.id,
          open(family.id, family.name),
          `${family.about}${family.lockedToMaker === undefined ? '' : ` Only on ${family.lockedToMaker} computers.`}`,
          catalogue.releases.filter((release) => release.family === family.id).length,
        ]),
      );
  }
}

/** @example daysText(-37) // 'over for 37' */
function daysText(days: number): string {
  return days < 0 ? `over for ${-days}` : String(days);
}
