import type { MoveRow } from '@ulvane/contract';
import { verdicts } from '@ulvane/core/assess';
import { releaseTitle, supportDaysLeft, type Catalogue } from '@ulvane/core/catalogue';
import { useState, type KeyboardEvent } from 'react';
import { VerdictSign } from '../drawing/verdicts';
import { CellReasons } from './CellReasons';
import { Gap } from './DeviceList';
import type { MoveRows } from './useMoveRows';
import { useWindow } from './useWindow';
import { useDay } from '../shell/useDay';

/** As in the style sheet. */
const rowHeight = 36;

const steps: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

type Cell = { readonly row: number; readonly column: number };

/** Devices against releases, one sign a cell; a cell opens its reasons. Arrow keys move, Enter opens. */
export function Matrix({ rows, catalogue }: { readonly rows: MoveRows; readonly catalogue: Catalogue }) {
  const today = useDay();
  const { scroller, items, above, below, scrollTo } = useWindow(rows, rowHeight);
  const [at, setAt] = useState<Cell>({ row: 0, column: 0 });
  const [opened, setOpened] = useState<{ readonly row: MoveRow; readonly releaseId: string }>();
  const { releases } = catalogue;

  const move = (event: KeyboardEvent) => {
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const row = Math.min(rows.total - 1, Math.max(0, at.row + step[0]));
    const column = Math.min(releases.length - 1, Math.max(0, at.column + step[1]));
    setAt({ row, column });
    scrollTo(row);
    // The cell may only be drawn after the scroll.
    requestAnimationFrame(() =>
      scroller.current?.querySelector<HTMLElement>(`[data-cell="${row} ${column}"]`)?.focus(),
    );
  };

  return (
    <>
      <p className="legend">
        {verdicts.map((verdict) => (
          <VerdictSign key={verdict} verdict={verdict} />
        ))}
        <span className="soft">A release in brackets gets no more security updates.</span>
      </p>
      <div className="sheet window" ref={scroller}>
        <table
          className="table matrix"
          role="grid"
          aria-label="Devices against releases"
          aria-rowcount={rows.total + 1}
          onKeyDown={move}
        >
          <thead>
            <tr aria-rowindex={1}>
              <th scope="col">Device</th>
              {releases.map((release) => (
                <th key={release.id} scope="col" className="upright">
                  <span>
                    {supportDaysLeft(release, today) < 0
                      ? `(${releaseTitle(release)})`
                      : releaseTitle(release)}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {above > 0 && <Gap height={above} width={releases.length + 1} />}
            {items.map(({ index }) => {
              const row = rows.at(index);
              return (
                <tr key={index} aria-rowindex={index + 2}>
                  <th scope="row" className="text-nowrap">
                    {row ? (
                      <>
                        <span className="mono">{row.reference}</span> {row.device}
                      </>
                    ) : (
                      '…'
                    )}
                  </th>
                  {releases.map((release, column) => {
                    const verdict = row?.verdicts?.[release.id];
                    return (
                      <td key={release.id} role="gridcell">
                        {row && verdict && (
                          <button
                            type="button"
                            className="cell"
                            data-cell={`${index} ${column}`}
                            tabIndex={at.row === index && at.column === column ? 0 : -1}
                            onFocus={() => setAt({ row: index, column })}
                            onClick={() => setOpened({ row, releaseId: release.id })}
                          >
                            <VerdictSign verdict={verdict} short />
                          </button>
                        )}
                      </td>
                    );
                  })}
                </tr>
              );
            })}
            {below > 0 && <Gap height={below} width={releases.length + 1} />}
          </tbody>
        </table>
      </div>
      {opened && (
        <CellReasons
          row={opened.row}
          releaseId={opened.releaseId}
          catalogue={catalogue}
          onClose={() => setOpened(undefined)}
        />
      )}
    </>
  );
}
