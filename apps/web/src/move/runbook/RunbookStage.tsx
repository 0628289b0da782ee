import { api } from '@ulvane/contract';
import { forecastOf, isClosed, type GateReading } from '@ulvane/core/record';
import { lineCrossed, type GateId, type Runbook, type Step, type StepStanding } from '@ulvane/core/runbook';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { useChange } from '../../api/useMove';
import { useNow } from '../../api/useNow';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useKeys } from '../../shell/useKeys';
import { useOpenMove } from '../MoveContext';
import { usePlanReading } from '../readings';
import { AfterStep } from './AfterStep';
import { CrossingCard } from './CrossingCard';
import { EarlierSteps } from './EarlierSteps';
import { HeldUp } from './HeldUp';
import { ReasonDialog } from '../../shell/ReasonDialog';
import { PrintedRunbook } from './PrintedRunbook';
import { RunbookHead } from './RunbookHead';
import { StaleNotice } from './StaleNotice';
import type { StepActions } from './stepActions';
import { OverruleDialog, WithdrawDialog } from './StepDialogs';
import { StepList } from './StepList';

type Asking =
  | { readonly kind: 'unsign'; readonly step: Step }
  | { readonly kind: 'correct'; readonly step: Step }
  | { readonly kind: 'overrule'; readonly gateId: GateId; readonly title: string };

/** Where the crossing is next: as soon as nothing but what is typed on its card is missing; null elsewhere. */
function lineAtHand(
  runbook: Runbook,
  signatures: Parameters<typeof lineCrossed>[1],
  gates: readonly GateReading[],
): number | null {
  return !lineCrossed(runbook, signatures) &&
    runbook.gates.includes('disk-identified') &&
    gates.every(({ id, state }) => state !== 'closed' || id === 'disk-identified')
    ? runbook.lineIndex
    : null;
}

/** The step in work: the first that is open or waits; where a closed gate holds all back, the first that is not signed. */
function currentOf(standings: readonly StepStanding[], open: number): number | undefined {
  const at = open >= 0 ? open : standings.findIndex(({ state }) => state !== 'signed');
  return at < 0 ? undefined : at;
}

/** The runbook: ordered steps, the Line through it, gates on the Line, signatures. */
export function RunbookStage() {
  const { view, move } = useOpenMove();
  const now = useNow(15_000);
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const reading = usePlanReading();
  const [asking, setAsking] = useState<Asking>();
  const firstOpen = reading?.standings.find(({ state }) => state === 'open' || state === 'waiting')?.stepId;
  useKeys({ s: () => document.getElementById(`sign-${firstOpen ?? ''}`)?.focus() });
  const crossingAt =
    move.plan && reading ? lineAtHand(move.plan.runbook, move.signatures, reading.gates) : null;
  // The step at the Line is the whole screen.
  useEffect(() => {
    if (crossingAt !== null) document.getElementById('the-line')?.scrollIntoView();
  }, [crossingAt]);
  if (!move.plan || !reading)
    return (
      <p className="notice">
        There is no runbook yet. <Link to={`/moves/${move.reference}/prepare`}>Make it on Prepare.</Link>
      </p>
    );
  const { runbook } = move.plan;
  const open = may.write && !isClosed(move);
  const times = forecastOf(move, now);
  const crossed = lineCrossed(runbook, move.signatures);
  const onOverrule =
    may.lead && open
      ? (gateId: GateId, title: string) => setAsking({ kind: 'overrule', gateId, title })
      : undefined;
  /** What is signed for good: the Line itself, and all above it once it is crossed. */
  const isForGood = ({ destructive, kind }: Step, index: number) =>
    destructive || kind === 'identify-disk' || (crossed && index < (runbook.lineIndex ?? 0));
  const actions: StepActions = {
    canWrite: (step) => open && !busy && (!step.requiresLead || may.lead),
    start: (step) => void change(api.startStep, {}, { stepId: step.id }),
    sign: (step, actualMinutes, note) => change(api.signStep, { actualMinutes, note }, { stepId: step.id }),
    unsign: (step, index) => (isForGood(step, index) ? undefined : () => setAsking({ kind: 'unsign', step })),
    correct: (step) => setAsking({ kind: 'correct', step }),
  };
  const current = reading.standings.findIndex(({ stepId }) => stepId === firstOpen);

  return (
    <>
      <StaleNotice
        differences={reading.differences}
        onPlan={open ? () => void change(api.plan, {}) : undefined}
      />
      <Problem error={error} onClose={forgetError} />
      <HeldUp />
      <RunbookHead runbook={runbook} times={times} />
      <div className={crossingAt === null ? 'columns runbook-columns' : 'at-the-line'}>
        <section aria-labelledby="runbook">
          <StepList
            runbook={runbook}
            reading={reading}
            times={times}
            current={currentOf(reading.standings, current)}
            crossingAt={crossingAt}
            crossing={(step, index) => (
              <CrossingCard
                key={step.id}
                step={step}
                number={index + 1}
                runbook={runbook}
                gates={reading.gates}
                canWrite={actions.canWrite(step)}
                onCross={(crossing) =>
                  // A step with a wait is begun at the Line, and signed when the wait is over.
                  void (step.waiting.low >= 1
                    ? change(api.startStep, { crossing }, { stepId: step.id })
                    : change(api.signStep, { actualMinutes: null, note: '', crossing }, { stepId: step.id }))
                }
              />
            )}
            actions={actions}
            onOverrule={onOverrule}
          />
          <PrintedRunbook runbook={runbook} />
          <EarlierSteps />
          <section className="mt-3">
            <h2>House rules followed</h2>
            <p className="small-print">{runbook.practice.join('; ')}.</p>
          </section>
        </section>
        <div className="beside-runbook">
          <AfterStep
            nextId={firstOpen ?? reading.standings.find(({ state }) => state !== 'signed')?.stepId}
            times={times}
          />
        </div>
      </div>
      {asking?.kind === 'unsign' && (
        <WithdrawDialog
          title={asking.step.title}
          error={error}
          onClose={() => setAsking(undefined)}
          onGive={(reason) => change(api.unsignStep, { reason }, { stepId: asking.step.id })}
        />
      )}
      {asking?.kind === 'correct' && (
        <ReasonDialog
          title={`Correct: ${asking.step.title}`}
          label="What was wrong?"
          hint="The step stays signed. The correction is recorded in its history and in the log, with your name."
          action="Add the correction"
          error={error}
          onClose={() => setAsking(undefined)}
          onGive={(reason) => change(api.correctStep, { reason }, { stepId: asking.step.id })}
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
    </>
  );
}
