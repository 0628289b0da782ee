import type { GateReading } from '@ulvane/core/record';
import type { GateId } from '@ulvane/core/runbook';
import { Check, CircleDashed, ShieldAlert } from 'lucide-react';
import Button from 'react-bootstrap/Button';
import { ProofMark } from '../../drawing/ProofMark';

const signs = {
  green: <Check size={14} strokeWidth={3} color="var(--go)" aria-label="holds" />,
  closed: <CircleDashed size={14} strokeWidth={2.5} color="var(--line)" aria-label="closed" />,
  overruled: <ShieldAlert size={14} color="var(--wait)" aria-label="overruled" />,
} as const;

type GateTagsProps = {
  readonly label: string;
  readonly gates: readonly GateReading[];
  /** Every gate says how it was proved. */
  readonly proved?: boolean;
};

/** Gates in a row, each with its state and its proof. */
export function GateTags({ label, gates, proved = false }: GateTagsProps) {
  return (
    <ul className="gate-tags" aria-label={label}>
      {gates.map(({ id, title, state, proof, sentence }) => (
        <li key={id} className={`gate-tag ${state}`} title={sentence} data-gate={id} data-state={state}>
          {signs[state]}
          <span className="gate-title">{title}</span>
          {proof && <ProofMark mark={proof} />}
          {proved && state === 'green' && <span className="gate-why">{sentence}</span>}
        </li>
      ))}
    </ul>
  );
}

type GateReasonsProps = {
  readonly gates: readonly GateReading[];
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

/** Why gates are closed, or by whom they were overruled; nothing where all hold. */
export function GateReasons({ gates, onOverrule }: GateReasonsProps) {
  const reasons = gates.filter(({ state }) => state !== 'green');
  return reasons.length === 0 ? null : (
    <ul className="gate-reasons">
      {reasons.map(({ id, title, state, sentence }) => (
        <li key={id}>
          <strong>{title}:</strong> {sentence}{' '}
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
  );
}
