import { parseWith } from '../outcome/parseWith';
import type { Outcome, Problem } from '../outcome/outcome';
import { addDays } from '../quantity/day';
import { CatalogueFileSchema, type Catalogue, type CatalogueFile } from './catalogue';

type DayFromStart = CatalogueFile['releases'][number]['fixesUntil'];

function dayOf(written: DayFromStart, firstDay: string): string | null {
  if (written === null || typeof written === 'string') return written;
  return addDays(firstDay, written.daysFromStart);
}

/**
 * Reads a catalogue file, counts its relative support days from `firstDay` (ISO date) and checks
 * that every reference leads somewhere.
 * @returns the catalogue, or every problem: unreadable place, doubled id, reference to nowhere,
 * extended support that ends before the fixes do
 */
export function resolveCatalogue(input: unknown, firstDay: string): Outcome<Catalogue> {
  const parsed = parseWith(CatalogueFileSchema, input);
  if (!parsed.ok) return parsed;
  const catalogue: Catalogue = {
    ...parsed.value,
    releases: parsed.value.releases.map((release) => ({
      ...release,
      fixesUntil: dayOf(release.fixesUntil, firstDay),
      extendedUntil: dayOf(release.extendedUntil, firstDay),
    })),
  };
  const problems = [
    ...doubledIds(catalogue),
    ...referencesToNowhere(catalogue),
    ...datesTheWrongWay(catalogue),
  ];
  return problems.length === 0 ? { ok: true, value: catalogue } : { ok: false, problems };
}

function doubledIds(catalogue: Catalogue): Problem[] {
  const problems: Problem[] = [];
  for (const part of ['families', 'releases', 'models', 'applications'] as const) {
    const seen = new Set<string>();
    for (const [index, { id }] of catalogue[part].entries()) {
      if (seen.has(id))
        problems.push({
          code: 'doubled-id',
          path: `/${part}/${index}/id`,
          sentence: `“${id}” stands twice in ${part}.`,
        });
      seen.add(id);
    }
  }
  return problems;
}

function referencesToNowhere(catalogue: Catalogue): Problem[] {
  const families = new Set(catalogue.families.map(({ id }) => id));
  const releases = new Set(catalogue.releases.map(({ id }) => id));
  const problems: Problem[] = [];
  const check = (known: Set<string>, id: string, path: string) => {
    if (!known.has(id))
      problems.push({
        code: 'reference-to-nowhere',
        path,
        sentence: `“${id}” is named at ${path} and is not in the catalogue.`,
      });
  };
  for (const [index, release] of catalogue.releases.entries()) {
    check(families, release.family, `/releases/${index}/family`);
    for (const from of release.upgradesFrom) check(releases, from, `/releases/${index}/upgradesFrom`);
  }
  for (const [index, model] of catalogue.models.entries())
    if (model.lastRelease !== undefined) check(releases, model.lastRelease, `/models/${index}/lastRelease`);
  for (const [index, application] of catalogue.applications.entries()) {
    if (application.lockedToFamily !== undefined)
      check(families, application.lockedToFamily, `/applications/${index}/lockedToFamily`);
    for (const family of Object.keys(application.equivalents))
      check(families, family, `/applications/${index}/equivalents`);
  }
  return problems;
}

function datesTheWrongWay(catalogue: Catalogue): Problem[] {
  return catalogue.releases.flatMap((release, index) =>
    release.fixesUntil !== null &&
    release.extendedUntil !== null &&
    release.extendedUntil < release.fixesUntil
      ? [
          {
            code: 'dates-the-wrong-way',
            path: `/releases/${index}/extendedUntil`,
            sentence: `${release.name} ${release.edition}: extended support ends before the fixes do.`,
          },
        ]
      : [],
  );
}
