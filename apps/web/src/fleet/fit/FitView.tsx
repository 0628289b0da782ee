import { api, FitTableQuerySchema, type FitTableView, type MoveListQuery } from '@ulvane/contract';
import { fitMinutes, type FitOrder } from '@ulvane/core/decide';
import { printCount } from '@ulvane/core/quantity';
import type { HouseRules } from '@ulvane/core/rules';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import useSWR from 'swr';
import { call } from '../../api/call';
import { keys } from '../../api/keys';
import { Loading } from '../../shell/Loading';
import { Problem } from '../../shell/Problem';
import { useNarrow } from '../../shell/useNarrow';
import type { MoveRows } from '../useMoveRows';
import { barWidth } from './FitBar';
import { FitCards } from './FitCards';
import { FitFoot } from './FitFoot';
import { FitGrid, type FitPlace } from './FitGrid';
import { lineOfDevice, lineOfKind, type Rates } from './fitRows';
import { FitTableFold } from './FitTableFold';

const orders: readonly { readonly id: FitOrder; readonly title: string }[] = [
  { id: 'cheapest', title: 'Cheapest first' },
  { id: 'updates-end', title: 'Updates end' },
  { id: 'device-count', title: 'Most devices' },
];

type FitViewProps = {
  readonly query: Omit<MoveListQuery, 'page' | 'pageSize'>;
  readonly rows: MoveRows;
  readonly rates: HouseRules['rates'];
};

/** A bar is cut off behind so many hours. */
const maxHours = 12;

/** Pixels of an hour: the dearest price fits, within bounds. */
function hourPixelsOf({ rows }: FitTableView, rates: Rates): number {
  const minutes = rows.flatMap(({ cells }) =>
    Object.values(cells).flatMap(({ cell }) => (cell.kind === 'price' ? [fitMinutes(cell, rates)] : [])),
  );
  const hours = minutes.reduce((max, one) => Math.max(max, one), 0) / 60;
  return barWidth / Math.min(maxHours, Math.max(4, Math.ceil(hours)));
}

/** What every release would take, by kind of device or by device, on one scale. */
export function FitView({ query, rows, rates }: FitViewProps) {
  const [search, setSearch] = useSearchParams();
  const [at, setAt] = useState<FitPlace>({ row: 0, column: 0 });
  const isNarrow = useNarrow();
  const byDevice = search.get('rows') === 'device';
  const asked = useMemo(() => {
    const { search: words, stage, site, route, device, present, verdict, unlock } = query;
    const order = search.get('by') ?? 'cheapest';
    const parsed = FitTableQuerySchema.safeParse({
      search: words,
      stage,
      site,
      route,
      device,
      present,
      verdict,
      unlock,
      order,
    });
    return parsed.success ? parsed.data : FitTableQuerySchema.parse({});
  }, [query, search]);
  const { data: table, error } = useSWR<FitTableView, unknown>(
    keys.fit(asked),
    () => call(api.fleetFit, { query: asked }),
    { keepPreviousData: true },
  );
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value === '') next.delete(name);
    else next.set(name, value);
    setAt({ row: 0, column: 0 });
    setSearch(next, { replace: true });
  };
  if (!table) return error === undefined ? <Loading what="prices" /> : <Problem error={error} />;
  const { columns } = table;
  const hourPixels = hourPixelsOf(table, rates);
  const kinds = table.rows.map(lineOfKind);
  const lineAt = (index: number) => {
    if (!byDevice) return kinds[index];
    const row = rows.at(index);
    return row?.fit ? lineOfDevice(row, rates) : undefined;
  };
  const total = byDevice ? rows.total : kinds.length;
  const loaded = byDevice
    ? Array.from({ length: Math.min(total, 100) }, (_none, index) => lineAt(index)).filter(
        (line) => line !== undefined,
      )
    : kinds;
  const waiting = table.devices - table.priced;
  return (
    <>
      <Problem error={error} />
      <div className="fit-lead">
        <h2>
          {table.priced.toLocaleString('en')} of {table.devices.toLocaleString('en')} have a price.{' '}
          {waiting > 0 && <em>{waiting.toLocaleString('en')} have none yet.</em>}
        </h2>
        {!byDevice && (
          <span className="segments" role="group" aria-label="Order of rows">
            {orders.map(({ id, title }) => (
              <button
                key={id}
                type="button"
                aria-pressed={asked.order === id}
                onClick={() => set('by', id === 'cheapest' ? '' : id)}
              >
                {title}
              </button>
            ))}
          </span>
        )}
        <span className="segments" role="group" aria-label="Rows">
          <button type="button" aria-pressed={!byDevice} onClick={() => set('rows', '')}>
            Like devices
          </button>
          <button type="button" aria-pressed={byDevice} onClick={() => set('rows', 'device')}>
            Each device
          </button>
        </span>
      </div>
      <FitScale rates={rates} />
      {total === 0 ? (
        <p className="sheet empty">No move fits. Show all, or drop a survey on Today.</p>
      ) : isNarrow ? (
        <FitCards lines={loaded} columns={columns} rates={rates} hourPixels={hourPixels} />
      ) : (
        <FitGrid
          // Other rows begin at their first cell.
          key={`${byDevice ? 'device' : 'kind'} ${asked.order}`}
          total={total}
          lineAt={lineAt}
          see={byDevice ? rows.see : seeAll}
          columns={columns}
          rates={rates}
          hourPixels={hourPixels}
          at={at}
          onAt={setAt}
        />
      )}
      <FitFoot table={table} line={lineAt(at.row)} at={at} columns={columns} rates={rates} />
      <FitTableFold lines={loaded} columns={columns} />
      {byDevice && total > loaded.length && (
        <p className="small-print">
          The table has the first {printCount(loaded.length, 'device')}: filter the list for others.
        </p>
      )}
    </>
  );
}

const seeAll = () => undefined;

/** What a bar is made of. */
function FitScale({ rates }: { readonly rates: Rates }) {
  return (
    <p className="fit-scale">
      <strong>One scale, a tick is an hour of a technician:</strong>
      <span>
        <i className="hands" /> hands-on
      </span>
      <span>
        <i className="money" /> money, {rates.hourCost.toFixed(2)} an hour
      </span>
      <span>
        <i className="given" /> given up, {rates.givenUpMinutes} min each
      </span>
      <span>
        <i className="question" /> a question to answer
      </span>
      <span>
        <i className="way" /> what is in the way
      </span>
      <Link to="/house#rates">Rates</Link>
    </p>
  );
}
