import { api } from '@ulvane/contract';
import { printClockIn, printMinutes } from '@ulvane/core/quantity';
import { wayBackFrom, type Move } from '@ulvane/core/record';
import { forecast, type GateId } from '@ulvane/core/runbook';
import { stopLetter } from '@ulvane/core/trouble';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { useZone } from '../../shell/Instant';
import { ReasonDialog } from '../../shell/ReasonDialog';
import { useOpenMove } from '../MoveContext';
import { usePlanReading } from '../readings';
import type { StepActions } from '../runbook/stepActions';
import { OverruleDialog, WithdrawDialog } from '../runbook/StepDialogs';
import { SidingFigure } from './SidingFigure';
import { StopList } from './StopList';
import { useDetourTimes, type TroubleReading, type useDetour } from './useTrouble';

type Planned = NonNullable<ReturnType<typeof useDetour>>;

type DetourPartProps = {
  readonly reading: TroubleReading;
  readonly planned: Planned;
  readonly seenAt: string;
  readonly checkedMinutes: number;
  readonly now: string;
  readonly canWrite: boolean;
  readonly busy: boolean;
  readonly change: ReturnType<typeof useChange>['change'];
  readonly error: unknown;
  readonly onStart: () => void;
};

/** The remedy of the chosen cause: as steps where there is one, else what to do with the move. */
export function DetourPart({ planned, ...rest }: DetourPartProps) {
  const { cause, detour } = planned;
  return detour ? (
    <Detour {...rest} detour={detour} />
  ) : (
    <section className="detour-head" aria-labelledby="detour">
      <h2 id="detour">No detour: {cause.title}</h2>
      <p className="notice">{typeof cause.remedy === 'string' ? cause.remedy : cause.because}</p>
    </section>
  );
}

type DetourProps = Omit<DetourPartProps, 'planned'> & { readonly detour: NonNullable<Planned['detour']> };

type Asking =
  | { readonly kind: 'leave' }
  | { readonly kind: 'unsign'; readonly stepId: string; readonly title: string }
  | { readonly kind: 'overrule'; readonly gateId: GateId; readonly title: string };

function Detour(props: DetourProps) {
  const { reading, detour, seenAt, checkedMinutes, now, canWrite, busy, change, error, onStart } = props;
  const { place, trouble } = reading;
  const { move } = useOpenMove();
  const may = useMay();
  const zone = useZone();
  const plan = usePlanReading();
  const [asking, setAsking] = useState<Asking>();
  const underWay = trouble?.detour ?? undefined;
  const times = useDetourTimes(detour, underWay !== undefined, seenAt, now);
  const wayBack = wayBackFrom(move);
  const goesOnAt = times.stops.at(-1)?.until ?? now;
  const steps = underWay?.steps ?? detour.stops.map(({ step }) => step);
  const current = plan?.stops.findIndex(({ state }) => state !== 'signed') ?? -1;
  const actions: StepActions = {
    canWrite: (step) => underWay !== undefined && canWrite && !busy && (!step.requiresLead || may.lead),
    start: (step) => void change(api.startStep, {}, { stepId: step.id }),
    sign: (step, actualMinutes, note) => change(api.signStep, { actualMinutes, note }, { stepId: step.id }),
    unsign: (step) => () => setAsking({ kind: 'unsign', stepId: step.id, title: step.title }),
    correct: () => undefined,
  };
  if (!place || !move.plan) return null;
  return (
    <section aria-labelledby="detour">
      <div className="detour-head">
        <h2 id="detour">Detour: {detour.title}</h2>
        <span className="soft">
          {printMinutes(times.handsOnMinutes)} hands-on
          {times.waitingMinutes > 0 && ` + ${printMinutes(times.waitingMinutes)} waiting`}.{' '}
          {checkedMinutes > 0 && `Checks took ${printMinutes(checkedMinutes)}: `}
          {checkedMinutes > 0 ? 'done' : 'Done'} at {printClockIn(zone, times.doneAt)} instead of{' '}
          {printClockIn(zone, times.insteadOf)}, {printMinutes(Math.max(0, times.laterMinutes))} later.
        </span>
        <span className="detour-actions no-print">
          {underWay && canWrite && (
            <Button variant="quiet" size="sm" onClick={() => setAsking({ kind: 'leave' })}>
              It did not help: way back
            </Button>
          )}
          {!underWay && canWrite && detour.obstacle === null && (
            <Button disabled={busy} onClick={onStart}>
              Start the detour
            </Button>
          )}
        </span>
      </div>
      {detour.obstacle && !underWay && (
        <p className="notice">
          This detour cannot be carried out here: {detour.obstacle.missing}
          {obstaclePlace(detour)}. Choose another remedy, or end it with a note.
        </p>
      )}
      <SidingFigure
        runbook={move.plan.runbook}
        place={place}
        detour={detour}
        times={times}
        seenAt={seenAt}
        goesOnAt={goesOnAt}
        aheadTimes={aheadTimes(place.index, move, goesOnAt)}
      />
      {underWay && current >= 0 && (
        <p className="visually-hidden" aria-live="polite">
          Stop {stopLetter(current)} of {steps.length} is next.
        </p>
      )}
      <StopList
        steps={steps}
        reading={underWay ? plan : undefined}
        actions={actions}
        onOverrule={
          may.lead && canWrite ? (gateId, title) => setAsking({ kind: 'overrule', gateId, title }) : undefined
        }
      />
      {asking?.kind === 'leave' && trouble && (
        <ReasonDialog
          title={`Way back: ${detour.title}`}
          label="What did you see instead?"
          hint={
            wayBack.length > 0
              ? `First undo what was changed: ${wayBack.join(' ')} Its cause is then answered with no.`
              : 'Nothing has to be undone. Its cause is then answered with no, once a stop was begun.'
          }
          action="The way back was taken"
          error={error}
          onClose={() => setAsking(undefined)}
          onGive={(reason) => change(api.leaveDetour, { reason }, { number: String(trouble.number) })}
        />
      )}
      {asking?.kind === 'unsign' && (
        <WithdrawDialog
          title={asking.title}
          error={error}
          onClose={() => setAsking(undefined)}
          onGive={(reason) => change(api.unsignStep, { reason }, { stepId: asking.stepId })}
        />
      )}
      {asking?.kind === 'overrule' && (
        <OverruleDialog
          title={asking.title}
          error={error}
          onClose={() => setAsking(undefined)}
          onGive={(reason) => change(api.overruleGate, { reason }, { gateId: asking.gateId })}
        />
      )}
    </section>
  );
}

/** When the next steps after the one with the sign begin, once that goes on. */
function aheadTimes(index: number, { plan, signatures }: Move, goesOnAt: string): readonly string[] {
  const steps = plan?.runbook.steps.slice(index) ?? [];
  return forecast(steps, signatures, goesOnAt)
    .spans.slice(1)
    .flatMap((span) => span?.from ?? []);
}

/** @example obstaclePlace(detour) // ' (stop C)' */
function obstaclePlace({ obstacle, stops }: DetourProps['detour']): string {
  const at = stops.findIndex(({ id }) => id === obstacle?.stepId);
  return at < 0 ? '' : ` (stop ${stopLetter(at)})`;
}
