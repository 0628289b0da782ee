import type { Release } from '@ulvane/core/catalogue';
import {
  calledBy,
  diskFlow,
  segmentsOfPlan,
  type LayoutPlan,
  type LayoutPlanGoal,
  type PartitionTable,
  type SizeRange,
} from '@ulvane/core/disk';
import type { Outcome } from '@ulvane/core/outcome';
import { printBothUnits } from '@ulvane/core/quantity';
import { useMemo, useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { FlowFigure } from '../drawing/flow/FlowFigure';
import { SegmentTable } from '../drawing/SegmentTable';
import { useAnswer } from '../workers/useAnswer';
import {
  firstWish,
  goalOf,
  goalTitles,
  isSized,
  suggestedBytes,
  type GoalKind,
  type GoalWish,
} from './goals';
import { Operations } from './Operations';
import { ProblemList } from './ProblemList';
import { SizeFields } from './SizeFields';

/** Plans in a worker, past the guards of a move where there is one. */
export type LayoutPlanner = {
  readonly plan: (goal: LayoutPlanGoal) => Promise<Outcome<LayoutPlan>>;
  readonly range: (kind: GoalKind, partition: number | null) => Promise<Outcome<SizeRange>>;
};

type LayoutProps = {
  readonly name: string;
  readonly table: PartitionTable;
  readonly release: Release | undefined;
  readonly planner: LayoutPlanner;
  readonly start?: LayoutPlanGoal | undefined;
  /** What can be done with the plan. */
  readonly children?: (goal: LayoutPlanGoal, plan: LayoutPlan) => ReactNode;
};

const kinds = Object.keys(goalTitles).filter((kind): kind is GoalKind => kind in goalTitles);

function wishOf(goal: LayoutPlanGoal, table: PartitionTable): GoalWish {
  const first = firstWish(table);
  return {
    kind: goal.kind,
    sizeBytes:
      goal.kind === 'split' ? goal.systemBytes : 'sizeBytes' in goal ? goal.sizeBytes : first.sizeBytes,
    partition: 'partition' in goal ? (goal.partition ?? first.partition) : first.partition,
    remove: goal.kind === 'grow-back' ? goal.remove : [],
  };
}

/** The layout of a disk: a goal, the sizes that it can have, and the plan with least risk as a flow. */
export function Layout({ name, table, release, planner, start, children }: LayoutProps) {
  const [wish, setWish] = useState<GoalWish>(() => (start ? wishOf(start, table) : firstWish(table)));
  const sized = isSized(wish.kind);
  const { kind, partition } = wish;
  const rangeQuestion = useMemo(() => ({ planner, kind, partition }), [planner, kind, partition]);
  const ranged = useAnswer(rangeQuestion, async () =>
    isSized(kind) ? planner.range(kind, partition) : undefined,
  );
  const range = ranged?.ok ? ranged.value : undefined;
  // Until somebody asks for a size, one is suggested that fits the disk.
  const sizeBytes = wish.sizeBytes ?? (range && suggestedBytes(wish.kind, range));
  const goal = useMemo(() => goalOf(wish, sizeBytes, table, release), [wish, sizeBytes, table, release]);
  const question = useMemo(() => ({ goal, planner }), [goal, planner]);
  const outcome = useAnswer(question, async () => (goal ? planner.plan(goal) : undefined));
  // While the next plan is under way the last one stays.
  const [last, setLast] = useState<LayoutPlan>();
  if (outcome?.ok && last !== outcome.value) setLast(outcome.value);
  const shown = outcome?.ok
    ? outcome.value
    : outcome === undefined && last?.before === table
      ? last
      : undefined;
  const asItIs = useMemo(() => diskFlow({ before: table, after: table, operations: [] }), [table]);
  return (
    <section className="sheet" aria-labelledby="layout-title">
      <div className="flow-goal">
        <h2 id="layout-title">
          Disk <span className="mono">{name}</span>{' '}
          <span>top to bottom: first to last byte; left to right: operation by operation</span>
        </h2>
        <Form.Select
          aria-label="What for"
          size="sm"
          value={wish.kind}
          onChange={(event) => {
            const next = kinds.find((known) => known === event.target.value);
            if (next) setWish({ ...wish, kind: next, sizeBytes: undefined });
          }}
        >
          {kinds.map((one) => (
            <option key={one} value={one}>
              {goalTitles[one]}
            </option>
          ))}
        </Form.Select>
        {(wish.kind === 'split' || wish.kind === 'grow-back') && (
          <PickPartition
            label={wish.kind === 'split' ? 'Which one carries the system' : 'Which one grows'}
            table={table}
            value={wish.partition}
            onPick={(number) => setWish({ ...wish, partition: number, sizeBytes: undefined })}
          />
        )}
        {sized && (
          <SizeFields
            label={wish.kind === 'split' ? 'The system keeps' : 'Room wanted'}
            sizeBytes={sizeBytes}
            range={range}
            onSize={(size) => setWish({ ...wish, sizeBytes: size })}
          />
        )}
      </div>
      {wish.kind === 'grow-back' && (
        <fieldset className="mb-2">
          <legend className="form-label">Which ones go</legend>
          {table.partitions
            .filter(({ number }) => number !== wish.partition)
            .map((one) => (
              <Form.Check
                key={one.number}
                id={`remove-${one.number}`}
                label={calledBy(one)}
                checked={wish.remove.includes(one.number)}
                onChange={({ target }) =>
                  setWish({
                    ...wish,
                    remove: target.checked
                      ? [...wish.remove, one.number]
                      : wish.remove.filter((number) => number !== one.number),
                  })
                }
              />
            ))}
        </fieldset>
      )}
      {goal && !outcome && !shown && <p role="status">Looking …</p>}
      {outcome && !outcome.ok && (
        <NotPossible
          problems={outcome.problems}
          sizeBytes={sized ? sizeBytes : undefined}
          range={range}
          onSize={(size) => setWish({ ...wish, sizeBytes: size })}
        />
      )}
      {!shown && <FlowFigure name={name} flow={asItIs} empty="No plan yet: the disk as it is now." />}
      {shown && (
        <Shown name={name} plan={shown} stale={!outcome?.ok}>
          {outcome?.ok && goal && children?.(goal, outcome.value)}
        </Shown>
      )}
    </section>
  );
}

type NotPossibleProps = {
  readonly problems: Parameters<typeof ProblemList>[0]['problems'];
  readonly sizeBytes: number | undefined;
  readonly range: SizeRange | undefined;
  readonly onSize: (sizeBytes: number) => void;
};

/** Why there is no plan, and the nearest size for which there is one. */
function NotPossible({ problems, sizeBytes, range, onSize }: NotPossibleProps) {
  const nearest =
    sizeBytes === undefined || !range
      ? undefined
      : sizeBytes > range.maxBytes
        ? { bytes: range.maxBytes, because: range.maxBecause }
        : sizeBytes < range.minBytes
          ? { bytes: range.minBytes, because: range.minBecause }
          : undefined;
  return (
    <>
      <ProblemList problems={problems} />
      {nearest && nearest.bytes > 0 && (
        <p className="mt-2 mb-2">
          {nearest.because}{' '}
          <Button size="sm" variant="quiet" onClick={() => onSize(nearest.bytes)}>
            Take {printBothUnits(nearest.bytes)}
          </Button>
        </p>
      )}
    </>
  );
}

function PickPartition({
  label,
  table,
  value,
  onPick,
}: {
  readonly label: string;
  readonly table: PartitionTable;
  readonly value: number | null;
  readonly onPick: (partition: number) => void;
}) {
  return (
    <Form.Select
      aria-label={label}
      size="sm"
      value={value ?? ''}
      onChange={(event) => onPick(Number(event.target.value))}
    >
      {table.partitions.map((partition) => (
        <option key={partition.number} value={partition.number}>
          {calledBy(partition)}
        </option>
      ))}
    </Form.Select>
  );
}

type ShownProps = {
  readonly name: string;
  readonly plan: LayoutPlan;
  readonly stale: boolean;
  readonly children: ReactNode;
};

function Shown({ name, plan, stale, children }: ShownProps) {
  const flow = useMemo(() => diskFlow(plan), [plan]);
  const segments = useMemo(() => segmentsOfPlan(plan), [plan]);
  return (
    <>
      {plan.first.map((sentence) => (
        <p key={sentence} className="caution mb-1">
          {sentence}
        </p>
      ))}
      <p className="mb-1" role="status">
        {plan.sentence}
      </p>
      <FlowFigure name={name} flow={flow} stale={stale}>
        {children}
      </FlowFigure>
      <SegmentTable
        sectorSizeBytes={plan.before.sectorSizeBytes}
        before={segments.before}
        after={segments.after}
      >
        <Operations operations={plan.operations} />
      </SegmentTable>
    </>
  );
}
