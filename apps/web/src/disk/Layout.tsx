import {
  calledBy,
  edgeOf,
  gibibyteBytes,
  mebibyteBytes,
  parseBytes,
  drawPlan,
  printExactBytes,
  type LayoutPlan,
  type LayoutPlanGoal,
  type Outcome,
  type PartitionTable,
  type Release,
} from '@ulvane/core';
import { useMemo, useState, type ReactNode } from 'react';
import Form from 'react-bootstrap/Form';
import { Tape } from '../drawing/Tape';
import { Field } from '../shell/Field';
import { useAnswer } from '../workers/useAnswer';
import { firstWish, goalOf, goalTitles, type GoalKind, type GoalWish } from './goals';
import { Operations } from './Operations';
import { ProblemList } from './ProblemList';

type LayoutProps = {
  readonly name: string;
  readonly table: PartitionTable;
  readonly release: Release | undefined;
  /** Plans a goal; past the guards of a move, where there is one. */
  readonly plan: (goal: LayoutPlanGoal) => Promise<Outcome<LayoutPlan>>;
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

/** The layout of a disk: a goal, the plan with least risk, and its edge to be drawn. */
export function Layout({ name, table, release, plan, start, children }: LayoutProps) {
  const [wish, setWish] = useState<GoalWish>(() => (start ? wishOf(start, table) : firstWish(table)));
  const [text, setText] = useState(() => printExactBytes(wish.sizeBytes, 'binary'));
  const goal = useMemo(() => goalOf(wish, table, release), [wish, table, release]);
  const question = useMemo(() => ({ goal, plan }), [goal, plan]);
  const outcome = useAnswer(question, async () => (goal ? plan(goal) : undefined));
  // While the next plan is under way the last one stays, so that an edge can be drawn on.
  const [last, setLast] = useState<{ readonly goal: LayoutPlanGoal; readonly value: LayoutPlan }>();
  if (outcome?.ok && goal && last?.value !== outcome.value) setLast({ goal, value: outcome.value });
  const shown =
    outcome === undefined
      ? last?.goal.kind === goal?.kind
        ? last?.value
        : undefined
      : outcome.ok
        ? outcome.value
        : undefined;
  const sized = wish.kind === 'room' || wish.kind === 'split' || wish.kind === 'installer-partition';
  const size = parseBytes(text, 'binary');
  const setSize = (sizeBytes: number) => {
    setWish({ ...wish, sizeBytes });
    // Drawn to whole MiB: a number that can be typed again, and no long fraction.
    setText(
      sizeBytes % gibibyteBytes === 0
        ? printExactBytes(sizeBytes, 'binary')
        : `${sizeBytes / mebibyteBytes} MiB`,
    );
  };
  return (
    <section className="sheet" aria-labelledby="layout-title">
      <h2 id="layout-title">Plan the layout</h2>
      <Field label="What for">
        {(ids) => (
          <Form.Select
            {...ids}
            value={wish.kind}
            onChange={(event) => {
              const kind = kinds.find((known) => known === event.target.value);
              if (kind) setWish({ ...wish, kind });
            }}
          >
            {kinds.map((kind) => (
              <option key={kind} value={kind}>
                {goalTitles[kind]}
              </option>
            ))}
          </Form.Select>
        )}
      </Field>
      {sized && (
        <Field
          label={wish.kind === 'split' ? 'The system keeps' : 'Room wanted'}
          hint="In GB or GiB"
          error={size.ok ? undefined : size.problems[0]?.sentence}
        >
          {(ids) => (
            <Form.Control
              {...ids}
              value={text}
              onChange={(event) => {
                setText(event.target.value);
                const typed = parseBytes(event.target.value, 'binary');
                if (typed.ok && typed.value > 0) setWish({ ...wish, sizeBytes: typed.value });
              }}
            />
          )}
        </Field>
      )}
      {(wish.kind === 'split' || wish.kind === 'grow-back') && (
        <PickPartition
          label={wish.kind === 'split' ? 'Which one carries the system' : 'Which one grows'}
          table={table}
          value={wish.partition}
          onPick={(partition) => setWish({ ...wish, partition })}
        />
      )}
      {wish.kind === 'grow-back' && (
        <fieldset className="mb-2">
          <legend className="form-label">Which ones go</legend>
          {table.partitions
            .filter(({ number }) => number !== wish.partition)
            .map((partition) => (
              <Form.Check
                key={partition.number}
                id={`remove-${partition.number}`}
                label={calledBy(partition)}
                checked={wish.remove.includes(partition.number)}
                onChange={({ target }) =>
                  setWish({
                    ...wish,
                    remove: target.checked
                      ? [...wish.remove, partition.number]
                      : wish.remove.filter((number) => number !== partition.number),
                  })
                }
              />
            ))}
        </fieldset>
      )}
      {outcome && !outcome.ok && <ProblemList problems={outcome.problems} />}
      {shown && <Shown name={name} plan={shown} onSize={setSize} />}
      {outcome?.ok && goal && children?.(goal, outcome.value)}
    </section>
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
    <Field label={label}>
      {(ids) => (
        <Form.Select {...ids} value={value ?? ''} onChange={(event) => onPick(Number(event.target.value))}>
          {table.partitions.map((partition) => (
            <option key={partition.number} value={partition.number}>
              {calledBy(partition)}
            </option>
          ))}
        </Form.Select>
      )}
    </Field>
  );
}

function Shown({
  name,
  plan,
  onSize,
}: {
  readonly name: string;
  readonly plan: LayoutPlan;
  readonly onSize: (sizeBytes: number) => void;
}) {
  const segments = useMemo(() => drawPlan(plan), [plan]);
  const edge = useMemo(() => edgeOf(plan), [plan]);
  return (
    <>
      <Tape
        name={name}
        sectorSizeBytes={plan.before.sectorSizeBytes}
        sectorCount={plan.before.sectorCount}
        before={segments.before}
        after={segments.after}
        edge={
          edge && {
            at: edge,
            onMove: (lba) => {
              const goal = edge.goalAt(lba);
              onSize(goal.kind === 'split' ? goal.systemBytes : 'sizeBytes' in goal ? goal.sizeBytes : 0);
            },
          }
        }
      />
      <p className="mt-2 mb-1" role="status">
        {plan.sentence}
      </p>
      <Operations operations={plan.operations} />
    </>
  );
}
