import type { BarrierReading } from '@ulvane/core/record';
import type { Runbook, Step, StepStanding } from '@ulvane/core/runbook';

type Stage = Step['stage'];

/** A line of the runbook as it is shown. */
export type RunbookRow =
  | { readonly kind: 'line' }
  | { readonly kind: 'barrier'; readonly index: number; readonly barrier: BarrierReading }
  /** Steps of one stage on one line, from the first to the last of them; signed, or far ahead. */
  | {
      readonly kind: 'fold';
      readonly stage: Stage;
      readonly from: number;
      readonly until: number;
      readonly isOpen: boolean;
    }
  | { readonly kind: 'step'; readonly index: number; readonly isCurrent: boolean };

type Given = {
  readonly runbook: Pick<Runbook, 'steps' | 'lineIndex'>;
  readonly standings: readonly StepStanding[];
  readonly barriers: readonly BarrierReading[];
  /** The step in work; none when all are signed. */
  readonly current: number | undefined;
  /** Indices of folds' first steps that somebody opened. */
  readonly opened: ReadonlySet<number>;
};

/** So many steps behind the one in work have a line each. */
const linesAhead = 6;

/**
 * What is signed and what is far ahead is one line a stage, the step in work is large, the next ones have a line each.
 * The Line and the barriers before steps that are not signed stay in their places.
 */
export function runbookRows({ runbook, standings, barriers, current, opened }: Given): readonly RunbookRow[] {
  const { steps, lineIndex } = runbook;
  const isSingle = (index: number) =>
    standings[index]?.state !== 'signed' &&
    current !== undefined &&
    index >= current &&
    index <= current + linesAhead;
  const rows: RunbookRow[] = [];
  let index = 0;
  while (index < steps.length) {
    const step = steps[index];
    if (!step) break;
    if (index === lineIndex) rows.push({ kind: 'line' });
    if (isSingle(index)) {
      rows.push(...withBarrier(index));
      index += 1;
      continue;
    }
    const until = endOfFold(index);
    const isOpen = opened.has(index);
    // A fold of one step alone is that step.
    if (until > index) rows.push({ kind: 'fold', stage: step.stage, from: index, until, isOpen });
    if (until === index || isOpen)
      for (let inside = index; inside <= until; inside += 1) rows.push(...withBarrier(inside));
    index = until + 1;
  }
  return rows;

  function withBarrier(at: number): readonly RunbookRow[] {
    const barrier = barriers.find(({ stepId }) => stepId === steps[at]?.id);
    return [
      ...(barrier && standings[at]?.state !== 'signed'
        ? [{ kind: 'barrier', index: at, barrier } as const]
        : []),
      { kind: 'step', index: at, isCurrent: at === current },
    ];
  }

  /** The last step that goes on one line with this one: of its stage, on its side of the Line, signed as it is or not. */
  function endOfFold(from: number): number {
    const isSigned = (at: number) => standings[at]?.state === 'signed';
    let until = from;
    while (
      until + 1 < steps.length &&
      until + 1 !== lineIndex &&
      steps[until + 1]?.stage === steps[from]?.stage &&
      !isSingle(until + 1) &&
      isSigned(until + 1) === isSigned(from)
    )
      until += 1;
    return until;
  }
}
