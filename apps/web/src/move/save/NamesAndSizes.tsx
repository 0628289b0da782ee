import { api } from '@ulvane/contract';
import type { Destination } from '@ulvane/core/backup';
import { fileSystems } from '@ulvane/core/catalogue';
import { formulaCell } from '@ulvane/core/outcome';
import { printCount } from '@ulvane/core/quantity';
import Papa from 'papaparse';
import Button from 'react-bootstrap/Button';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import type { NameCheck } from './useNameCheck';

type NamesAndSizesProps = { readonly destination: Destination; readonly check: NameCheck };

/** What a destination's file system refuses of the files themselves, before anything is copied; with remedies. */
export function NamesAndSizes({ destination, check }: NamesAndSizesProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const { checked, running, failure } = check;
  const nameOf = (id: string) => move.dataSets.find((dataSet) => dataSet.id === id)?.name ?? id;
  const fileSystem = fileSystems.find(({ id }) => id === destination.fileSystem)?.name ?? '';
  return (
    <div className="mt-1">
      <Problem error={error ?? failure} onClose={forgetError} />
      {running && <p className="soft mb-0">Checking every name for {destination.name} …</p>}
      {checked?.map(({ dataSetId, fit: { faults, renames } }) => {
        const kept = move.renames.find(
          (entry) => entry.dataSetId === dataSetId && entry.destinationId === destination.id,
        );
        return (
          <div key={dataSetId} className="name-faults">
            <strong>{nameOf(dataSetId)}</strong>:{' '}
            {faults.every(({ blocks }) => !blocks) ? `${fileSystem} takes every file.` : ''}
            <ul className="mb-1">
              {faults.map(({ code, sentence, examples, blocks, count }) => (
                <li key={code}>
                  {blocks && <strong>Before copying: </strong>}
                  {sentence}
                  {examples.length > 0 && (
                    <details>
                      <summary>Which</summary>
                      <ul className="mono small-print mb-0">
                        {examples.map((path) => (
                          <li key={path}>{path}</li>
                        ))}
                        {count > examples.length && <li>and {count - examples.length} more</li>}
                      </ul>
                    </details>
                  )}
                </li>
              ))}
            </ul>
            {renames.length > 0 && may.write && (
              <Button
                size="sm"
                variant="quiet"
                className="me-2"
                disabled={busy}
                onClick={() =>
                  void change(api.keepRenames, {
                    dataSetId,
                    destinationId: destination.id,
                    renames: [...renames],
                  })
                }
              >
                {kept
                  ? 'Save this list of names instead'
                  : `Save the list of ${printCount(renames.length, 'name')}`}
              </Button>
            )}
          </div>
        );
      })}
      {move.renames
        .filter(({ destinationId }) => destinationId === destination.id)
        .map(({ dataSetId, names }) => (
          <p key={dataSetId} className="small-print mb-0">
            {nameOf(dataSetId)}: {names.length} {names.length === 1 ? 'name is another' : 'names are others'}{' '}
            there.{' '}
            <a
              download={`${move.reference}-${dataSetId}-${destination.id}-names.csv`}
              href={`data:text/csv;charset=utf-8,${encodeURIComponent(
                Papa.unparse(
                  names.map((name) => ({ ...name })),
                  { escapeFormulae: formulaCell },
                ),
              )}`}
            >
              List of names as CSV
            </a>{' '}
            for renaming there, and back after the restore.
          </p>
        ))}
    </div>
  );
}
