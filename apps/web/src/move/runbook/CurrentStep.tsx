import { machineChanges, suppliersOf } from '@ulvane/core/machine';
import { printClockIn, printMinutes } from '@ulvane/core/quantity';
import { isSigned, type Step, type StepStanding } from '@ulvane/core/runbook';
import { useMemo, useState } from 'react';
import { WaitBar } from '../../drawing/WaitBar';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { OwnerHabits } from './OwnerHabits';
import { SignControls } from './SignControls';
import { SignForm } from './SignForm';
import { useEarly, useWait, type StepActions } from './stepActions';
import { Troubles } from './Troubles';
import { usePlanned } from './usePlanned';

type CurrentStepProps = {
  readonly step: Step;
  readonly index: number;
  readonly state: StepStanding['state'];
  readonly lockReason: string | null;
  readonly actions: StepActions;
};

/** The step in work, large: what to do, how long, what it needs and leaves, and what may go wrong. */
export function CurrentStep({ step, index, state, lockReason, actions }: CurrentStepProps) {
  const [isNoting, setNoting] = useState(false);
  const early = useEarly(step, state);
  const links = useLinks(step);
  return (
    <li
      className={`step step-current next ${state}`}
      id={`step-${step.id}`}
      data-step={step.id}
      data-state={state}
      aria-current="step"
    >
      <div className="current-top">
        <div>
          <h3 className="step-title">
            {index + 1}. {step.title}
          </h3>
          <p className="current-why">{step.why}</p>
          {step.caution !== null && <p className="caution mb-0">{step.caution}</p>}
        </div>
        <Clock step={step} state={state} />
      </div>
      <dl className="current-links">
        <div>
          <dt>Done when</dt>
          <dd>{step.success}</dd>
        </div>
        <div>
          <dt>Needs</dt>
          <dd>
            {links.needs.length === 0 ? (
              'Nothing before it.'
            ) : (
              <ul>
                {links.needs.map(({ id, number, title, isDone }) => (
                  <li key={id}>
                    {isDone ? '✓ ' : ''}
                    {title} <span className="soft">(step {number})</span>
                  </li>
                ))}
              </ul>
            )}
          </dd>
        </div>
        <div>
          <dt>Leaves</dt>
          <dd>{links.leaves.length === 0 ? 'Nothing on the device changes.' : links.leaves.join(' ')}</dd>
        </div>
      </dl>
      {step.kind === 'habits' && <OwnerHabits />}
      {isNoting && (state === 'open' || state === 'waiting') && (
        <SignForm
          step={step}
          early={early}
          onSign={(minutes, note) => actions.sign(step, minutes, note)}
          onClose={() => setNoting(false)}
        />
      )}
      <div className="current-foot side">
        <Troubles step={step} />
        <SignControls
          step={step}
          index={index}
          state={state}
          lockReason={lockReason}
          isCurrent
          actions={actions}
          isNoting={isNoting}
          onNoting={setNoting}
        />
      </div>
    </li>
  );
}

type Link = {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly isDone: boolean;
};

/** What a step needs of those before it, and what it changes: from the plan carried out, not from words. */
function useLinks(step: Step): { readonly needs: readonly Link[]; readonly leaves: readonly string[] } {
  const { move } = useOpenMove();
  const planned = usePlanned();
  return useMemo(() => {
    if (!planned) return { needs: [], leaves: [] };
    const { before, steps } = planned.states;
    const at = steps.findIndex((one) => one.step.id === step.id);
    const here = steps[at];
    if (!here) return { needs: [], leaves: [] };
    const plan = steps.map((one) => ({ id: one.step.id, operators: one.operators }));
    const name = (id: string) => move.destinations.find((one) => one.id === id)?.name ?? id;
    return {
      needs: suppliersOf(before, plan, at).flatMap(({ index }) => {
        const supplier = steps[index]?.step;
        return supplier
          ? [
              {
                id: supplier.id,
                number: index + 1,
                title: supplier.title,
                isDone: isSigned(move.signatures, supplier.id),
              },
            ]
          : [];
      }),
      leaves: machineChanges(steps[at - 1]?.after ?? before, here.after, name),
    };
  }, [planned, step.id, move.destinations, move.signatures]);
}

/** How long the step takes, or how much of its wait is left. */
function Clock({ step, state }: Pick<CurrentStepProps, 'step' | 'state'>) {
  const wait = useWait(step, state);
  const zone = useZone();
  const { handsOn, waiting } = step;
  if (!wait)
    return (
      <div className="current-clock">
        <p className="soft">
          {handsOn.low + waiting.low} to {handsOn.high + waiting.high} min in all
        </p>
        <strong>{printMinutes(handsOn.likely)}</strong>
        <p>hands-on{waiting.likely > 0 && `, then ${printMinutes(waiting.likely)} by itself`}</p>
      </div>
    );
  const isOver = wait.leftMinutes <= 0;
  return (
    <div className="current-clock waiting" role="timer">
      <p className="soft">
        {isOver
          ? `overdue, planned until ${printClockIn(zone, wait.until)}`
          : `waiting, needs nobody until ${printClockIn(zone, wait.until)}`}
      </p>
      <strong>{printMinutes(Math.max(1, Math.abs(wait.leftMinutes)))}</strong>
      <WaitBar share={wait.share} />
      <p className="current-ends">
        <span>{printClockIn(zone, wait.from)}</span>
        <span>{printClockIn(zone, wait.until)}</span>
      </p>
    </div>
  );
}
