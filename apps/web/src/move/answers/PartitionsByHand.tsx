import { printCount } from '@ulvane/core/quantity';
import { checkLine, partitionLine, type HandPartition, type HandPartitions } from '@ulvane/core/runbook';
import { HandTape } from './HandTape';
import { TickBox } from './TickBox';
import type { AnswerTicks } from './useAnswerSheet';

type PartitionsByHandProps = {
  readonly hand: HandPartitions;
  /** The number of the page, when the installer has one for it. */
  readonly page: number | undefined;
  readonly ticks: AnswerTicks;
};

/** What to make and what never to format, in two frames that cannot be mistaken for each other. */
export function PartitionsByHand({ hand, page, ticks }: PartitionsByHandProps) {
  const { deleted, made, kept, unit, checks } = hand;
  const doing = [
    ...(deleted.length > 0 ? [`delete ${deleted.length}`] : []),
    ...(made.length > 0 ? [`make ${made.length}`] : []),
  ].join(', then ');
  return (
    <section className="by-hand" aria-labelledby="by-hand">
      <h2 id="by-hand">{page === undefined ? 'Partitions by hand' : `Page ${page}: partitions by hand`}</h2>
      <p className="soft">The boxes of this installer count in {unit}. Type digits only.</p>
      <HandTape {...hand} />
      {doing !== '' && (
        <div className="make-frame">
          <h3>{doing.charAt(0).toUpperCase() + doing.slice(1)}</h3>
          <Rows rows={[...deleted, ...made]} unit={unit} ticks={ticks} />
        </div>
      )}
      {kept.length > 0 && (
        <div className="never-frame">
          <h3>Never format {kept.length === 1 ? 'this one' : `these ${kept.length}`}</h3>
          <Rows rows={kept} unit={unit} ticks={ticks} />
        </div>
      )}
      <ul className="hand-checks" aria-label={`${printCount(checks.length, 'thing')} to compare`}>
        {checks.map((check) => (
          <li key={check.id} className={check.holds ? '' : 'caution'}>
            <span>
              {check.sentence}
              {check.holds ? '' : ' It does not fit.'}
            </span>
            <TickBox line={checkLine(check)} ticks={ticks} />
          </li>
        ))}
      </ul>
    </section>
  );
}

const formats: Readonly<Record<HandPartition['format'], string>> = {
  delete: 'delete',
  yes: 'yes',
  never: 'never',
};

function Rows({
  rows,
  unit,
  ticks,
}: {
  readonly rows: readonly HandPartition[];
  readonly unit: string;
  readonly ticks: AnswerTicks;
}) {
  return (
    <table>
      <colgroup>
        {['23%', '15%', '16%', '14%', '16%', undefined, '24px'].map((width, index) => (
          <col key={`${index} ${width ?? ''}`} style={{ width }} />
        ))}
      </colgroup>
      <thead>
        <tr>
          <th scope="col">Number</th>
          <th scope="col" className="number">
            Start, {unit}
          </th>
          <th scope="col" className="number">
            Size, {unit}
          </th>
          <th scope="col">File system</th>
          <th scope="col">Mount point</th>
          <th scope="col">Format</th>
          <th scope="col">
            <span className="visually-hidden">Entered</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const figure = (text: string) =>
            row.format === 'yes' ? <span className="typed">{text}</span> : text;
          return (
            <tr key={`${row.format} ${row.number}`} className={row.format}>
              <th scope="row">
                <b>{row.number}</b> {row.label}
              </th>
              <td className="number mono">{figure(row.start)}</td>
              <td className="number mono">{figure(row.size)}</td>
              <td>{row.fileSystem}</td>
              <td className="mono">{row.mountPoint ?? (row.format === 'delete' ? '' : 'none')}</td>
              <td>
                <b>{formats[row.format]}</b>
              </td>
              <td className="tick">
                <TickBox line={partitionLine(row)} ticks={ticks} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
