import { sortKeys, type MoveRow } from '@ulvane/contract';
import { stageTitles } from '@ulvane/core/record';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  useReactTable,
  type SortingState,
} from '@tanstack/react-table';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { VerdictSign } from '../drawing/verdicts';
import type { MoveRows } from './useMoveRows';
import { useWindow } from './useWindow';

type DeviceListProps = {
  readonly rows: MoveRows;
  readonly sort: string;
  readonly order: 'asc' | 'desc';
  readonly onSort: (sort: string, order: 'asc' | 'desc') => void;
  readonly selected: ReadonlySet<string>;
  /** Undefined: nothing can be selected. */
  readonly onSelect: ((reference: string, on: boolean) => void) | undefined;
};

/** As in the style sheet. */
const rowHeight = 36;
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
  column.accessor('verdict', {
    header: 'Newer',
    cell: ({ getValue }) => <VerdictSign verdict={getValue()} />,
  }),
  column.accessor('target', {
    header: 'Target',
    cell: ({ row }) => row.original.target || row.original.route,
  }),
  column.accessor('stage', {
    header: 'Stage',
    cell: ({ getValue, row }) =>
      row.original.unreadable === null ? (
        stageTitles[getValue()]
      ) : (
        <strong title={row.original.unreadable}>Cannot be read</strong>
      ),
  }),
  column.accessor('dueOn', { header: 'Due', cell: ({ getValue }) => getValue() ?? '' }),
];

/** Every move as a line; only the lines in sight are drawn, however many there are. */
export function DeviceList({ rows, sort, order, onSort, selected, onSelect }: DeviceListProps) {
  const { scroller, items, above, below } = useWindow(rows, rowHeight);
  const loaded = items.flatMap(({ index }) => rows.at(index) ?? []);
  const sorting: SortingState = useMemo(() => [{ id: sort, desc: order === 'desc' }], [sort, order]);
  const table = useReactTable({
    data: loaded,
    columns,
    state: { sorting },
    manualSorting: true,
    // The rows change with every scroll; the table has no pages of its own to go back to the first of.
    autoResetPageIndex: false,
    getCoreRowModel: getCoreRowModel(),
    getRowId: ({ reference }) => reference,
  });
  const lines = new Map(table.getRowModel().rows.map((row) => [row.id, row]));
  const width = columns.length + (onSelect ? 1 : 0);
  return (
    <div className="sheet window" ref={scroller} tabIndex={0} role="region" aria-label="Devices">
      <table className="table table-hover" aria-rowcount={rows.total + 1}>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id} aria-rowindex={1}>
              {onSelect && (
                <th scope="col">
                  <span className="visually-hidden">Select</span>
                </th>
              )}
              {group.headers.map((header) => {
                const sortable = sortKeys.some((key) => key === header.id);
                const direction = sort === header.id ? order : undefined;
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
                        onClick={() => onSort(header.id, direction === 'asc' ? 'desc' : 'asc')}
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
          {above > 0 && <Gap height={above} width={width} />}
          {items.map(({ index }) => {
            const line = lines.get(rows.at(index)?.reference ?? '');
            return (
              <tr key={index} aria-rowindex={index + 2}>
                {onSelect && (
                  <td>
                    {line && (
                      <input
                        type="checkbox"
                        className="form-check-input"
                        aria-label={`Select ${line.id}`}
                        checked={selected.has(line.id)}
                        onChange={({ target }) => onSelect(line.id, target.checked)}
                      />
                    )}
                  </td>
                )}
                {line ? (
                  line
                    .getVisibleCells()
                    .map((cell) => (
                      <td key={cell.id}>{flexRender(cell.column.columnDef.cell, cell.getContext())}</td>
                    ))
                ) : (
                  <td colSpan={columns.length} className="soft">
                    …
                  </td>
                )}
              </tr>
            );
          })}
          {below > 0 && <Gap height={below} width={width} />}
        </tbody>
      </table>
    </div>
  );
}

/** Stands for the rows that are out of sight. */
function Gap({ height, width }: { readonly height: number; readonly width: number }) {
  return (
    <tr aria-hidden="true">
      <td colSpan={width} style={{ height, padding: 0, border: 0 }} />
    </tr>
  );
}
