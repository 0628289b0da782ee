import { troubles, type Step } from '@ulvane/core/runbook';
import { useState } from 'react';

/** A siding: where the step is left for a while when something goes wrong. */
function Siding() {
  return (
    <svg width="34" height="14" aria-hidden="true" className="siding">
      <path d="M0 4H34" strokeWidth="2" />
      <path d="M4 4C9 4 9 11 14 11H21C26 11 26 4 31 4" strokeWidth="1.4" />
    </svg>
  );
}

/** So many are named; the others are behind a number. */
const named = 3;

/** The troubles that belong to a step by their names; the one that is chosen says what to do. */
export function Troubles({ step }: { readonly step: Step }) {
  const own = troubles.filter(({ id }) => step.troubles.includes(id));
  const [chosen, setChosen] = useState<string>();
  const [all, setAll] = useState(false);
  if (own.length === 0) return null;
  const shown = all || own.length <= named + 1 ? own : own.slice(0, named);
  const open = own.find(({ id }) => id === chosen);
  return (
    <div className="troubles no-print">
      <span className="troubles-mark">
        <Siding /> <strong>If it goes wrong</strong>
      </span>
      {shown.map(({ id, sign }) => (
        <button
          key={id}
          type="button"
          className="btn-plain"
          aria-expanded={chosen === id}
          onClick={() => setChosen(chosen === id ? undefined : id)}
        >
          {sign}
        </button>
      ))}
      {shown.length < own.length && (
        <button type="button" className="btn-plain" onClick={() => setAll(true)}>
          {own.length - shown.length} more
        </button>
      )}
      {open && (
        <p className="trouble-remedy">
          <strong>{open.sign}.</strong> {open.remedy}
        </p>
      )}
    </div>
  );
}
