import { daysBetween } from '../quantity/day';
import type { Application, Catalogue, Family, Model, Release } from './catalogue';

/** @example releaseTitle(corvel10Business) // 'Corvel 10 Business' */
export function releaseTitle(release: Pick<Release, 'name' | 'edition'>): string {
  return release.edition === '' ? release.name : `${release.name} ${release.edition}`;
}

export function findRelease(
  catalogue: Pick<Catalogue, 'releases'>,
  id: string | undefined,
): Release | undefined {
  return id === undefined ? undefined : catalogue.releases.find((release) => release.id === id);
}

export function findFamily(catalogue: Pick<Catalogue, 'families'>, id: string): Family | undefined {
  return catalogue.families.find((family) => family.id === id);
}

/** The last day that somebody promises fixes for: the extended day where there is one; null: no end. */
export function supportedUntil(release: Release): string | null {
  return release.extendedUntil ?? release.fixesUntil;
}

/** The last answer for each release: thousands of devices are judged on one day. */
const daysLeftOn = new WeakMap<Release, { readonly today: string; readonly days: number }>();

/**
 * Days of support left on `today` (ISO date); negative once it has run out.
 * A rolling system counts as ten years, so that it can be compared.
 */
export function supportDaysLeft(release: Release, today: string): number {
  const known = daysLeftOn.get(release);
  if (known?.today === today) return known.days;
  const until = supportedUntil(release);
  const days = until === null ? 3650 : daysBetween(today, until);
  daysLeftOn.set(release, { today, days });
  return days;
}

/**
 * The one model entry that fits maker, model and (where known) year.
 * Two entries that fit are named and not picked between.
 */
export function findModel(
  catalogue: Catalogue,
  maker: string | undefined,
  model: string | undefined,
  year: number | undefined,
): { readonly model: Model | undefined; readonly ambiguous: readonly Model[] } {
  if (maker === undefined || model === undefined) return { model: undefined, ambiguous: [] };
  const fold = (text: string) => text.trim().toLowerCase();
  const fits = catalogue.models.filter(
    (entry) =>
      fold(entry.maker) === fold(maker) &&
      fold(entry.model) === fold(model) &&
      (year === undefined || (year >= entry.fromYear && year <= entry.toYear)),
  );
  return fits.length > 1 ? { model: undefined, ambiguous: fits } : { model: fits[0], ambiguous: [] };
}

/** An application by its id or its name. */
export function findApplication(applications: readonly Application[], name: string): Application | undefined {
  return applications.find(({ id, name: title }) => id === name || title === name);
}
