import type { GptCopy, TableFix, PartitionTable } from '@ulvane/core/disk';
import type { Outcome } from '@ulvane/core/outcome';
import { useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useAnswer } from '../workers/useAnswer';
import { ConversionResult } from './ConversionResult';
import { diskWorker } from './diskWorker';
import { ProblemList } from './ProblemList';

/** Findings that a copy written anew does away with. */
const fixed: ReadonlySet<string> = new Set([
  'gpt-primary-bad',
  'gpt-backup-bad',
  'gpt-copies-differ',
  'gpt-backup-elsewhere',
  'protective-missing',
]);

type FixTableProps = {
  readonly name: string;
  readonly serial: string | null;
  readonly table: PartitionTable;
};

/** A missing or damaged copy of the table, written anew from the one that is chosen. */
export function FixTable({ name, serial, table }: FixTableProps) {
  const [from, setFrom] = useState<GptCopy>();
  const question = useMemo(() => ({ from, table }), [from, table]);
  const outcome = useAnswer<Outcome<TableFix> | undefined>(question, async () =>
    from ? await diskWorker().fix(from) : undefined,
  );
  if (!table.findings.some(({ code }) => fixed.has(code))) return null;
  const differ = table.findings.some(({ code }) => code === 'gpt-copies-differ');
  return (
    <section className="sheet" aria-labelledby="fix-table-title">
      <h2 id="fix-table-title">Rewrite a copy of the table</h2>
      <p className="mb-2">
        {differ
          ? 'Both copies are whole and differ. Choose the one that the systems on the disk show: the other is rewritten from it.'
          : 'GPT stores its table twice. The copy that is missing or damaged is rewritten from the whole one; no partition is touched.'}
      </p>
      <div className="d-flex flex-wrap gap-2">
        {(['primary', 'backup'] as const).map((copy) => (
          <Button
            key={copy}
            size="sm"
            variant="quiet"
            aria-pressed={from === copy}
            onClick={() => setFrom(copy)}
          >
            The {copy} counts: write the {copy === 'primary' ? 'backup' : 'primary'} anew
          </Button>
        ))}
      </div>
      {outcome && !outcome.ok && <ProblemList problems={outcome.problems} />}
      {outcome?.ok && (
        <>
          <p className="mt-2 mb-1" role="status">
            {outcome.value.sentence}
          </p>
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Nr</th>
                <th scope="col">Name</th>
                <th scope="col" className="number">
                  First and last sector
                </th>
              </tr>
            </thead>
            <tbody>
              {outcome.value.after.partitions.map((partition) => (
                <tr key={partition.number}>
                  <td>{partition.number}</td>
                  <td>{partition.label ?? partition.name ?? ''}</td>
                  <td className="number mono">
                    {partition.startLba} – {partition.startLba + partition.sectorCount - 1}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <ConversionResult name={name} serial={serial} of={outcome.value} result="fixed" />
        </>
      )}
    </section>
  );
}
