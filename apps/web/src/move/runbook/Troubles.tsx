import { troubleSigns, type Step } from '@ulvane/core/runbook';
import { signsOf } from '@ulvane/core/trouble';
import { useState } from 'react';
import { Link } from 'react-router';
import { useOpenMove } from '../MoveContext';
import { troublePath } from '../trouble/troublePath';

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

/** The signs that belong to a step; each leads to its causes and remedies. */
export function Troubles({ step }: { readonly step: Step }) {
  const { move } = useOpenMove();
  const [all, setAll] = useState(false);
  const own = signsOf(step);
  if (own.length === 0) return null;
  const shown = all || own.length <= named + 1 ? own : own.slice(0, named);
  return (
    <div className="troubles no-print">
      <span className="troubles-mark">
        <Siding /> <strong>If it goes wrong</strong>
      </span>
      {shown.map((id) => (
        <Link key={id} to={troublePath(move.reference, step.id, id)}>
          {troubleSigns[id]}
        </Link>
      ))}
      {shown.length < own.length && (
        <button type="button" className="btn-plain" onClick={() => setAll(true)}>
          {own.length - shown.length} more
        </button>
      )}
    </div>
  );
}
