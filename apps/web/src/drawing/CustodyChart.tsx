import type { DataSet } from '@ulvane/core/backup';
import { custodyOf, type Runbook } from '@ulvane/core/runbook';
import { line, curveStepAfter } from 'd3-shape';
import { useId } from 'react';

type CustodyChartProps = {
  readonly runbook: Runbook;
  readonly dataSets: readonly DataSet[];
  /** Ids of destinations whose copies do not count. */
  readonly uncounted: ReadonlySet<string>;
  /** Good copies at this moment, by data set; see `custodyNow`. */
  readonly now: ReadonlyMap<string, number>;
};

const width = 500;
const left = 150;
const rowHeight = 40;
const unit = 9;
/** Room for the number above the first row. */
const top = 12;

type Column = { readonly index: number; readonly label: string };

/** The steps that change what copies there are; the others would only repeat the column before. */
function columnsOf(runbook: Runbook): readonly Column[] {
  const words = { copy: 'copy', verify: 'verified', restore: 'restored' } as const;
  return runbook.steps.flatMap((step, index) =>
    step.effects.length === 0
      ? []
      : [
          {
            index,
            label: step.destructive
              ? 'erased'
              : step.kind === 'verify'
                ? words.verify
                : step.kind === 'restore'
                  ? words.restore
                  : step.title,
          },
        ],
  );
}

/** Good copies of every data set, step by step, with the Line through all rows. */
export function CustodyChart({ runbook, dataSets, uncounted, now }: CustodyChartProps) {
  const id = useId();
  const columns = columnsOf(runbook);
  const rows = custodyOf(runbook.steps, dataSets, uncounted);
  const height = top + rows.length * rowHeight + 40;
  const stepWidth = (width - left - 30) / (columns.length + 1);
  const x = (position: number) => left + position * stepWidth;
  // The Line stands between the last column above it and the first one at or below it.
  const above = columns.filter(({ index }) => runbook.lineIndex !== null && index < runbook.lineIndex).length;
  const lineX = x(above + 0.5);
  const name = (dataSetId: string) => dataSets.find((dataSet) => dataSet.id === dataSetId)?.name ?? dataSetId;
  const table = (
    <div className="table-scroll">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">Data set</th>
            <th scope="col">Now</th>
            <th scope="col">at first</th>
            {columns.map(({ index, label }) => (
              <th scope="col" key={index}>
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ dataSetId, counts }) => (
            <tr key={dataSetId}>
              <th scope="row">{name(dataSetId)}</th>
              <td>
                <strong>{now.get(dataSetId) ?? 0}</strong>
              </td>
              <td>{counts[0]}</td>
              {columns.map(({ index }) => (
                <td key={index}>{counts[index + 1]}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
  return (
    <figure className="mb-0">
      <svg className="custody" viewBox={`0 0 ${width} ${height}`} role="img" aria-labelledby={`${id}-title`}>
        <title id={`${id}-title`}>
          Number of good copies of each data set after each step that changes it. The table below says the
          same.
        </title>
        {columns.map(({ index, label }, position) => (
          <g key={index}>
            <line x1={x(position + 1)} x2={x(position + 1)} y1={8} y2={height - 32} stroke="var(--rule)" />
            <text x={x(position + 1)} y={height - 16} textAnchor="middle" style={{ fill: 'var(--soft)' }}>
              {label}
            </text>
          </g>
        ))}
        <text x={left} y={height - 16} textAnchor="middle" style={{ fill: 'var(--soft)' }}>
          at first
        </text>
        {rows.map(({ dataSetId, counts }, row) => {
          const base = top + (row + 1) * rowHeight - 8;
          const points = [counts[0] ?? 0, ...columns.map(({ index }) => counts[index + 1] ?? 0)];
          const path = line<number>(
            (_count, position) => x(position),
            (count) => base - count * unit,
          ).curve(curveStepAfter);
          const lowest = Math.min(...points);
          const thin = lowest < 1 || (points.length > 1 && Math.min(...points.slice(1)) === 1);
          const last = points.at(-1) ?? 0;
          return (
            <g key={dataSetId}>
              <text x="0" y={base - 6}>
                {name(dataSetId).length > 22 ? `${name(dataSetId).slice(0, 21)}…` : name(dataSetId)}
              </text>
              <text x="0" y={base + 8} style={{ fontSize: 10.5, fill: 'var(--soft)' }}>
                now {now.get(dataSetId) ?? 0}
              </text>
              <path
                d={`${path(points) ?? ''}L${width - 8} ${base - last * unit}`}
                fill="none"
                stroke={lowest < 1 ? 'var(--line)' : thin ? 'var(--wait)' : 'var(--go)'}
                strokeWidth="3"
                strokeDasharray={thin ? '7 3' : undefined}
              />
              {points.map((count, position) => (
                <text
                  key={position}
                  x={x(position) + 5}
                  y={base - count * unit - 4}
                  style={{ fontSize: 10.5 }}
                >
                  {position === 0 || count !== points[position - 1] ? count : ''}
                </text>
              ))}
            </g>
          );
        })}
        {runbook.lineIndex !== null && (
          <g stroke="var(--line)" strokeWidth="2.5">
            <line x1={lineX - 2.5} x2={lineX - 2.5} y1="0" y2={height - 26} />
            <line x1={lineX + 2.5} x2={lineX + 2.5} y1="0" y2={height - 26} />
          </g>
        )}
      </svg>
      <details className="no-print">
        <summary className="small-print">Show as a table</summary>
        {table}
      </details>
      <div className="print-only">{table}</div>
    </figure>
  );
}
