import type { BarrierReading } from '@ulvane/core/record';
import type { Step, StepStanding } from '@ulvane/core/runbook';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runbookRows, type RunbookRow } from '../src/move/runbook/runbookRows';

type Stage = Step['stage'];

const stepOf = (id: string, stage: Stage): Step => ({
  id,
  kind: 'copy',
  stage,
  title: id,
  why: '',
  caution: null,
  success: '',
  handsOn: { low: 1, likely: 1, high: 1 },
  waiting: { low: 0, likely: 0, high: 0 },
  destructive: false,
  requiresLead: false,
  effects: [],
  troubles: [],
});

const plan = (stages: readonly Stage[]) => stages.map((stage, index) => stepOf(`s${index}`, stage));

const standingsOf = (steps: readonly Step[], signed: number): readonly StepStanding[] =>
  steps.map(({ id }, index) => ({ stepId: id, state: index < signed ? 'signed' : 'open', reason: null }));

const told = (row: RunbookRow) =>
  row.kind === 'fold'
    ? `${row.from}-${row.until}`
    : row.kind === 'step'
      ? `${row.index}${row.isCurrent ? '!' : ''}`
      : row.kind === 'barrier'
        ? `b${row.index}`
        : 'line';

// Two of Save, three of Prepare, four of Cross, two of Settle, two of Hand over; the Line before the sixth.
const steps = plan([
  'save',
  'save',
  'prepare',
  'prepare',
  'prepare',
  ...Array<Stage>(4).fill('cross'),
  'settle',
  'settle',
  'hand-over',
  'hand-over',
]);

const rows = (signed: number, more: Partial<Parameters<typeof runbookRows>[0]> = {}) =>
  runbookRows({
    runbook: { steps, lineIndex: 5 },
    standings: standingsOf(steps, signed),
    barriers: [],
    current: signed < steps.length ? signed : undefined,
    opened: new Set<number>(),
    ...more,
  }).map(told);

describe('the lines of a runbook', () => {
  it('are the step in work, six after it, and one for each stage before and behind', () => {
    expect(rows(3)).toEqual(['0-1', '2', '3!', '4', 'line', '5', '6', '7', '8', '9', '10', '11-12']);
    expect(rows(0)).toEqual(['0!', '1', '2', '3', '4', 'line', '5', '6', '7-8', '9-10', '11-12']);
  });

  it('fold everything once all is signed, with the Line in its place', () => {
    expect(rows(steps.length)).toEqual(['0-1', '2-4', 'line', '5-8', '9-10', '11-12']);
  });

  it('show the steps of a fold that is opened below it, with their barriers', () => {
    const barrier: BarrierReading = { stepId: 's8', gates: [] };
    const opened = rows(0, { opened: new Set([7]), barriers: [barrier] });
    expect(opened.slice(8, 12)).toEqual(['7-8', '7', 'b8', '8']);
    // Folded, a barrier is not shown: its step is not.
    expect(rows(0, { barriers: [barrier] })).not.toContain('b8');
  });

  it('have no barrier before what is signed', () => {
    const barriers: readonly BarrierReading[] = [{ stepId: 's3', gates: [] }];
    expect(rows(3, { barriers })).toContain('b3');
    expect(rows(4, { barriers })).not.toContain('b3');
  });

  it('hold every step once, in order, and never one fold on both sides of the Line', () => {
    let folds = 0;
    fc.assert(
      fc.property(
        fc.array(fc.nat(4), { minLength: 1, maxLength: 40 }),
        fc.array(fc.boolean(), { minLength: 40, maxLength: 40 }),
        fc.nat(40),
        (stages, signed, line) => {
          const names: readonly Stage[] = ['save', 'prepare', 'cross', 'settle', 'hand-over'];
          const all = plan(stages.toSorted((a, b) => a - b).map((one) => names[one] ?? 'save'));
          const standings = all.map(({ id }, index): StepStanding => ({
            stepId: id,
            state: signed[index] ? 'signed' : 'open',
            reason: null,
          }));
          const current = standings.findIndex(({ state }) => state === 'open');
          const lineIndex = line < all.length ? line : null;
          const found = runbookRows({
            runbook: { steps: all, lineIndex },
            standings,
            barriers: [],
            current: current < 0 ? undefined : current,
            opened: new Set(),
          });
          const covered = found.flatMap((row) =>
            row.kind === 'step'
              ? [row.index]
              : row.kind === 'fold'
                ? Array.from({ length: row.until - row.from + 1 }, (_one, index) => row.from + index)
                : [],
          );
          expect(covered).toEqual(all.map((_step, index) => index));
          expect(found.filter(({ kind }) => kind === 'line')).toHaveLength(lineIndex === null ? 0 : 1);
          for (const row of found) {
            if (row.kind !== 'fold') continue;
            folds += 1;
            expect(lineIndex === null || lineIndex <= row.from || lineIndex > row.until).toBe(true);
            expect(new Set(all.slice(row.from, row.until + 1).map(({ stage }) => stage)).size).toBe(1);
          }
        },
      ),
      { numRuns: 600 },
    );
    // Some three hundred: a chance run stays well above.
    expect(folds).toBeGreaterThan(50);
  });
});
