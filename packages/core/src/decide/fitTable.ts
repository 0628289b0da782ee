import type { Release } from '../catalogue/catalogue';
import { releaseTitle, supportedUntil } from '../catalogue/find';
import { byText } from '../quantity/order';
import type { HouseRules } from '../rules/houseRules';
import type { FactKey } from '../survey/facts';
import { fitMinutes, releasesAhead, type Fit, type FitCell } from './fitCell';

/** Devices that are alike and fit alike. */
export type FitGroup = {
  readonly device: string;
  readonly present: string;
  readonly presentId: string;
  readonly count: number;
  /** One of them. */
  readonly reference: string;
  readonly fit: Fit;
};

export type FitColumn = {
  readonly releaseId: string;
  readonly title: string;
  /** ISO date; null: no end. */
  readonly until: string | null;
  /** Devices that have a price there, and those for which it is the cheapest. */
  readonly can: number;
  readonly cheapest: number;
};

/** A cell of a kind of device: that of most of its devices. */
export type FitRowCell = {
  readonly cell: FitCell;
  /** So many of the row's devices have just this cell. */
  readonly same: number;
};

/** A kind of device: model and present system. */
export type FitRow = {
  readonly device: string;
  readonly present: string;
  readonly presentId: string;
  readonly count: number;
  readonly reference: string;
  /** The release whose cell here costs least, and the advice of most of its devices. */
  readonly cheapest: string | null;
  readonly advice: string | null;
  readonly cells: Readonly<Record<string, FitRowCell>>;
};

/** A fact that would settle cells. */
type FitQuestion = {
  readonly fact: FactKey;
  readonly words: string;
  readonly cells: number;
  readonly devices: number;
  /** A device of which it is asked. */
  readonly reference: string;
};

export type FitTable = {
  readonly columns: readonly FitColumn[];
  readonly rows: readonly FitRow[];
  readonly devices: number;
  /** Devices that have a price somewhere, and what they come to at their cheapest. */
  readonly priced: number;
  readonly handsOnMinutes: number;
  readonly cost: number;
  readonly givenUp: readonly { readonly what: string; readonly devices: number }[];
  /** Rows whose advice is not their cheapest. */
  readonly adviceElsewhere: number;
  readonly questions: readonly FitQuestion[];
};

export const fitOrders = ['cheapest', 'updates-end', 'device-count'] as const;
export type FitOrder = (typeof fitOrders)[number];

type Given = {
  readonly releases: readonly Release[];
  readonly rates: HouseRules['rates'];
  /** ISO date. */
  readonly today: string;
  readonly order: FitOrder;
};

/** What the cheapest way of a device leads to; of equal prices the advice, then the order of the catalogue. */
export function cheapestOf(
  { cells, advice }: Fit,
  rates: HouseRules['rates'],
): { readonly releaseId: string; readonly minutes: number } | undefined {
  return Object.entries(cells)
    .flatMap(([releaseId, cell]) =>
      cell.kind === 'price' ? [{ releaseId, minutes: fitMinutes(cell, rates) }] : [],
    )
    .reduce<{ readonly releaseId: string; readonly minutes: number } | undefined>(
      (best, one) =>
        best === undefined ||
        one.minutes < best.minutes ||
        (one.minutes === best.minutes && one.releaseId === advice)
          ? one
          : best,
      undefined,
    );
}

/** The value that most devices have; of equals the first. */
function commonest<T>(
  counted: readonly { readonly value: T; readonly count: number }[],
  keyOf: (value: T) => string,
) {
  const sums = new Map<string, { readonly value: T; readonly count: number }>();
  for (const { value, count } of counted) {
    const key = keyOf(value);
    sums.set(key, { value, count: (sums.get(key)?.count ?? 0) + count });
  }
  return [...sums.values()].reduce<{ readonly value: T; readonly count: number } | undefined>(
    (best, one) => (best === undefined || one.count > best.count ? one : best),
    undefined,
  );
}

