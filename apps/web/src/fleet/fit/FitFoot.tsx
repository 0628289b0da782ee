import type { FitTableView } from '@ulvane/contract';
import { printCount, printHours } from '@ulvane/core/quantity';
import { Link } from 'react-router';
import { cellText, moneyText, stopsOf, type FitColumn, type FitLine, type Rates } from './fitRows';
import type { FitPlace } from './FitGrid';

type FitFootProps = {
  readonly table: FitTableView;
  readonly line: FitLine | undefined;
  readonly at: FitPlace;
  readonly columns: readonly FitColumn[];
  readonly rates: Rates;
};

/** The cell in focus as a sentence, the sum of the cheapest, and the questions that settle most. */
export function FitFoot({ table, line, at, columns, rates }: FitFootProps) {
  const stop =
    line && stopsOf(line, columns).find(({ from, until }) => from <= at.column && at.column <= until);
  const titles = stop ? columns.slice(stop.from, stop.until + 1).map(({ title }) => title) : [];
  const { questions, givenUp } = table;
  const [first] = questions;
  return (
    <div className="fit-foot">
      <section aria-label="In focus">
        <h2>In focus</h2>
        <p aria-live="polite">
          {line && stop ? (
            <>
              {cellText(line, titles.join(', '), stop, rates)} <Link to={line.opens}>Open</Link>
            </>
          ) : (
            'No cell.'
          )}
        </p>
      </section>
      <section aria-label="Each at its cheapest">
        <h2>
          Each at its cheapest: {table.priced.toLocaleString('en')} of {printCount(table.devices, 'device')}
        </h2>
        <p>
          {printHours(table.handsOnMinutes)} hands-on and {moneyText(table.cost)}.{' '}
          {givenUp.length > 0 &&
            `Given up: ${givenUp
              .slice(0, 3)
              .map(({ what, devices }) => `${what} (${devices.toLocaleString('en')})`)
              .join(', ')}${givenUp.length > 3 ? ` and ${givenUp.length - 3} more` : ''}. `}
          {table.adviceElsewhere > 0 &&
            `The advice is another release in ${printCount(table.adviceElsewhere, 'row')}: house rules weigh more than time and money.`}
        </p>
      </section>
      <section aria-label="Questions">
        <h2>
          {questions.length === 0
            ? 'No question is open'
            : `${printCount(questions.length, 'question')} would settle ${printCount(
                questions.reduce((sum, { cells }) => sum + cells, 0),
                'cell',
              )}`}
        </h2>
        {first && (
          <p>
            {questions
              .slice(0, 3)
              .map(
                ({ words, cells, devices }) =>
                  `${words} (${printCount(cells, 'cell')}, ${printCount(devices, 'device')})`,
              )
              .join(' ')}{' '}
            <Link to={`/moves/${first.reference}/survey`}>Answer the first</Link>
          </p>
        )}
      </section>
    </div>
  );
}
