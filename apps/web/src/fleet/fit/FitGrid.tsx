import { useRef, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import { useWindow } from '../useWindow';
import { FitCellBox } from './FitCellBox';
import { cellText, stopsOf, type FitColumn, type FitLine, type Rates } from './fitRows';

export type FitPlace = { readonly row: number; readonly column: number };

type FitGridProps = {
  readonly total: number;
  readonly lineAt: (index: number) => FitLine | undefined;
  readonly see: (from: number, to: number) => void;
  readonly columns: readonly FitColumn[];
  readonly rates: Rates;
  readonly hourPixels: number;
  readonly at: FitPlace;
  readonly onAt: (place: FitPlace) => void;
};

/** As in the style sheet. */
const rowHeight = 52;

/** Devices against releases with one tab stop: arrows move, C goes to the cheapest, Q to the next question, Enter opens. */
export function FitGrid({ total, lineAt, see, columns, rates, hourPixels, at, onAt }: FitGridProps) {
  const navigate = useNavigate();
  const { scroller, items, above, below, scrollTo } = useWindow({ total, see }, rowHeight);
  const grid = useRef<HTMLDivElement>(null);
  const template = { gridTemplateColumns: `13.2rem repeat(${columns.length}, 146px)` };

  const go = (place: FitPlace) => {
    onAt(place);
    scrollTo(place.row);
    // The cell may only be drawn after the scroll.
    requestAnimationFrame(() => {
      const cell = grid.current?.querySelector<HTMLElement>(`[data-cell="${place.row} ${place.column}"]`);
      cell?.focus();
      cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
  };
  const stopsAt = (row: number) => {
    const line = lineAt(row);
    return line ? stopsOf(line, columns) : [];
  };
  const stopIn = (row: number, column: number) =>
    stopsAt(row).find(({ from, until }) => from <= column && column <= until);
  const inRow = (row: number, column: number): FitPlace => ({
    row,
    column: stopIn(row, column)?.from ?? column,
  });
  const nextQuestion = (): FitPlace | undefined => {
    for (let step = 0; step <= total; step += 1) {
      const row = (at.row + step) % total;
      const found = stopsAt(row).find(
        ({ cell, from }) => cell?.kind === 'question' && (step > 0 || from > at.column),
      );
      if (found) return { row, column: found.from };
    }
    return undefined;
  };
  const target = (key: string): FitPlace | undefined => {
    const here = stopIn(at.row, at.column);
    switch (key) {
      case 'ArrowUp':
        return inRow(Math.max(0, at.row - 1), at.column);
      case 'ArrowDown':
        return inRow(Math.min(total - 1, at.row + 1), at.column);
      case 'ArrowLeft':
        return inRow(at.row, Math.max(0, (here?.from ?? at.column) - 1));
      case 'ArrowRight':
        return inRow(at.row, Math.min(columns.length - 1, (here?.until ?? at.column) + 1));
      case 'Home':
        return inRow(at.row, 0);
      case 'End':
        return inRow(at.row, columns.length - 1);
      case 'c': {
        const cheapest = lineAt(at.row)?.cheapest;
        const column = columns.findIndex(({ releaseId }) => releaseId === cheapest);
        return column < 0 ? undefined : { row: at.row, column };
      }
      case 'q':
        return nextQuestion();
      default:
        return undefined;
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const place = target(event.key);
    if (!place) return;
    event.preventDefault();
    go(place);
  };

  return (
    <div className="fit-window" ref={scroller}>
      <div
        className="fit-grid"
        role="grid"
        aria-label="What each release takes, by device"
        aria-rowcount={total + 1}
        aria-colcount={columns.length + 1}
        ref={grid}
        onKeyDown={onKeyDown}
      >
        <div className="fit-row fit-head" role="row" aria-rowindex={1} style={template}>
          <div role="columnheader" className="fit-name">
            <span className="soft">Releases that have ended are not shown</span>
          </div>
          {columns.map(({ releaseId, title, until, can, cheapest }) => (
            <div role="columnheader" key={releaseId}>
              <strong>{title}</strong>
              <span>
                {until === null ? 'no end' : `until ${until.slice(0, 7)}`}, {can.toLocaleString('en')} can
              </span>
              <span>{cheapest === 0 ? 'none' : cheapest.toLocaleString('en')} cheapest here</span>
            </div>
          ))}
        </div>
        <div style={{ height: above }} />
        {items.map(({ index }) => {
          const line = lineAt(index);
          return (
            <div className="fit-row" role="row" aria-rowindex={index + 2} style={template} key={index}>
              <div role="rowheader" className="fit-name">
                {line ? (
                  <>
                    {line.count !== null && (
                      <strong className="fit-count">{line.count.toLocaleString('en')}</strong>
                    )}
                    <span className="fit-title">
                      <strong>{line.title}</strong>
                      <span className="soft">{line.about}</span>
                    </span>
                  </>
                ) : (
                  '…'
                )}
              </div>
              {line &&
                stopsOf(line, columns).map((stop) => {
                  const { from, until, cell } = stop;
                  const column = columns[from];
                  if (!column) return null;
                  const isCheapest = line.cheapest === column.releaseId;
                  const isAdvice = line.advice === column.releaseId;
                  const titles = columns.slice(from, until + 1).map(({ title }) => title);
                  return (
                    <div
                      key={column.releaseId}
                      role="gridcell"
                      aria-colindex={from + 2}
                      aria-colspan={until - from + 1}
                      style={{ gridColumn: `${from + 2} / ${until + 3}` }}
                      className={`fit-cell${isCheapest ? ' cheapest' : isAdvice && cell?.kind === 'price' ? ' advised' : ''}`}
                    >
                      <button
                        type="button"
                        data-cell={`${index} ${from}`}
                        tabIndex={at.row === index && at.column === from ? 0 : -1}
                        onFocus={() => onAt({ row: index, column: from })}
                        onClick={() => void navigate(line.opens)}
                      >
                        <span className="visually-hidden">
                          {cellText(line, titles.join(', '), stop, rates)}
                        </span>
                        <FitCellBox
                          cell={cell}
                          isCheapest={isCheapest}
                          isAdvice={isAdvice}
                          isJoined={until > from}
                          rates={rates}
                          hourPixels={hourPixels}
                        />
                      </button>
                    </div>
                  );
                })}
            </div>
          );
        })}
        <div style={{ height: below }} />
      </div>
    </div>
  );
}
