import { printCount } from '@ulvane/core/quantity';
import { api } from '@ulvane/contract';
import { printMinutes } from '@ulvane/core/quantity';
import { stageTitles, readCopies, isClosed, type GateReading } from '@ulvane/core/record';
import {
  lineCrossed,
  totalMinutes,
  custodyNow,
  type GateId,
  type Runbook,
  type Step,
} from '@ulvane/core/runbook';
import { Printer } from 'lucide-react';
import { Fragment, useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { CustodyChart } from '../../drawing/CustodyChart';
import { Problem } from '../../shell/Problem';
import { useKeys } from '../../shell/useKeys';
import { DiskDrawing } from '../DiskDrawing';
import { useOpenMove } from '../MoveContext';
import { usePlanReading } from '../readings';
import { AfterStep } from './AfterStep';
import { BarrierRow } from './BarrierRow';
import { CrossingCard } from './CrossingCard';
import { EarlierSteps } from './EarlierSteps';
import { LineRow } from './LineRow';
import { ReasonDialog } from '../../shell/ReasonDialog';
import { StaleNotice } from './StaleNotice';
import { StepRow } from './StepRow';

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

/** The runbook: ordered steps, the Line through it, gates on the Line, signatures. */
export function RunbookStage() {
  const { view, move, houseRules } = useOpenMove();
  const { counting, uncounted } = readCopies(move, houseRules);
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
  const totals = totalMinutes(runbook.steps);
  const closed = reading.gates.filter(({ state }) => state === 'closed');
  const crossed = lineCrossed(runbook, move.signatures);
  const onOverrule =
    may.lead && open
      ? (gateId: GateId, title: string) => setAsking({ kind: 'overrule', gateId, title })
      : undefined;
  /** What is signed for good: the Line itself, and all above it once it is crossed. */
  const stands = ({ destructive, kind }: Step, index: number) =>
    destructive || kind === 'identify-disk' || (crossed && index < (runbook.lineIndex ?? 0));

  return (
    <>
      <StaleNotice
        differences={reading.differences}
        onPlan={open ? () => void change(api.plan, {}) : undefined}
      />
      <Problem error={error} onClose={forgetError} />
      <div className={crossingAt === null ? 'columns wide-left' : 'at-the-line'}>
        <section aria-labelledby="runbook">
          <div className="page-head">
            <h2 id="runbook">Runbook: {runbook.title}</h2>
            <span className="soft">
              {printMinutes(totals.handsOn.likely)} hands-on, {printMinutes(totals.waiting.likely)} waiting (
              {printMinutes(totals.handsOn.low + totals.waiting.low)} to{' '}
              {printMinutes(totals.handsOn.high + totals.waiting.high)} in all)
            </span>
            {runbook.lineIndex !== null && !lineCrossed(runbook, move.signatures) && (
              <a href="#the-line" className={`gate-summary no-print${closed.length === 0 ? ' green' : ''}`}>
                {closed.length === 0
                  ? 'The Line is open'
                  : `The Line: ${printCount(closed.length, 'gate')} closed`}
              </a>
            )}
            <Button size="sm" variant="quiet" className="ms-auto" onClick={() => window.print()}>
              <Printer size={15} aria-hidden="true" /> Print
            </Button>
          </div>
          <ol className="runbook">
            {runbook.steps.map((step, index) => {
              const standing = reading.standings[index];
              const barrier = reading.barriers.find(({ stepId }) => stepId === step.id);
              const isFirstOfStage = runbook.steps[index - 1]?.stage !== step.stage;
              return (
                <Fragment key={step.id}>
                  {runbook.lineIndex === index && (
                    <LineRow
                      sentence={runbook.lineSentence ?? 'The Line.'}
                      gates={reading.gates}
                      isHere={crossingAt !== null}
                      onOverrule={onOverrule}
                    />
                  )}
                  {isFirstOfStage && (
                    <li className="step-stage" id={`stage-${step.stage}`}>
                      {stageTitles[step.stage]}
                    </li>
                  )}
                  {barrier && standing?.state !== 'signed' && (
                    <BarrierRow number={index + 1} gates={barrier.gates} onOverrule={onOverrule} />
                  )}
                  {index === crossingAt && standing?.state !== 'waiting' ? (
                    <CrossingCard
                      step={step}
                      number={index + 1}
                      runbook={runbook}
                      gates={reading.gates}
                      canWrite={open && !busy && (!step.requiresLead || may.lead)}
                      onCross={(crossing) =>
                        // A step with a wait is begun at the Line, and signed when the wait is over.
                        void (step.waiting.low >= 1
                          ? change(api.startStep, { crossing }, { stepId: step.id })
                          : change(
                              api.signStep,
                              { actualMinutes: null, note: '', crossing },
                              { stepId: step.id },
                            ))
                      }
                    />
                  ) : (
                    <StepRow
                      step={step}
                      number={index + 1}
                      state={standing?.state ?? 'open'}
                      lockReason={standing?.reason ?? null}
                      isNext={step.id === firstOpen}
                      canWrite={open && !busy && (!step.requiresLead || may.lead)}
                      onStart={() => void change(api.startStep, {}, { stepId: step.id })}
                      onSign={(actualMinutes, note) =>
                        change(api.signStep, { actualMinutes, note }, { stepId: step.id })
                      }
                      onUnsign={stands(step, index) ? undefined : () => setAsking({ kind: 'unsign', step })}
                      onCorrect={() => setAsking({ kind: 'correct', step })}
                    />
                  )}
                </Fragment>
              );
            })}
          </ol>
          <EarlierSteps />
          <section className="mt-3">
            <h2>House rules followed</h2>
            <p className="small-print">{runbook.practice.join('; ')}.</p>
          </section>
        </section>
        <div className="beside-runbook">
          <AfterStep nextId={firstOpen} />
          <DiskDrawing />
          {move.dataSets.length > 0 && (
            <section className="sheet">
              <h2>Where every file is</h2>
              <CustodyChart
                runbook={runbook}
                dataSets={move.dataSets}
                uncounted={uncounted}
                now={custodyNow(runbook.steps, move.signatures, move.dataSets, counting)}
              />
            </section>
          )}
        </div>
      </div>
      {asking?.kind === 'unsign' && (
        <ReasonDialog
          title={`Withdraw: ${asking.step.title}`}
          label="Why?"
          hint="The first signature and this reason both stay in the history."
          action="Withdraw"
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
        <ReasonDialog
          title={`Overrule: ${asking.title}`}
          label="Reason, in a sentence"
          hint="The gate opens although its condition does not hold. Your name and the reason stay in the log and on the hand-over sheet."
          action="Overrule the gate"
          error={error}
          onClose={() => setAsking(undefined)}
          onGive={(reason) => change(api.overruleGate, { reason }, { gateId: asking.gateId })}
        />
      )}
    </>
  );
}
