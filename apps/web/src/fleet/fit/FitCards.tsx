import { fitMinutes } from '@ulvane/core/decide';
import { Link } from 'react-router';
import { FitCellBox } from './FitCellBox';
import type { FitColumn, FitLine, Rates } from './fitRows';

type FitCardsProps = {
  readonly lines: readonly FitLine[];
  readonly columns: readonly FitColumn[];
  readonly rates: Rates;
  readonly hourPixels: number;
};

/** Where the table has no room: a card a row, with its three cheapest cells. */
export function FitCards({ lines, columns, rates, hourPixels }: FitCardsProps) {
  return (
    <ul className="fit-cards">
      {lines.map((line) => {
        const priced = columns
          .flatMap((column) => {
            const cell = line.cells[column.releaseId]?.cell;
            return cell?.kind === 'price' ? [{ column, cell, minutes: fitMinutes(cell, rates) }] : [];
          })
          .toSorted((a, b) => a.minutes - b.minutes)
          .slice(0, 3);
        return (
          <li key={line.key}>
            <h3>
              {line.count !== null && `${line.count.toLocaleString('en')} × `}
              <Link to={line.opens}>{line.title}</Link> <span className="soft">{line.about}</span>
            </h3>
            {priced.length === 0 ? (
              <p className="mb-0">No release has a price yet.</p>
            ) : (
              <div className="fit-three">
                {priced.map(({ column, cell }) => (
                  <div
                    key={column.releaseId}
                    className={line.cheapest === column.releaseId ? 'cheapest' : ''}
                  >
                    <span className="d-block">{column.title}</span>
                    <FitCellBox
                      cell={cell}
                      isCheapest={line.cheapest === column.releaseId}
                      isAdvice={line.advice === column.releaseId}
                      isJoined={false}
                      rates={rates}
                      hourPixels={hourPixels}
                    />
                  </div>
                ))}
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}
