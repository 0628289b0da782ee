import { fitMinutes, type FitPrice } from '@ulvane/core/decide';
import { useId } from 'react';
import type { Rates } from './fitRows';

/** Pixels of a cell, and of an hour in it. */
export const barWidth = 126;

type FitBarProps = {
  readonly price: FitPrice;
  readonly rates: Rates;
  readonly hourPixels: number;
  readonly isCheapest: boolean;
};

/** Hands-on solid, money dashed, given up cross-hatched, one behind the other over the ticks of hours. */
export function FitBar({ price, rates, hourPixels, isCheapest }: FitBarProps) {
  const id = useId();
  const pixels = (minutes: number) => (minutes / 60) * hourPixels;
  const hands = pixels(price.handsOnMinutes);
  const money = pixels((price.cost / rates.hourCost) * 60);
  const givenUp = pixels(price.givenUp.length * rates.givenUpMinutes);
  const hours = Array.from({ length: Math.floor(barWidth / hourPixels) }, (_none, index) => index + 1);
  const isCut = pixels(fitMinutes(price, rates)) > barWidth;
  // What would vanish is drawn; the number beside it is exact.
  const drawn = (width: number) => (width > 0 ? Math.max(2, width) : 0);
  return (
    <svg className="fit-bar" width={barWidth + 2} height="15" aria-hidden="true">
      <defs>
        <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse">
          <path d="M0 0L5 5M5 0L0 5" stroke="var(--ink)" strokeWidth="0.9" />
        </pattern>
      </defs>
      {hours.map((hour) => (
        <path key={hour} d={`M${hour * hourPixels} 11V14`} stroke="var(--soft)" />
      ))}
      <rect width={drawn(hands)} height="9" y="1" fill={isCheapest ? 'var(--go)' : 'var(--ink)'} />
      {money > 0 && (
        <rect
          x={drawn(hands)}
          y="1.7"
          width={drawn(money)}
          height="7.6"
          fill="#fffdf8"
          stroke="var(--ink)"
          strokeWidth="1.3"
          strokeDasharray="3.4 2"
        />
      )}
      {givenUp > 0 && (
        <rect
          x={drawn(hands) + drawn(money)}
          y="1.5"
          width={givenUp}
          height="8"
          fill={`url(#${id})`}
          stroke="var(--ink)"
        />
      )}
      {isCut && (
        <path d={`M${barWidth - 3} 0l4 3l-4 3l4 3l-4 3`} fill="none" stroke="var(--sheet)" strokeWidth="2" />
      )}
    </svg>
  );
}
