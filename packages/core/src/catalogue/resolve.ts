import { parseWith } from '../outcome/parseWith';
import type { Outcome } from '../outcome/outcome';
import { addDays } from '../quantity/day';
import { CatalogueFileSchema, type Catalogue, type CatalogueFile } from './catalogue';
import { checkCatalogue } from './check';

type DayFromStart = CatalogueFile['releases'][number]['fixesUntil'];

function dayOf(written: DayFromStart, firstDay: string): string | null {
  if (written === null || typeof written === 'string') return written;
  return addDays(firstDay, written.daysFromStart);
}

/**
 * Reads a catalogue file, counts its relative support days from `firstDay` (ISO date) and checks it.
 * @returns the catalogue, or every problem: an unreadable place, or what `checkCatalogue` finds
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
  const problems = checkCatalogue(catalogue);
  return problems.length === 0 ? { ok: true, value: catalogue } : { ok: false, problems: [...problems] };
}
