import { api } from '@ulvane/contract';
import { fileSystems, formulaCell, listOf, printCount, type Destination, type FileFit } from '@ulvane/core';
import Papa from 'papaparse';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { withFilesWork } from '../../files/filesWork';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { listedOf } from './listed';

type Checked = readonly { readonly dataSetId: string; readonly fit: FileFit }[];

/** What a destination's file system refuses of the files themselves, before anything is copied; with remedies. */
export function NamesAndSizes({ destination }: { readonly destination: Destination }) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const [checked, setChecked] = useState<Checked>();
  const [running, setRunning] = useState(false);
  const [failure, setFailure] = useState<unknown>();
  const sets = move.dataSets.filter(
    (dataSet) => destination.takes.includes(dataSet.id) && listOf(move.fileLists, dataSet, 'before'),
  );
  if (sets.length === 0) return null;
  const nameOf = (id: string) => move.dataSets.find((dataSet) => dataSet.id === id)?.name ?? id;
  const fileSystem = fileSystems.find(({ id }) => id === destination.fileSystem)?.name ?? '';
  const check = async () => {
    setRunning(true);
    setFailure(undefined);
    try {
      setChecked(
        await withFilesWork((remote) =>
          remote.check(
            sets.map((dataSet) => listedOf(move, dataSet, 1)),
            destination.fileSystem,
          ),
        ),
      );
    } catch (problem) {
      setFailure(problem);
    } finally {
      setRunning(false);
    }
  };
  return (
    <div className="mt-1">
      <Problem error={error ?? failure} onClose={forgetError} />
      <button type="button" className="btn-plain no-print" disabled={running} onClick={() => void check()}>
        {running ? 'Checking every name …' : `Check names and sizes for ${destination.name}`}
      </button>
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
                  ? 'Keep this list of names instead'
                  : `Keep the list of ${printCount(renames.length, 'name')}`}
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
