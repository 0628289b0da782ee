import { api, MoveListQuerySchema, sortKeys, type MoveList, type MoveRow } from '@ulvane/contract';
import { stages, stageTitles } from '@ulvane/core';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useSearchParams } from 'react-router';
import useSWR from 'swr';
import { addressOf, call } from '../api/call';
import { useMay } from '../api/useSession';
import { Field } from '../shell/Field';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { TakeInMove } from './TakeInMove';

const column = createColumnHelper<MoveRow>();

const columns = [
  column.accessor('reference', {
    header: 'Move',
    cell: ({ getValue }) => (
      <Link className="mono" to={`/moves/${getValue()}`}>
        {getValue()}
      </Link>
    ),
  }),
  column.accessor('device', { header: 'Device' }),
  column.accessor('serial', {
    header: 'Serial',
    cell: ({ getValue }) => <span className="mono">{getValue()}</span>,
  }),
  column.accessor('owner', { header: 'Owner' }),
  column.accessor('site', { header: 'Site' }),
  column.accessor('present', { header: 'Now' }),
  column.accessor('target', {
    header: 'Target',
    cell: ({ row }) => row.original.target || row.original.route,
  }),
  column.accessor('stage', { header: 'Stage', cell: ({ getValue }) => stageTitles[getValue()] }),
  column.accessor('dueOn', { header: 'Due', cell: ({ getValue }) => getValue() ?? '' }),
];

/** Every move: search, sort and filter, all of it in the address. */
export function FleetView() {
  const [search, setSearch] = useSearchParams();
  const may = useMay();
  const [takingIn, setTakingIn] = useState(false);
  const parsed = MoveListQuerySchema.safeParse(Object.fromEntries(search));
  const query = parsed.success ? parsed.data : MoveListQuerySchema.parse({});
  const address = addressOf(api.moves, { query });
  const { data, error } = useSWR<MoveList, unknown>(address, () => call(api.moves, { query }), {
    keepPreviousData: true,
  });

  const set = (changes: Readonly<Record<string, string>>) => {
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries({ page: '', ...changes }))
      if (value === '') next.delete(key);
      else next.set(key, value);
    setSearch(next, { replace: true });
  };

  // Typed at once, put into the address right after: the address follows the hand.
  const [words, setWords] = useState(query.search);
  const searchFor = (text: string) => {
    setWords(text);
    set({ search: text });
  };

  const sorting: SortingState = [{ id: query.sort, desc: query.order === 'desc' }];
  const table = useReactTable({
    data: data?.rows ?? [],
    columns,
    state: { sorting },
    manualSorting: true,
    getCoreRowModel: getCoreRowModel(),
    getRowId: ({ reference }) => reference,
  });
  const pages = Math.max(1, Math.ceil((data?.total ?? 0) / query.pageSize));
  const filtered = query.search !== '' || query.stage !== '' || query.site !== '' || query.route !== '';

  return (
    <>
      <title>Fleet · Ulvane</title>
      <div className="page-head">
        <h1>Fleet</h1>
        <span className="soft" aria-live="polite">
          {data ? `${data.total} move${data.total === 1 ? '' : 's'}` : ''}
        </span>
        {may.write && (
          <Button size="sm" variant="quiet" className="ms-auto" onClick={() => setTakingIn(true)}>
            Take in a move file
          </Button>
        )}
      </div>
      <div className="fleet-tools">
        <Field label="Search">
          {(ids) => (
            <Form.Control
              {...ids}
              type="search"
              placeholder="serial, device, owner …"
              value={words}
              onChange={(event) => searchFor(event.target.value)}
            />
          )}
        </Field>
        <Field label="Stage">
          {(ids) => (
            <Form.Select
              {...ids}
              value={query.stage}
              onChange={(event) => set({ stage: event.target.value })}
            >
              <option value="">all</option>
              {stages.map((stage) => (
                <option key={stage} value={stage}>
                  {stageTitles[stage]}
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
        <Field label="Site">
          {(ids) => (
            <Choice
              ids={ids}
              value={query.site}
              options={data?.sites ?? []}
              onChange={(site) => set({ site })}
            />
          )}
        </Field>
        <Field label="Route">
          {(ids) => (
            <Choice
              ids={ids}
              value={query.route}
              options={data?.routes ?? []}
              onChange={(route) => set({ route })}
            />
          )}
        </Field>
        {filtered && (
          <Button
            size="sm"
            variant="quiet"
            className="mb-2"
            onClick={() => {
              setWords('');
              setSearch({}, { replace: true });
            }}
          >
            Show all
          </Button>
        )}
      </div>
      {error !== undefined && <Problem error={error} />}
      {!data && error === undefined && <Loading what="the fleet" />}
      {data && (
        <div className="sheet table-scroll">
          <table className="table table-hover">
            <thead>
              {table.getHeaderGroups().map((group) => (
                <tr key={group.id}>
                  {group.headers.map((header) => {
                    const sortable = sortKeys.some((key) => key === header.id);
                    const direction = query.sort === header.id ? query.order : undefined;
                    return (
                      <th
                        key={header.id}
                        scope="col"
                        aria-sort={
                          direction === undefined ? 'none' : direction === 'asc' ? 'ascending' : 'descending'
                        }
                      >
                        {sortable ? (
                          <button
                            type="button"
                            className="sort-button"
                            onClick={() =>
                              set({ sort: header.id, order: direction === 'asc' ? 'desc' : 'asc' })
                            }
                          >
                            {flexRender(header.column.columnDef.header, header.getContext())}{' '}
                            <span aria-hidden="true">
                              {direction === 'asc' ? '↑' : direction === 'desc' ? '↓' : ''}
                            </span>
                          </button>
                        ) : (
                          flexRender(header.column.columnDef.header, header.getContext())
                        )}
                      </th>
                    );
                  })}
                </tr>
              ))}
            </thead>
            <tbody>
              {table.getRowModel().rows.map((row) => (
                <tr key={row.id}>
                  {row.getVisibleCells().map((cell) => (
                    <td key={cell.id}>{flexRender(cell.column.columnDef.cell, cell.getContext())}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          {data.rows.length === 0 && (
            <p className="empty">
              {filtered
                ? 'No move fits. Show all, or search for less.'
                : 'No move yet. Drop a survey on Today.'}
            </p>
          )}
        </div>
      )}
      {pages > 1 && (
        <nav className="d-flex gap-2 align-items-center" aria-label="Pages">
          <Button
            size="sm"
            variant="quiet"
            disabled={query.page <= 1}
            onClick={() => set({ page: String(query.page - 1) })}
          >
            Before
          </Button>
          <span>
            Page {query.page} of {pages}
          </span>
          <Button
            size="sm"
            variant="quiet"
            disabled={query.page >= pages}
            onClick={() => set({ page: String(query.page + 1) })}
          >
            Next
          </Button>
        </nav>
      )}
      {takingIn && <TakeInMove onClose={() => setTakingIn(false)} />}
    </>
  );
}

type ChoiceProps = {
  readonly ids: object;
  readonly value: string;
  readonly options: readonly string[];
  readonly onChange: (value: string) => void;
};

function Choice({ ids, value, options, onChange }: ChoiceProps) {
  return (
    <Form.Select {...ids} value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="">all</option>
      {options.map((option) => (
        <option key={option} value={option}>
          {option}
        </option>
      ))}
    </Form.Select>
  );
}
