import type { GateReading } from '@ulvane/core/record';
import type { GateId } from '@ulvane/core/runbook';
import { Check, CircleDashed, ShieldAlert } from 'lucide-react';
import Button from 'react-bootstrap/Button';
import { ProofMark } from '../../drawing/ProofMark';

type LineRowProps = {
  readonly sentence: string;
  readonly gates: readonly GateReading[];
  /** The Line is the next step: every gate says how it was proved. */
  readonly isHere: boolean;
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

const signs = {
  green: <Check size={14} strokeWidth={3} color="var(--go)" aria-label="holds" />,
  closed: <CircleDashed size={14} strokeWidth={2.5} color="var(--line)" aria-label="closed" />,
  overruled: <ShieldAlert size={14} color="var(--wait)" aria-label="overruled" />,
} as const;

/** The Line with its gates: what lies above can be undone, what lies below cannot. */
export function LineRow({ sentence, gates, isHere, onOverrule }: LineRowProps) {
  const reasons = gates.filter(({ state }) => state !== 'green');
  return (
    <li className={`line-row${isHere ? ' here' : ''}`} id="the-line">
      <p className="line-sentence">{sentence}</p>
      <ul className="gate-tags" aria-label="Gates">
        {gates.map(({ id, title, state, proof, sentence: why }) => (
          <li key={id} className={`gate-tag ${state}`} title={why} data-gate={id} data-state={state}>
            {signs[state]}
            <span className="gate-title">{title}</span>
            {proof && <ProofMark mark={proof} />}
            {isHere && state === 'green' && <span className="gate-why">{why}</span>}
          </li>
        ))}
      </ul>
      {reasons.length > 0 && (
        <ul className="gate-reasons">
          {reasons.map(({ id, title, state, sentence: why }) => (
            <li key={id}>
              <strong>{title}:</strong> {why}{' '}
              {state === 'closed' && onOverrule && (
                <Button
                  variant="plain"
                  className="btn-plain no-print"
                  onClick={() => onOverrule(id, title)}
                  aria-label={`Overrule: ${title}`}
                >
                  Overrule
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
