import { diskText, machineChanges, runningText } from '@ulvane/core/machine';
import { dayIn, printBytes, printCount, printClockIn } from '@ulvane/core/quantity';
import { diskShares, type forecast, type PlanDisk } from '@ulvane/core/runbook';
import { ArrowLeft, ArrowRight } from 'lucide-react';
import { useState, type KeyboardEvent } from 'react';
import Button from 'react-bootstrap/Button';
import { useNow } from '../../api/useNow';
import { DayStrip } from '../../drawing/DayStrip';
import { PlanFigure, type CopyRow } from '../../drawing/planFigure/PlanFigure';
import { useZone } from '../../shell/Instant';
import { useOpenMove } from '../MoveContext';
import { copiesIn, usePlanned } from './usePlanned';

type AfterStepProps = {
  /** The next step to be done: where the reading begins. */
  readonly nextId: string | undefined;
  readonly times: ReturnType<typeof forecast>;
};

/** More data sets than this are drawn together where their copies go alike. */
const maxRows = 8;

/** The whole plan as a timetable of disk and copies, and the state after any of its steps in words. */
export function AfterStep({ nextId, times }: AfterStepProps) {
  const { move } = useOpenMove();
  const planned = usePlanned();
  const zone = useZone();
  const now = useNow(15_000);
  const [at, setAt] = useState<number>();
  const [chosenDisk, setDisk] = useState<string>();
  if (!planned || planned.states.steps.length === 0)
    return (
      <section className="sheet" aria-label="After each step">
        <p className="mb-0">
          The state after each step cannot be calculated: the plan cannot be carried out as things are now.
          The notice above says why.
        </p>
      </section>
    );
  const { steps, before, possible, runbook } = planned.states;
  const next = Math.max(
    0,
    steps.findIndex(({ step }) => step.id === nextId),
  );
  const index = Math.min(at ?? next, steps.length - 1);
  const shown = steps[index];
  if (!shown) return null;
  const { after } = shown;
  const drawn = planned.disks.filter(({ changes }, place) => changes || place === 0);
  const disk = drawn.find(({ name }) => name === chosenDisk) ?? drawn[0];
  const name = (id: string) => move.destinations.find((one) => one.id === id)?.name ?? id;
  const changes = machineChanges(steps[index - 1]?.after ?? before, after, name);
  const rows = rowsOf(planned.states, move.dataSets);
  const ahead = rows

    .flatMap(({ name: set, counts }) =>
      counts.slice(index + 1).map((copies, place) => ({ set, copies, step: index + 1 + place })),
    )
    .toSorted((a, b) => a.copies - b.copies || a.step - b.step);
  const fewest = ahead[0];
  const copiesText = (data: (typeof after.data)[number]) =>
    [
      printCount(copiesIn(data), 'copy'),
      ...(data.original === 'gone' && !data.back ? ['gone from the device'] : []),
      ...(data.good.length > 0 ? [`on ${data.good.map(name).join(' and ')}`] : []),
    ].join(', ');
  const go = (to: number) => setAt(Math.max(0, Math.min(steps.length - 1, to)));
  const onKeyDown = (event: KeyboardEvent) => {
    const to = {
      ArrowLeft: index - 1,
      ArrowRight: index + 1,
      Home: 0,
      End: steps.length - 1,
      c: next,
    }[event.key];
    if (to === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    go(to);
  };
  const today = dayIn(zone, now);
  const spans = times.spans.flatMap((span) =>
    // What was signed on another day has its place in the log.
    span && (!span.done || dayIn(zone, span.until) === today) ? [span] : [],
  );
  const when = times.spans[index];
  return (
    <section className="sheet after no-print" aria-labelledby="after-step" onKeyDown={onKeyDown}>
      <div className="page-head">
        <h2 id="after-step">After step {index + 1}</h2>
        {when && (
          <span className="soft">{when.done ? 'signed' : `about ${printClockIn(zone, when.until)}`}</span>
        )}
        <span className="ms-auto d-flex gap-1">
          <Button
            size="sm"
            variant="quiet"
            aria-disabled={index === 0}
            onClick={() => go(index - 1)}
            aria-label="The step before"
          >
            <ArrowLeft size={15} aria-hidden="true" />
          </Button>
          <Button
            size="sm"
            variant="quiet"
            aria-disabled={index === steps.length - 1}
            onClick={() => go(index + 1)}
            aria-label="The next step"
          >
            <ArrowRight size={15} aria-hidden="true" />
          </Button>
        </span>
      </div>
      {drawn.length > 1 && (
        <div className="disk-tabs" role="group" aria-label="Disk that is drawn">
          {drawn.map(({ name: id, called, sectorCount, sectorSizeBytes }) => (
            <button key={id} type="button" aria-pressed={disk?.name === id} onClick={() => setDisk(id)}>
              {called} {printBytes(sectorCount * sectorSizeBytes, 'decimal')}
            </button>
          ))}
        </div>
      )}
      <PlanFigure
        disk={disk}
        steps={steps.map(({ step }) => step)}
        rows={rows}
        lineIndex={runbook.lineIndex}
        at={index + 1}
      />
      <div aria-live="polite">
        <p className="mb-1">
          <strong>{shown.step.title}</strong>
        </p>
        <dl className="after-step">
          {disk && (
            <>
              <dt>Disk, GB</dt>
              <dd>
                <Shares disk={disk} cut={index + 1} />
                <span className="d-block soft">{after.disks.map((one) => diskText(one)).join('; ')}</span>
              </dd>
            </>
          )}
          <dt>Change</dt>
          <dd>{changes.length === 0 ? 'Nothing on the device changes.' : changes.join(' ')}</dd>
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
              <dt>Fewest ahead</dt>
              <dd>
                {fewest
                  ? `${fewest.copies}, after step ${fewest.step}: ${fewest.set}`
                  : 'This is the last step.'}
              </dd>
            </>
          )}
          <dt>Then</dt>
          <dd>{runningText(after.running)}</dd>
        </dl>
        {possible > 1 && (
          <p className="small-print mb-0">
            Some facts are unknown: this is one of {printCount(possible, 'state')} that are possible, and the
            plan holds in each.
          </p>
        )}
      </div>
      {spans.length > 0 && (
        <DayStrip
          spans={spans}
          now={now}
          lineAt={runbook.lineIndex === null ? undefined : times.spans[runbook.lineIndex]?.from}
          doneAt={times.doneAt}
          zone={zone}
        />
      )}
      <details>
        <summary className="small-print">Show as a table</summary>
        <div className="table-scroll">
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Step</th>
                <th scope="col">Disk, GB</th>
                {rows.map(({ id, name: set }) => (
                  <th scope="col" key={id}>
                    {set}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {steps.map(({ step }, place) => (
                <tr key={step.id}>
                  <th scope="row">
                    {place + 1}. {step.title}
                  </th>
                  <td>{disk && <Shares disk={disk} cut={place + 1} />}</td>
                  {rows.map(({ id, counts }) => (
                    <td key={id}>{counts[place + 1]}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </details>
    </section>
  );
}

const asGigabytes = (tenths: number) => (tenths / 10).toFixed(1);

/** What is on the disk, in figures that add up; what the step changed is bold. */
function Shares({ disk, cut }: { readonly disk: PlanDisk; readonly cut: number }) {
  const { shares, totalTenths } = diskShares(disk, cut);
  return (
    <>
      {shares.map(({ label, tenths, isChanged }, place) => {
        const text = `${asGigabytes(tenths)} ${label}${place < shares.length - 1 ? ', ' : ''}`;
        return isChanged ? <strong key={`${label} ${place}`}>{text}</strong> : text;
      })}
      : {asGigabytes(totalTenths)}
    </>
  );
}

/** Copies of each data set through all steps; where there are many, those that go alike are one row. */
function rowsOf(
  { before, steps }: NonNullable<ReturnType<typeof usePlanned>>['states'],
  dataSets: readonly { readonly id: string; readonly name: string; readonly sizeBytes: number }[],
): readonly CopyRow[] {
  const machines = [before, ...steps.map(({ after }) => after)];
  const rows = dataSets.map(({ id, name, sizeBytes }) => ({
    id,
    name,
    sizeBytes,
    counts: machines.map(({ data }) => {
      const one = data.find((set) => set.id === id);
      return one ? copiesIn(one) : 0;
    }),
  }));
  const size = (bytes: number) => (bytes / 1e9).toFixed(1);
  if (rows.length <= maxRows)
    return rows.map(({ id, name, sizeBytes, counts }) => ({ id, name, counts, size: size(sizeBytes) }));
  const ways = [...new Set(rows.map(({ counts }) => counts.join()))];
  return ways.map((way): CopyRow => {
    const group = rows.filter(({ counts }) => counts.join() === way);
    const [first] = group;
    return {
      id: first?.id ?? '',
      name: group.length === 1 ? (first?.name ?? '') : printCount(group.length, 'set'),
      size: size(group.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0)),
      counts: first?.counts ?? [],
    };
  });
}
