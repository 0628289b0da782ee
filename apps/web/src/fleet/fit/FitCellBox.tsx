import { fitMinutes, type FitCell } from '@ulvane/core/decide';
import { printHours } from '@ulvane/core/quantity';
import { FitBar } from './FitBar';
import { moneyText, type Rates } from './fitRows';

type FitCellBoxProps = {
  readonly cell: FitCell | undefined;
  readonly isCheapest: boolean;
  /** The advice, where the cheapest is another cell. */
  readonly isAdvice: boolean;
  readonly isJoined: boolean;
  readonly rates: Rates;
  readonly hourPixels: number;
};

/** What one release takes: a sum with its bar, the one thing in the way, or the question. */
export function FitCellBox({ cell, isCheapest, isAdvice, isJoined, rates, hourPixels }: FitCellBoxProps) {
  if (!cell) return <span className="soft">…</span>;
  if (cell.kind === 'obstacle')
    return (
      <span className={`fit-obstacle${isJoined ? ' joined' : ''}`}>
        <span>{cell.words}</span>
      </span>
    );
  if (cell.kind === 'question')
    return (
      <span className="fit-question">
        <strong>{cell.words}</strong>
        <span className="soft">then {printHours(fitMinutes(cell.then, rates))}</span>
      </span>
    );
  return (
    <>
      <span className="fit-sum">
        <strong>{printHours(fitMinutes(cell, rates))}</strong>
        {isAdvice && !isCheapest && <span className="fit-advice">advice</span>}
        {cell.cost > 0 && <span className="fit-money">{moneyText(cell.cost)}</span>}
      </span>
      <FitBar price={cell} rates={rates} hourPixels={hourPixels} isCheapest={isCheapest} />
      <span className={cell.givenUp.length > 0 ? 'fit-given' : 'fit-given soft'}>
        {cell.givenUp.length > 0 ? cell.givenUp.join(' + ') : 'nothing given up'}
      </span>
    </>
  );
}
