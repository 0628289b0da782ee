import { printClockIn } from '@ulvane/core/quantity';
import type { PlanReading } from '@ulvane/core/record';
import type { GateId, forecast, Runbook, Step } from '@ulvane/core/runbook';
import { lineCrossed, totalMinutes } from '@ulvane/core/runbook';
import { useState, type ReactNode } from 'react';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { AllSigned } from './AllSigned';
import { BarrierRow } from './BarrierRow';
import { CurrentStep } from './CurrentStep';
import { FoldRow } from './FoldRow';
import { LineRow } from './LineRow';
import { runbookRows } from './runbookRows';
import { StepLine } from './StepLine';
import type { StepActions } from './stepActions';

type StepListProps = {
  readonly runbook: Runbook;
  readonly reading: PlanReading;
  readonly times: ReturnType<typeof forecast>;
  /** Index of the step in work. */
  readonly current: number | undefined;
  /** The crossing takes the place of this step. */
  readonly crossingAt: number | null;
  readonly crossing: (step: Step, index: number) => ReactNode;
  readonly actions: StepActions;
  readonly onOverrule: ((gateId: GateId, title: string) => void) | undefined;
};

/** The runbook as lines: signed and far ones folded by stage, the step in work large, the Line across. */
export function StepList(props: StepListProps) {
  const { runbook, reading, times, current, crossingAt, crossing, actions, onOverrule } = props;
  const { move } = useOpenMove();
  const zone = useZone();
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const rows = runbookRows({
    runbook,
    standings: reading.standings,
    barriers: reading.barriers,
    current,
    opened,
  });
  const minutesOf = (steps: readonly Step[]) => {
    const { handsOn, waiting } = totalMinutes(steps);
    return handsOn.likely + waiting.likely;
  };
  // One scale for every line.
  const fullMinutes = Math.max(
    60,
    ...rows.map((row) =>
      row.kind === 'fold'
        ? minutesOf(runbook.steps.slice(row.from, row.until + 1))
        : row.kind === 'step'
          ? minutesOf(runbook.steps.slice(row.index, row.index + 1))
          : 0,
    ),
  );
  const lineAt = runbook.lineIndex === null ? undefined : times.spans[runbook.lineIndex]?.from;
  const isCrossed = lineCrossed(runbook, move.signatures);
  const toggle = (from: number) =>
    setOpened((was) =>
      was.has(from) ? new Set([...was].filter((one) => one !== from)) : new Set([...was, from]),
    );
  return (
    <ol className="runbook no-print">
      {rows.map((row) => {
        if (row.kind === 'line')
          return (
            <LineRow
              key="line"
              sentence={runbook.lineSentence ?? 'The Line.'}
              gates={reading.gates}
              isHere={crossingAt !== null}
              when={lineAt === undefined || isCrossed ? undefined : printClockIn(zone, lineAt)}
              onOverrule={onOverrule}
            />
          );
        if (row.kind === 'barrier')
          return (
            <BarrierRow
              key={`barrier ${row.index}`}
              number={row.index + 1}
              gates={row.barrier.gates}
              onOverrule={onOverrule}
            />
          );
        if (row.kind === 'fold') {
          const steps = runbook.steps.slice(row.from, row.until + 1);
          const isSigned = reading.standings[row.from]?.state === 'signed';
          const from = times.spans[row.from]?.from;
          const until = times.spans[row.until]?.until;
          return (
            <FoldRow
              key={`fold ${row.from}`}
              steps={steps}
              first={row.from + 1}
              isSigned={isSigned}
              isOpen={row.isOpen}
              fullMinutes={fullMinutes}
              when={
                isSigned
                  ? until === undefined
                    ? ''
                    : `until ${printClockIn(zone, until)}`
                  : from === undefined
                    ? ''
                    : `about ${printClockIn(zone, from)}`
              }
              onToggle={() => toggle(row.from)}
            />
          );
        }
        const step = runbook.steps[row.index];
        const standing = reading.standings[row.index];
        if (!step || !standing) return null;
        if (row.index === crossingAt && standing.state !== 'waiting') return crossing(step, row.index);
        const shared = {
          step,
          index: row.index,
          state: standing.state,
          lockReason: standing.reason,
          actions,
        };
        return row.isCurrent ? (
          <CurrentStep key={step.id} {...shared} />
        ) : (
          <StepLine key={step.id} {...shared} fullMinutes={fullMinutes} />
        );
      })}
      {current === undefined && <AllSigned runbook={runbook} />}
    </ol>
  );
}
