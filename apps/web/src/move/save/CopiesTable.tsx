import { listOf, type CopiesOfDataSet, type DataSet } from '@ulvane/core/backup';
import { printBothUnits, printCount } from '@ulvane/core/quantity';
import { isClosed } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useMay } from '../../api/useSession';
import { FileListDialog } from '../../files/FileListDialog';
import { FileListView } from '../../files/FileListView';
import { useOpenMove } from '../MoveContext';
import { CopyCell } from './CopyCell';

type CopiesTableProps = {
  readonly status: readonly CopiesOfDataSet[];
  readonly onEdit: ((dataSet: DataSet) => void) | undefined;
  readonly onRemove: ((id: string) => void) | undefined;
  readonly onJoin: ((wholeId: string) => void) | undefined;
};

const places = {
  'system-partition': 'system partition',
  'data-partition': 'data partition',
  'other-disk': 'another disk',
} as const;

/** Data sets down, destinations across: what goes where, and which copies are verified by whom. */
export function CopiesTable({ status, onEdit, onRemove, onJoin }: CopiesTableProps) {
  const { move } = useOpenMove();
  const may = useMay();
  const { dataSets, destinations } = move;
  const open = may.write && !isClosed(move);
  return (
    <div className="table-scroll">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">Data set</th>
            <th scope="col" className="number">
              Bytes
            </th>
            <th scope="col">Is on</th>
            {destinations.map(({ id, name }) => (
              <th scope="col" key={id}>
                {name}
              </th>
            ))}
            <th scope="col">Copies that count</th>
            {onEdit && (
              <th scope="col">
                <span className="visually-hidden">Change</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {dataSets.map((dataSet) => {
            const line = status.find(({ dataSetId }) => dataSetId === dataSet.id);
            const { part } = dataSet;
            return (
              <tr key={dataSet.id}>
                <th scope="row">
                  {dataSet.name}
                  {dataSet.path !== '' && <div className="small-print mono">{dataSet.path}</div>}
                  {part && (
                    <div className="small-print mono">
                      {part.places.slice(0, 3).join(', ')}
                      {part.places.length > 3 && ` and ${part.places.length - 3} more`}
                    </div>
                  )}
                  <ListOfFiles dataSet={dataSet} open={open} />
                </th>
                <td className="number">
                  {printBothUnits(dataSet.sizeBytes)}
                  <div className="small-print">{printCount(dataSet.fileCount, 'file')}</div>
                  {dataSet.typed && (
                    <div className="small-print unlike">
                      measured; before that typed as {printBothUnits(dataSet.typed.sizeBytes)},{' '}
                      {printCount(dataSet.typed.fileCount, 'file')}
                    </div>
                  )}
                </td>
                <td>
                  {places[dataSet.place]}
                  <div className="small-print">
                    {line?.risk === 'at-risk'
                      ? 'erased by this route'
                      : 'kept by this route; backed up as well'}
                  </div>
                </td>
                {destinations.map((destination) => (
                  <CopyCell
                    key={destination.id}
                    dataSet={dataSet}
                    destination={destination}
                    counted={line?.copies.find(({ destinationId }) => destinationId === destination.id)}
                    open={open}
                  />
                ))}
                <td>
                  {line && (
                    <strong>
                      {line.verified} of {line.needed}
                    </strong>
                  )}
                  {line && line.planned < line.needed && (
                    <div className="small-print">planned: {line.planned}</div>
                  )}
                  {line?.lacksComparison === true && line.verified >= line.needed && (
                    <div className="small-print">none compared in full</div>
                  )}
                </td>
                {onEdit && (
                  <td className="number">
                    <Button
                      variant="plain"
                      className="btn-plain"
                      onClick={() => onEdit(dataSet)}
                      aria-label={`Change ${dataSet.name}`}
                    >
                      Change
                    </Button>
                    {part && onJoin && (
                      <Button
                        variant="plain"
                        className="btn-plain ms-2"
                        onClick={() =>
                          window.confirm('Join all parts again? Their verified copies no longer count.') &&
                          onJoin(part.of)
                        }
                        aria-label={`Join ${dataSet.name}`}
                      >
                        Join
                      </Button>
                    )}
                    {onRemove && (
                      <Button
                        variant="plain"
                        className="btn-plain ms-2"
                        onClick={() =>
                          window.confirm(
                            `Take ${dataSet.name} off the list? Its verified copies no longer count.`,
                          ) && onRemove(dataSet.id)
                        }
                        aria-label={`Remove ${dataSet.name}`}
                      >
                        Remove
                      </Button>
                    )}
                  </td>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** Whether the files of a data set are known by name and checksum; to be read, seen and exported. */
function ListOfFiles({ dataSet, open }: { readonly dataSet: DataSet; readonly open: boolean }) {
  const { view, move } = useOpenMove();
  const [shown, setShown] = useState<'read' | 'list'>();
  const list = listOf(move.fileLists, dataSet, 'before');
  return (
    <div className="small-print">
      {list ? (
        <button
          type="button"
          className="btn-plain"
          onClick={() => setShown('list')}
          aria-label={`${printCount(list.fileCount - list.withoutDigest, 'checksum')}: list of files of ${dataSet.name}`}
        >
          {printCount(list.fileCount - list.withoutDigest, 'checksum')}
        </button>
      ) : (
        'no list of files'
      )}
      {list && list.withoutDigest > 0 && `, ${printCount(list.withoutDigest, 'file')} without`}
      {open && !dataSet.part && (
        <>
          {' '}
          <button
            type="button"
            className="btn-plain no-print"
            onClick={() => setShown('read')}
            aria-label={`${list ? 'Read again every file' : 'Read every file'} of ${dataSet.name}`}
          >
            {list ? 'Read again' : 'Read every file'}
          </button>
        </>
      )}
      {shown === 'read' && (
        <FileListDialog view={view} dataSet={dataSet} role="before" onClose={() => setShown(undefined)} />
      )}
      {shown === 'list' && list && (
        <FileListView
          reference={move.reference}
          list={list}
          title={dataSet.name}
          onClose={() => setShown(undefined)}
        />
      )}
    </div>
  );
}
