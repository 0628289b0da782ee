import { Instant } from '../../shell/Instant';
import { listOf, type DataSet } from '@ulvane/core/backup';
import { noiseRules } from '@ulvane/core/manifest';
import { accountFor, differenceCount, reconciledSentence, isClosed } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { api } from '@ulvane/contract';
import { addressOf } from '../../api/call';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { FileListDialog } from '../../files/FileListDialog';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { Differences } from './Differences';

/** Data sets of which there is a list: compared file by file with what came back, every difference said why. */
export function Reconciling() {
  const { view, move } = useOpenMove();
  const may = useMay();
  const { change, error, busy, forgetError } = useChange(view);
  const [reading, setReading] = useState<DataSet>();
  const open = may.write && !isClosed(move);
  const listed = move.dataSets.filter((dataSet) => listOf(move.fileLists, dataSet, 'before'));
  if (listed.length === 0) return null;
  const accounting = accountFor(move);
  return (
    <section className="sheet">
      <h2>Compared file by file</h2>
      <Problem error={error} onClose={forgetError} />
      {listed.map((dataSet) => {
        const found = move.reconciled.find(({ dataSetId }) => dataSetId === dataSet.id);
        const after = listOf(move.fileLists, dataSet, 'after');
        const account = accounting.find(({ dataSetId }) => dataSetId === dataSet.id);
        const current = account?.by === 'comparison';
        return (
          <div key={dataSet.id} className="reconciled">
            <div className="page-head">
              <h3>{dataSet.name}</h3>
              <strong>
                {account?.state === 'equal'
                  ? '✓ all back'
                  : account?.state === 'explained'
                    ? '✓ every difference explained'
                    : 'open'}
              </strong>
              {open && (
                <span className="ms-auto d-flex gap-2 no-print">
                  {after && !current && (
                    <Button
                      size="sm"
                      variant="quiet"
                      disabled={busy}
                      onClick={() => void change(api.reconcile, { dataSetId: dataSet.id })}
                    >
                      Compare
                    </Button>
                  )}
                  <Button size="sm" variant={after ? 'quiet' : 'primary'} onClick={() => setReading(dataSet)}>
                    {after ? `Read ${dataSet.name} again` : `Read what came back of ${dataSet.name}`}
                  </Button>
                </span>
              )}
            </div>
            {found && current ? (
              <>
                <p className="mb-1">
                  {reconciledSentence(found)}. {found.by}, <Instant at={found.at} />.
                </p>
                {differenceCount(found) > 0 && (
                  <>
                    <Differences found={found} open={open} />
                    <a
                      className="small-print no-print"
                      href={addressOf(api.differencesCsv, {
                        params: { reference: move.reference, id: found.id },
                      })}
                      download
                    >
                      Every difference as CSV
                    </a>
                  </>
                )}
              </>
            ) : (
              <p className="soft mb-1">{account?.openBecause}</p>
            )}
          </div>
        );
      })}
      <details className="no-print">
        <summary className="small-print">What counts as made by the system itself</summary>
        <ul className="small-print mb-0">
          {noiseRules.map(({ pattern, sentence }) => (
            <li key={pattern}>
              <span className="mono">{pattern}</span> {sentence}
            </li>
          ))}
          <li>and what the catalogue says of the families before and after.</li>
        </ul>
      </details>
      {reading && (
        <FileListDialog view={view} dataSet={reading} role="after" onClose={() => setReading(undefined)} />
      )}
    </section>
  );
}