/** Every kind of device against every release that still gets updates, with the sums of the whole. */
export function fitTable(groups: readonly FitGroup[], given: Given): FitTable {
  const { releases, rates, today, order } = given;
  const ahead = releasesAhead(releases, today);
  const best = groups.map((group) => ({ group, cheapest: cheapestOf(group.fit, rates) }));
  const devicesOf = (some: readonly (typeof best)[number][]) =>
    some.reduce((sum, { group }) => sum + group.count, 0);
  const priced = best.flatMap(({ group, cheapest }) => {
    const cell = cheapest && group.fit.cells[cheapest.releaseId];
    return cell?.kind === 'price' ? [{ count: group.count, cell }] : [];
  });
  const kinds = new Map<string, (typeof best)[number][]>();
  for (const one of best) {
    const key = `${one.group.device}\n${one.group.presentId}`;
    const kind = kinds.get(key);
    if (kind) kind.push(one);
    else kinds.set(key, [one]);
  }
  const rows = [...kinds.values()].flatMap((kind) => rowOf(kind, ahead, rates, devicesOf(kind)));
  const lost = new Map<string, number>();
  for (const { count, cell } of priced)
    for (const what of cell.givenUp) lost.set(what, (lost.get(what) ?? 0) + count);
  return {
    columns: ahead
      .map((release) => ({
        releaseId: release.id,
        title: releaseTitle(release),
        until: supportedUntil(release),
        can: devicesOf(best.filter(({ group }) => group.fit.cells[release.id]?.kind === 'price')),
        cheapest: devicesOf(best.filter(({ cheapest }) => cheapest?.releaseId === release.id)),
      }))
      // Where most devices are cheapest first; a stable order, so equals stay as in the catalogue.
      .toSorted((a, b) => b.cheapest - a.cheapest || b.can - a.can),
    rows: inOrder(rows, order, rates, releases),
    devices: devicesOf(best),
    priced: priced.reduce((sum, { count }) => sum + count, 0),
    handsOnMinutes: priced.reduce((sum, { count, cell }) => sum + count * cell.handsOnMinutes, 0),
    cost: priced.reduce((sum, { count, cell }) => sum + count * cell.cost, 0),
    givenUp: [...lost]
      .map(([what, devices]) => ({ what, devices }))
      .toSorted((a, b) => b.devices - a.devices || byText(a.what, b.what)),
    adviceElsewhere: rows.filter(
      ({ advice, cheapest }) => advice !== null && cheapest !== null && advice !== cheapest,
    ).length,
    questions: questionsOf(rows),
  };
}

function rowOf(
  kind: readonly { readonly group: FitGroup }[],
  ahead: readonly Release[],
  rates: HouseRules['rates'],
  count: number,
): readonly FitRow[] {
  const [first] = kind;
  if (!first) return [];
  const { device, present, presentId, reference } = first.group;
  const cells = Object.fromEntries(
    ahead.flatMap(({ id }) => {
      const found = commonest(
        kind.flatMap(({ group }) => {
          const value = group.fit.cells[id];
          return value ? [{ value, count: group.count }] : [];
        }),
        (value) => JSON.stringify(value),
      );
      return found ? [[id, { cell: found.value, same: found.count }]] : [];
    }),
  );
  const advice =
    commonest(
      kind.map(({ group }) => ({ value: group.fit.advice, count: group.count })),
      (value) => value ?? '',
    )?.value ?? null;
  return [
    {
      device,
      present,
      presentId,
      count,
      reference,
      cheapest:
        cheapestOf(
          { advice, cells: Object.fromEntries(Object.entries(cells).map(([id, { cell }]) => [id, cell])) },
          rates,
        )?.releaseId ?? null,
      advice,
      cells,
    },
  ];
}

/** The minutes of a row's cheapest cell; a row without one comes last. */
function minutesOf({ cheapest, cells }: FitRow, rates: HouseRules['rates']): number {
  const cell = cheapest === null ? undefined : cells[cheapest]?.cell;
  return cell?.kind === 'price' ? fitMinutes(cell, rates) : Number.POSITIVE_INFINITY;
}

function inOrder(
  rows: readonly FitRow[],
  order: FitOrder,
  rates: HouseRules['rates'],
  releases: readonly Release[],
): readonly FitRow[] {
  // A system that nobody knows, or without an end, comes behind those of which the day is known.
  const ends = ({ presentId }: FitRow) => {
    const release = releases.find(({ id }) => id === presentId);
    return (release && supportedUntil(release)) ?? '9999';
  };
  const first: Readonly<Record<FitOrder, (a: FitRow, b: FitRow) => number>> = {
    cheapest: (a, b) => {
      const [one, other] = [minutesOf(a, rates), minutesOf(b, rates)];
      return one === other ? 0 : one - other;
    },
    'updates-end': (a, b) => byText(ends(a), ends(b)),
    'device-count': (a, b) => b.count - a.count,
  };
  return rows.toSorted(
    (a, b) =>
      first[order](a, b) || b.count - a.count || byText(a.device, b.device) || byText(a.present, b.present),
  );
}

/** What would settle most cells first. */
function questionsOf(rows: readonly FitRow[]): readonly FitQuestion[] {
  const found = new Map<string, FitQuestion>();
  for (const { cells, count, reference } of rows) {
    const asked = new Set<string>();
    for (const { cell } of Object.values(cells)) {
      if (cell.kind !== 'question') continue;
      const { fact, words } = cell;
      const so = found.get(words) ?? { fact, words, cells: 0, devices: 0, reference };
      found.set(words, {
        ...so,
        cells: so.cells + 1,
        devices: so.devices + (asked.has(words) ? 0 : count),
      });
      asked.add(words);
    }
  }
  return [...found.values()].toSorted((a, b) => b.cells - a.cells || byText(a.words, b.words));
}
