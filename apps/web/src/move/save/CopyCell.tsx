import { api } from '@ulvane/contract';
import { listOf, type DataSet, type Destination } from '@ulvane/core';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { FileListDialog } from '../../files/FileListDialog';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

type CopyCellProps = {
  readonly dataSet: DataSet;
  readonly destination: Destination;
  readonly open: boolean;
};

/** One data set on one destination: whether it goes there, and how its copy was found good. */
export function CopyCell({ dataSet, destination, open }: CopyCellProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const [comparing, setComparing] = useState(false);
  const takes = destination.takes.includes(dataSet.id);
  const own = (entry: { readonly dataSetId: string; readonly destinationId: string }) =>
    entry.dataSetId === dataSet.id && entry.destinationId === destination.id;
  const copy = move.copies.find(own);
  const failed = move.failedChecks.find(own);
  const before = listOf(move.fileLists, dataSet, 'before');
  const take = (goes: boolean) =>
    change(api.setDestinations, {
      destinations: move.destinations.map((other) =>
        other.id === destination.id
          ? {
              ...other,
              takes: goes ? [...other.takes, dataSet.id] : other.takes.filter((id) => id !== dataSet.id),
            }
          : other,
      ),
    });
  return (
    <td>
      <Problem error={error} onClose={forgetError} />
      <Form.Check
        id={`take-${destination.id}-${dataSet.id}`}
        label="goes here"
        aria-label={`${dataSet.name} goes to ${destination.name}`}
        checked={takes}
        disabled={!open || busy}
        onChange={(event) => void take(event.target.checked)}
      />
      {takes && !failed && (
        <Form.Check
          id={`verified-${destination.id}-${dataSet.id}`}
          label={copy ? 'verified' : 'verified?'}
          aria-label={`${dataSet.name} on ${destination.name} verified by checksum`}
          checked={copy !== undefined}
          disabled={!open || busy}
          onChange={(event) =>
            void change(api.tickCopy, {
              dataSetId: dataSet.id,
              destinationId: destination.id,
              verified: event.target.checked,
            })
          }
        />
      )}
      {copy && (
        <div className="small-print">
          {copy.verifiedBy}, {copy.verifiedAt.slice(0, 16).replace('T', ' ')}:{' '}
          {copy.check === undefined
            ? 'said so, not compared here'
            : copy.check.method === 'full'
              ? `all ${copy.check.files.toLocaleString('en')} files compared`
              : `${copy.check.files.toLocaleString('en')} of ${copy.check.ofFiles.toLocaleString('en')} files compared`}
        </div>
      )}
      {failed && (
        <details className="failed-check">
          <summary>
            <strong>{failed.count.toLocaleString('en')} differ</strong>: copy them again, then compare
          </summary>
          <ul className="mono small-print mb-0">
            {failed.files.map(({ kind, path }) => (
              <li key={path}>
                {path} ({kind})
              </li>
            ))}
            {failed.count > failed.files.length && <li>and {failed.count - failed.files.length} more</li>}
          </ul>
        </details>
      )}
      {takes && open && before && (
        <button
          type="button"
          className="btn-plain no-print"
          onClick={() => setComparing(true)}
          aria-label={`${copy || failed ? 'Compare again' : 'Compare file by file'}: ${dataSet.name} on ${destination.name}`}
        >
          {copy || failed ? 'Compare again' : 'Compare file by file'}
        </button>
      )}
      {comparing && before && (
        <FileListDialog
          view={view}
          dataSet={dataSet}
          role="copy"
          destination={destination}
          {...(dataSet.part ? {} : { before: { id: before.id, fileCount: before.fileCount } })}
          onClose={() => setComparing(false)}
        />
      )}
    </td>
  );
}
