import { daysBetween } from '@ulvane/core/quantity';

const yearPixels = 50;
const maxYears = 6;

/** The time with updates, a year as long everywhere; an end that lies further away has no stop. */
export function SupportBar({ today, until }: { readonly today: string; readonly until: string | null }) {
  const years = until === null ? maxYears : Math.max(0, daysBetween(today, until) / 365.25);
  const end = Math.min(years, maxYears) * yearPixels;
  return (
    <svg
      className="support-bar"
      width={maxYears * yearPixels}
      height="12"
      viewBox={`0 0 ${maxYears * yearPixels} 12`}
      role="img"
      aria-label={until === null ? 'updates without an end' : `updates for ${years.toFixed(1)} years`}
    >
      {Array.from({ length: maxYears + 1 }, (_none, year) => (
        <line
          key={year}
          x1={year * yearPixels}
          x2={year * yearPixels}
          y1="0"
          y2="12"
          stroke="var(--rule)"
          strokeWidth="1"
        />
      ))}
      <line x1="0" x2={end} y1="6" y2="6" stroke="var(--go)" strokeWidth="3" />
      <line x1="1" x2="1" y1="1" y2="11" stroke="var(--go)" strokeWidth="3" />
      {years <= maxYears && <line x1={end} x2={end} y1="1" y2="11" stroke="var(--go)" strokeWidth="3" />}
    </svg>
  );
}
