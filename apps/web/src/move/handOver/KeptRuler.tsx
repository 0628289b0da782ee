import { addDays, daysBetween, printCount } from '@ulvane/core/quantity';
import { scaleLinear } from 'd3-scale';

const width = 370;

/** The days until a backup is wiped, a tick each; the double bar is the day after which nothing can be brought back. */
export function KeptRuler({ from, until }: { readonly from: string; readonly until: string }) {
  const days = Math.max(1, daysBetween(from, until));
  const x = scaleLinear([0, days], [6, width - 6]);
  const every = Math.ceil(days / 60);
  return (
    <svg
      className="kept-ruler"
      viewBox={`0 0 ${width} 38`}
      role="img"
      aria-label={`Kept from ${from} until ${until}: ${printCount(days, 'day')}. After that day nothing can be restored.`}
    >
      <path d={`M6 12H${width - 6}`} />
      <circle cx="6" cy="12" r="4" />
      {Array.from({ length: Math.floor(days / every) }, (_none, index) => (index + 1) * every).map((day) => (
        <path key={addDays(from, day)} d={`M${x(day)} ${day % 7 === 0 ? 6 : 12}V17`} />
      ))}
      <path className="end" d={`M${width - 9} 2V22M${width - 4} 2V22`} />
      <text x="0" y="35">
        {from}
      </text>
      <text x={width} y="35" textAnchor="end" className="end">
        {until}: wiped
      </text>
    </svg>
  );
}
