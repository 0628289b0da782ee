import { diskText, machineChanges, runningText } from '@ulvane/core/machine';
import { printCount } from '@ulvane/core/quantity';
import { runbookInput } from '@ulvane/core/record';
import { planStates } from '@ulvane/core/runbook';
import { ArrowLeft, ArrowRight } from 'lucide-react';
import { useMemo, useState, type KeyboardEvent } from 'react';
import Button from 'react-bootstrap/Button';
import { useOpenMove } from '../MoveContext';

type AfterStepProps = {
  /** The next step to be done: where the reading begins. */
  readonly nextId: string | undefined;
};

/** The machine after any step of the plan: what that step changes, disks, copies, and where copies are fewest ahead. */
export function AfterStep({ nextId }: AfterStepProps) {
  const { move, house } = useOpenMove();
  const planned = useMemo(() => {
    const input = runbookInput(move, house);
    const states = input && planStates(input);
    return states?.ok ? states.value : undefined;
  }, [move, house]);
  const [at, setAt] = useState<number>();
  if (!planned || planned.steps.length === 0) return null;
  const { steps, before } = planned;
  const next = Math.max(
    0,
    steps.findIndex(({ step }) => step.id === nextId),
  );
  const index = Math.min(at ?? next, steps.length - 1);
  const shown = steps[index];
  if (!shown) return null;
  const { after } = shown;
  const name = (id: string) => move.destinations.find((one) => one.id === id)?.name ?? id;
  const changes = machineChanges(steps[index - 1]?.after ?? before, after, name);
  const copiesIn = ({ original, good, back }: (typeof after.data)[number]) =>
    good.length + (original === 'gone' ? 0 : 1) + (back && original === 'gone' ? 1 : 0);
  const copiesText = (data: (typeof after.data)[number]) =>
    [
      `${copiesIn(data)}`,
      ...(data.original === 'gone' && !data.back ? ['gone from the device'] : []),
      ...(data.good.length > 0 ? [`on ${data.good.map(name).join(' and ')}`] : []),
    ].join(', ');
  const fewest = steps
    .slice(index)
    .flatMap(({ after: later }, ahead) =>
      later.data.map((data) => ({ step: index + ahead + 1, copies: copiesIn(data), name: data.name })),
    )
    .toSorted((a, b) => a.copies - b.copies || a.step - b.step)[0];
  const go = (to: number) => setAt(Math.max(0, Math.min(steps.length - 1, to)));
  const onKeyDown = (event: KeyboardEvent) => {
    const to = { ArrowLeft: index - 1, ArrowRight: index + 1, Home: 0, End: steps.length - 1 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    go(to);
  };
  return (
    <section className="sheet no-print" aria-labelledby="after-step" onKeyDown={onKeyDown}>
      <div className="page-head">
        <h2 id="after-step">After step {index + 1}</h2>
        <span className="ms-auto d-flex gap-1">
          <Button
            size="sm"
            variant="quiet"
            disabled={index === 0}
            onClick={() => go(index - 1)}
            aria-label="The step before"
          >
            <ArrowLeft size={15} aria-hidden="true" />
          </Button>
          <Button
            size="sm"
            variant="quiet"
            disabled={index === steps.length - 1}
            onClick={() => go(index + 1)}
            aria-label="The next step"
          >
            <ArrowRight size={15} aria-hidden="true" />
          </Button>
        </span>
      </div>
      <div aria-live="polite">
        <p className="mb-1">
          <strong>{shown.step.title}</strong>
        </p>
        <dl className="after-step">
          <dt>Change</dt>
          <dd>{changes.length === 0 ? 'Nothing on the device changes.' : changes.join(' ')}</dd>
          <dt>{after.disks.length === 1 ? 'Disk' : 'Disks'}</dt>
          <dd>
            {after.disks.map((disk) => (
              <span key={disk.id} className="d-block">
                {diskText(disk)}
              </span>
            ))}
          </dd>
          {after.data.length > 0 && (
            <>
              <dt>Copies</dt>
              <dd>
                {[...new Set(after.data.map(copiesText))].map((text) => (
                  <span key={text} className="d-block">
                    <strong>{text}:</strong>{' '}
                    {after.data
                      .filter((data) => copiesText(data) === text)
                      .map((data) => data.name)
                      .join(', ')}
                  </span>
                ))}
              </dd>
            </>
          )}
          <dt>Then</dt>
          <dd>
            {runningText(after.running)}
            {fewest && ` Fewest copies ahead: ${fewest.copies} of ${fewest.name}, after step ${fewest.step}.`}
          </dd>
        </dl>
        {planned.possible > 1 && (
          <p className="small-print mb-0">
            Some facts are unknown: this is one of {printCount(planned.possible, 'state')} that are possible,
            and the plan holds in each.
          </p>
        )}
      </div>
    </section>
  );
}
