import {
  describedConversion,
  diskFlow,
  segmentsOfConversion,
  type ConversionOutcome,
  type ConversionPlan,
  type Obstacle,
  type PartitionTable,
  type Resolution,
  inStretches,
} from '@ulvane/core/disk';
import { printBytes } from '@ulvane/core/quantity';
import { useMemo, useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { FlowFigure } from '../drawing/flow/FlowFigure';
import { SegmentTable } from '../drawing/SegmentTable';
import { useAnswer } from '../workers/useAnswer';
import { resolutionText } from './resolutionText';

type ConversionProps = {
  readonly name: string;
  readonly table: PartitionTable;
  /** Plans with what was chosen; from the open image, or from a survey. */
  readonly ask: (target: 'gpt' | 'mbr', resolutions: readonly Resolution[]) => Promise<ConversionOutcome>;
  /** What was chosen earlier. */
  readonly start?: readonly Resolution[];
  /** What can be done with the plan. */
  readonly children: (plan: ConversionPlan, resolutions: readonly Resolution[]) => ReactNode;
};

type Choice = { readonly chosen: Resolution; readonly action: string };

const names = { gpt: 'GPT', mbr: 'MBR' } as const;

/** The change of the scheme: every obstacle with what can be done about it, then the sectors to write. */
export function Conversion({ name, table, ask, start = [], children }: ConversionProps) {
  const target = table.scheme === 'gpt' ? 'mbr' : 'gpt';
  const [resolutions, setResolutions] = useState<readonly Choice[]>(() =>
    start.map((chosen) => ({ chosen, action: resolutionText(chosen) })),
  );
  const question = useMemo(() => ({ ask, target, resolutions }) as const, [ask, target, resolutions]);
  const outcome = useAnswer<ConversionOutcome>(question, () =>
    ask(
      target,
      resolutions.map(({ chosen }) => chosen),
    ),
  );
  return (
    <section className="sheet" aria-labelledby="conversion-title">
      <h2 id="conversion-title">Convert to {names[target]}, without loss</h2>
      {resolutions.length > 0 && (
        <ul className="chosen" aria-label="Chosen remedies">
          {resolutions.map(({ chosen, action }) => (
            <li key={JSON.stringify(chosen)}>
              {action}{' '}
              <button
                type="button"
                className="btn-plain small-print"
                aria-label={`Withdraw: ${action}`}
                onClick={() => setResolutions(resolutions.filter((one) => one.chosen !== chosen))}
              >
                Withdraw
              </button>
            </li>
          ))}
        </ul>
      )}
      {!outcome && <p role="status">Looking …</p>}
      {outcome && !outcome.ok && (
        <Obstacles
          obstacles={outcome.problems}
          onChoose={(chosen, action) => setResolutions([...resolutions, { chosen, action }])}
        />
      )}
      {outcome?.ok && (
        <Planned name={name} outcome={outcome} resolutions={resolutions.map(({ chosen }) => chosen)} />
      )}
      {outcome?.ok &&
        children(
          outcome.value,
          resolutions.map(({ chosen }) => chosen),
        )}
    </section>
  );
}

function Obstacles({
  obstacles,
  onChoose,
}: {
  readonly obstacles: readonly Obstacle[];
  readonly onChoose: (resolution: Resolution, action: string) => void;
}) {
  return (
    <>
      <p className="mb-1">{obstacles.length === 1 ? '1 obstacle:' : `${obstacles.length} obstacles:`}</p>
      <ol className="obstacles" aria-label="Obstacles">
        {obstacles.map(({ code, path, sentence, remedies, otherwise }) => (
          <li key={`${code} ${path}`}>
            {sentence}
            {otherwise !== undefined && <span className="d-block soft">{otherwise}</span>}
            {remedies.map(({ resolution, action }) => (
              <span key={action} className="d-block mt-1">
                <Button size="sm" variant="quiet" onClick={() => onChoose(resolution, action)}>
                  {action}
                </Button>
              </span>
            ))}
          </li>
        ))}
      </ol>
    </>
  );
}

type Done = Extract<ConversionOutcome, { readonly ok: true }>;

type PlannedProps = {
  readonly name: string;
  readonly outcome: Done;
  readonly resolutions: readonly Resolution[];
};

function Planned({ name, outcome, resolutions }: PlannedProps) {
  const { before, after, operations, notes, writes } = outcome.value;
  const segments = useMemo(() => segmentsOfConversion(before, after), [before, after]);
  const flow = useMemo(() => {
    const described = describedConversion(outcome.value, resolutions);
    return diskFlow({ before, after, operations: described });
    // The choices are made anew at every drawing; the plan is what they led to.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [outcome.value]);
  const sectors = writes.reduce((sum, { bytes }) => sum + bytes.length, 0) / before.sectorSizeBytes;
  const stretches = inStretches(writes, before.sectorSizeBytes);
  const [first, ...others] = notes;
  return (
    <>
      {first !== undefined && (
        <p className="caution mb-1">
          <strong>{first}</strong>
        </p>
      )}
      <FlowFigure name={name} flow={flow} />
      <SegmentTable
        sectorSizeBytes={before.sectorSizeBytes}
        before={segments.before}
        after={segments.after}
      />
      <ul className="mb-1 mt-2">
        {operations.map((operation) => (
          <li key={operation}>{operation}</li>
        ))}
      </ul>
      {others.map((note) => (
        <p key={note} className="caution mb-1">
          {note}
        </p>
      ))}
      <details>
        <summary>
          {sectors} sectors are written in {stretches.length} places, in this order,{' '}
          {printBytes(sectors * before.sectorSizeBytes, 'binary')}; contents stay where they are, to the byte
        </summary>
        <div className="table-scroll">
          <table className="table">
            <thead>
              <tr>
                <th scope="col" className="number">
                  Sector
                </th>
                <th scope="col" className="number">
                  Sectors
                </th>
                <th scope="col">What</th>
              </tr>
            </thead>
            <tbody>
              {stretches.map(({ startLba, sectorCount, about }) => (
                <tr key={startLba}>
                  <td className="number mono">{startLba}</td>
                  <td className="number">{sectorCount}</td>
                  <td>{about}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </details>
    </>
  );
}
