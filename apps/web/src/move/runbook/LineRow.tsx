import type { GateReading } from '@ulvane/core/record';
import type { GateId } from '@ulvane/core/runbook';
import { GateReasons, GateTags } from './GateTags';

type LineRowProps = {
  readonly sentence: string;
  readonly gates: readonly GateReading[];
  /** The Line is the next step: every gate says how it was proved. */
  readonly isHere: boolean;
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

/** The Line with its gates: what lies above can be undone, what lies below cannot. */
export function LineRow({ sentence, gates, isHere, onOverrule }: LineRowProps) {
  return (
    <li className={`line-row${isHere ? ' here' : ''}`} id="the-line">
      <p className="line-sentence">{sentence}</p>
      <GateTags label="Gates" gates={gates} proved={isHere} />
      <GateReasons gates={gates} onOverrule={onOverrule} />
    </li>
  );
}
