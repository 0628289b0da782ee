import { routes } from '@ulvane/core/route';
import { Fold } from '../../shell/Fold';
import { moneyText, type FitColumn, type FitLine } from './fitRows';

/** The same figures as a table: minutes, money and losses in columns. */
export function FitTableFold({
  lines,
  columns,
}: {
  readonly lines: readonly FitLine[];
  readonly columns: readonly FitColumn[];
}) {
  return (
    <Fold title="Show as a table" className="no-print">
      {() => (
        <div className="table-scroll">
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Devices</th>
                <th scope="col">Release</th>
                <th scope="col">Route</th>
                <th scope="col">Hands-on, min</th>
                <th scope="col">Money</th>
                <th scope="col">Given up, in the way, or unknown</th>
              </tr>
            </thead>
            <tbody>
              {lines.flatMap((line) =>
                columns.flatMap(({ releaseId, title }) => {
                  const cell = line.cells[releaseId]?.cell;
                  if (!cell) return [];
                  const price = cell.kind === 'price' ? cell : undefined;
                  return [
                    <tr key={`${line.key} ${releaseId}`}>
                      <th scope="row">
                        {line.count !== null && `${line.count} × `}
                        {line.title}, {line.about}
                      </th>
                      <td>{title}</td>
                      <td>{price ? routes[price.routeId].title : ''}</td>
                      <td>{price?.handsOnMinutes}</td>
                      <td>{price ? moneyText(price.cost) : ''}</td>
                      <td>{cell.kind === 'price' ? cell.givenUp.join(', ') || 'nothing' : cell.words}</td>
                    </tr>,
                  ];
                }),
              )}
            </tbody>
          </table>
        </div>
      )}
    </Fold>
  );
}
