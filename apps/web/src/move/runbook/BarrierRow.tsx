import type { GateReading } from '@ulvane/core/record';
import type { GateId } from '@ulvane/core/runbook';
import { GateReasons, GateTags } from './GateTags';

type BarrierRowProps = {
  /** Of the step that it stands before. */
  readonly number: number | string;
  readonly gates: readonly GateReading[];
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

/** A bar on two posts: up, or across the way. */
function Bar({ isOpen }: { readonly isOpen: boolean }) {
  return (
    <svg width="30" height="20" aria-hidden="true" className="barrier-bar">
      <path d="M4 19V7M26 19V7" strokeWidth="3" />
      <path d={isOpen ? 'M4 8 24 1' : 'M2 8H28'} strokeWidth="3" strokeDasharray="4 2" />
    </svg>
  );
}

/** What has to be proved before a step that may cost something when it is broken off half-way. */
export function BarrierRow({ number, gates, onOverrule }: BarrierRowProps) {
  const isOpen = gates.every(({ state }) => state !== 'closed');
  return (
    <li className="barrier-row" data-barrier={number} data-state={isOpen ? 'open' : 'closed'}>
      <div className="barrier-head">
        <Bar isOpen={isOpen} />
        <strong>
          Barrier before {number}, {isOpen ? 'open' : 'closed'}
        </strong>
        <GateTags label={`Barrier before step ${number}`} gates={gates} />
      </div>
      <GateReasons gates={gates} onOverrule={onOverrule} />
    </li>
  );
}
