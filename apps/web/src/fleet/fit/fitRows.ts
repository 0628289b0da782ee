import type { FitTableView, MoveRow } from '@ulvane/contract';
import { cheapestOf, fitMinutes, type FitCell, type FitPrice, type FitRowCell } from '@ulvane/core/decide';
import { printCount, printHours } from '@ulvane/core/quantity';
import { routes } from '@ulvane/core/route';
import type { HouseRules } from '@ulvane/core/rules';

export type Rates = HouseRules['rates'];
export type FitColumn = FitTableView['columns'][number];

/** A row of the table: a kind of device, or one device. */
export type FitLine = {
  readonly key: string;
  /** So many devices; null for one by itself. */
  readonly count: number | null;
  readonly title: string;
  readonly about: string;
  readonly cheapest: string | null;
  readonly advice: string | null;
  readonly cells: Readonly<Record<string, FitRowCell>>;
  /** Where Enter leads. */
  readonly opens: string;
};

export function lineOfKind(row: FitTableView['rows'][number]): FitLine {
  const to = new URLSearchParams({ view: 'fit', rows: 'device', device: row.device });
  if (row.presentId !== '') to.set('present', row.presentId);
  return {
    key: `${row.device} ${row.presentId}`,
    count: row.count,
    title: row.device,
    about: row.present === '' ? 'system unknown' : row.present,
    cheapest: row.cheapest,
    advice: row.advice,
    cells: row.cells,
    opens: row.count === 1 ? `/moves/${row.reference}/decide` : `/fleet?${to.toString()}`,
  };
}

export function lineOfDevice(row: MoveRow, rates: Rates): FitLine {
  const cells = row.fit?.cells ?? {};
  return {
    key: row.reference,
    count: null,
    title: row.reference,
    about: [row.device, row.owner].filter((part) => part !== '').join(', '),
    cheapest: cheapestOf({ cells, advice: row.fit?.advice ?? null }, rates)?.releaseId ?? null,
    advice: row.fit?.advice ?? null,
    cells: Object.fromEntries(Object.entries(cells).map(([id, cell]) => [id, { cell, same: 1 }])),
    opens: `/moves/${row.reference}/decide`,
  };
}

/** Neighbouring cells: an obstacle that is the same for neighbours is one. */
type FitStop = {
  readonly from: number;
  readonly until: number;
  readonly cell: FitCell | undefined;
  readonly same: number;
};

export function stopsOf({ cells }: FitLine, columns: readonly FitColumn[]): readonly FitStop[] {
  const stops: FitStop[] = [];
  for (const [index, { releaseId }] of columns.entries()) {
    const found = cells[releaseId];
    const before = stops.at(-1);
    if (
      before?.cell?.kind === 'obstacle' &&
      found?.cell.kind === 'obstacle' &&
      before.cell.words === found.cell.words
    )
      stops[stops.length - 1] = { ...before, until: index, same: Math.min(before.same, found.same) };
    else stops.push({ from: index, until: index, cell: found?.cell, same: found?.same ?? 0 });
  }
  return stops;
}

/** @example moneyText(12) // '12.00' */
export const moneyText = (money: number) => money.toFixed(2);

/** A price in words. */
function priceText(price: FitPrice, rates: Rates): string {
  const { routeId, handsOnMinutes, cost, givenUp } = price;
  const parts = [
    `${printHours(handsOnMinutes)} hands-on`,
    cost > 0 ? `${moneyText(cost)} in money` : 'no money',
    givenUp.length > 0 ? `given up: ${givenUp.join(', ')}` : 'nothing given up',
  ];
  return `${routes[routeId].title}: ${parts.join(', ')}. Together ${printHours(fitMinutes(price, rates))}.`;
}

/** What a cell says, as a sentence. */
export function cellText(line: FitLine, title: string, { cell, same }: FitStop, rates: Rates): string {
  const who = line.count === null ? line.title : `${line.count} ${line.title}`;
  const start = `${who} to ${title}.`;
  const others = line.count === null ? 0 : line.count - same;
  const rest =
    others > 0 ? ` ${printCount(others, 'device')} of them ${others === 1 ? 'differs' : 'differ'}.` : '';
  if (!cell) return `${start} Not calculated yet.`;
  switch (cell.kind) {
    case 'price':
      return `${start} ${priceText(cell, rates)}${rest}`;
    case 'obstacle':
      return `${start} In the way: ${cell.words}.${rest}`;
    case 'question':
      return `${start} Unknown: ${cell.words} If the answer is good: ${priceText(cell.then, rates)}${rest}`;
  }
}
