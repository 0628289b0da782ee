import type { PlanReading } from '@ulvane/core/record';
import type { GateId, Step } from '@ulvane/core/runbook';
import { stopLetter } from '@ulvane/core/trouble';
import { useState } from 'react';
import { BarrierRow } from '../runbook/BarrierRow';
import { SignControls } from '../runbook/SignControls';
import { SignForm } from '../runbook/SignForm';
import { SignedBy } from '../runbook/SignedBy';
import { useEarly, type StepActions } from '../runbook/stepActions';

type StopListProps = {
  readonly steps: readonly Step[];
  /** Undefined before the detour is started: nothing can be signed yet. */
  readonly reading: PlanReading | undefined;
  readonly actions: StepActions;
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

/** The stops of a detour, to be done and signed one after the other. */
export function StopList({ steps, reading, actions, onOverrule }: StopListProps) {
  const current = reading?.stops.find(({ state }) => state !== 'signed')?.stepId;
  return (
    <ol className="stops" aria-label="Stops of the detour">
      {steps.map((step, index) => {
        const standing = reading?.stops.find(({ stepId }) => stepId === step.id);
        const barrier = reading?.barriers.find(({ stepId }) => stepId === step.id);
        return (
          <StopItem
            key={step.id}
            step={step}
            index={index}
            state={standing?.state}
            reason={standing?.reason ?? null}
            isCurrent={step.id === current}
            actions={actions}
          >
            {barrier && standing?.state !== 'signed' && (
              <ul className="barrier-only">
                <BarrierRow number={stopLetter(index)} gates={barrier.gates} onOverrule={onOverrule} />
              </ul>
            )}
          </StopItem>
        );
      })}
    </ol>
  );
}

type StopItemProps = {
  readonly step: Step;
  readonly index: number;
  readonly state: PlanReading['stops'][number]['state'] | undefined;
  readonly reason: string | null;
  readonly isCurrent: boolean;
  readonly actions: StepActions;
  readonly children: React.ReactNode;
};

function StopItem({ step, index, state, reason, isCurrent, actions, children }: StopItemProps) {
  const [isNoting, setNoting] = useState(false);
  const early = useEarly(step, state ?? 'locked');
  const canWrite = actions.canWrite(step);
  const canSign = (state === 'open' || state === 'waiting') && canWrite;
  const onUnsign = state === 'signed' && canWrite ? actions.unsign(step, index) : undefined;
  return (
    <li
      className={`stop${isCurrent ? ' current' : ''}${state === 'signed' ? ' signed' : ''}`}
      data-step={step.id}
      data-state={state ?? 'planned'}
      aria-current={isCurrent ? 'step' : undefined}
    >
      {children}
      <div className="stop-line">
        <span className="run-number">{stopLetter(index)}</span>
        <div>
          <h3 className="step-title">{step.title}</h3>
          <p className="mb-0">
            {step.why} <strong>Done when:</strong> {step.success}
          </p>
          {step.caution !== null && <p className="caution mb-0">{step.caution}</p>}
          {isNoting && canSign && (
            <SignForm
              step={step}
              early={early}
              onSign={(minutes, note) => actions.sign(step, minutes, note)}
              onClose={() => setNoting(false)}
            />
          )}
        </div>
        <div className="side">
          <span className="text-nowrap">
            {step.handsOn.likely}
            {step.waiting.likely > 0 && ` + ${step.waiting.likely}`} min
          </span>
          {state === 'signed' && (
            <SignedBy stepId={step.id} title={step.title} onUnsign={onUnsign} onCorrect={undefined} />
          )}
          {state !== undefined && (
            <SignControls
              step={step}
              index={index}
              state={state}
              lockReason={reason}
              isCurrent={isCurrent}
              actions={actions}
              isNoting={isNoting}
              onNoting={setNoting}
            />
          )}
          <span className="print-only">□ done</span>
        </div>
      </div>
    </li>
  );
}
