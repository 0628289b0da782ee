import type { GateReading } from '@ulvane/core/record';
import type { GateId } from '@ulvane/core/runbook';
import { GateReasons, GateTags } from './GateTags';

type LineRowProps = {
  readonly sentence: string;
  readonly gates: readonly GateReading[];
  /** The Line is the next step: every gate says how it was proved. */
  readonly isHere: boolean;
  /** When it will probably be reached: a clock time; undefined once it is crossed. */
  readonly when: string | undefined;
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

/** How many gates are open, and by name which are not. */
function gatesText(gates: readonly GateReading[]): string {
  const closed = gates.filter(({ state }) => state === 'closed');
  return closed.length === 0
    ? `All ${gates.length} gates are open`
    : `${gates.length - closed.length} of ${gates.length} gates are open; closed: ${closed.map(({ title }) => title).join(', ')}`;
}

/** The Line with its gates: what lies above can be undone, what lies below cannot. */
export function LineRow({ sentence, gates, isHere, when, onOverrule }: LineRowProps) {
  return (
    <li className={`line-row${isHere ? ' here' : ''}`} id="the-line">
      <div className="line-rule">
        <strong>{when === undefined ? 'The Line' : `The Line, about ${when}`}</strong>
        <span>{when === undefined ? 'crossed' : gatesText(gates)}</span>
      </div>
      {when !== undefined && <GateTags label="Gates" gates={gates} proved={isHere} />}
      <p className="line-sentence">{sentence}</p>
      {when !== undefined && <GateReasons gates={gates} onOverrule={onOverrule} />}
    </li>
  );
}
