import type { Step, StepStanding } from '@ulvane/core/runbook';
import { useState } from 'react';
import { whenText } from '../../shell/whenText';
import { HandsBar } from '../../drawing/HandsBar';
import { SignControls } from './SignControls';
import { SignForm } from './SignForm';
import { SignedBy } from './SignedBy';
import { useEarly, useWait, type StepActions } from './stepActions';
import { Troubles } from './Troubles';

type StepLineProps = {
  readonly step: Step;
  readonly index: number;
  readonly state: StepStanding['state'];
  readonly lockReason: string | null;
  /** The minutes of a full bar, in every line of the runbook. */
  readonly fullMinutes: number;
  readonly actions: StepActions;
};

/** A step on one line; its title opens it, and it can be signed there. */
export function StepLine({ step, index, state, lockReason, fullMinutes, actions }: StepLineProps) {
  const [isOpen, setOpen] = useState(false);
  const [isNoting, setNoting] = useState(false);
  const early = useEarly(step, state);
  const wait = useWait(step, state);
  const isSigned = state === 'signed';
  const canWrite = actions.canWrite(step);
  const onUnsign = isSigned ? actions.unsign(step, index) : undefined;
  return (
    <li className={`step step-line ${state}`} id={`step-${step.id}`} data-step={step.id} data-state={state}>
      <div className="run-line">
        <span className="run-number">{index + 1}</span>
        <h3 className="step-title">
          <button type="button" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
            {step.title}
          </button>
        </h3>
        <HandsBar
          handsOnMinutes={step.handsOn.likely}
          waitingMinutes={step.waiting.likely}
          fullMinutes={fullMinutes}
        />
        <span
          className="run-when"
          title={`${step.handsOn.low + step.waiting.low} to ${step.handsOn.high + step.waiting.high} min`}
        >
          {isSigned ? (
            '✓'
          ) : wait ? (
            wait.leftMinutes > 0 ? (
              `ready ${whenText(wait.leftMinutes)}`
            ) : (
              whenText(wait.leftMinutes)
            )
          ) : (
            <>
              {step.handsOn.likely}
              {step.waiting.likely > 0 && ` + ${step.waiting.likely}`} min
            </>
          )}
        </span>
      </div>
      {(isOpen || isNoting) && (
        <div className="run-inside">
          <p>{step.why}</p>
          <p>
            <strong>Done when:</strong> {step.success}
          </p>
          {step.caution !== null && <p className="caution">{step.caution}</p>}
          {!isSigned && <Troubles step={step} />}
          {isNoting && (state === 'open' || state === 'waiting') && canWrite && (
            <SignForm
              step={step}
              early={early}
              onSign={(minutes, note) => actions.sign(step, minutes, note)}
              onClose={() => setNoting(false)}
            />
          )}
          <div className="side">
            {isSigned && (
              <SignedBy
                stepId={step.id}
                title={step.title}
                onUnsign={canWrite ? onUnsign : undefined}
                onCorrect={canWrite && !onUnsign ? () => actions.correct(step) : undefined}
              />
            )}
            <SignControls
              step={step}
              index={index}
              state={state}
              lockReason={lockReason}
              isCurrent={false}
              actions={actions}
              isNoting={isNoting}
              onNoting={setNoting}
            />
          </div>
        </div>
      )}
    </li>
  );
}
