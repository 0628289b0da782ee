import { api } from '@ulvane/contract';
import {
  describeGrade,
  describeOutdated,
  gradeOf,
  listOf,
  type CountedCopy,
  type DataSet,
  type Destination,
} from '@ulvane/core/backup';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { ProofMark } from '../../drawing/ProofMark';
import { Instant } from '../../shell/Instant';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { AskedList } from './AskedList';

type CopyCellProps = {
  readonly dataSet: DataSet;
  readonly destination: Destination;
  /** Its copy as the gate counts it; undefined without one. */
  readonly counted: CountedCopy | undefined;
  readonly open: boolean;
};

/** One data set on one destination: whether it goes there, and how its copy was found good. */
export function CopyCell({ dataSet, destination, counted, open }: CopyCellProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const [comparing, setComparing] = useState(false);
  const takes = destination.takes.includes(dataSet.id);
  const own = (entry: { readonly dataSetId: string; readonly destinationId: string }) =>
    entry.dataSetId === dataSet.id && entry.destinationId === destination.id;
  const copy = move.copies.find(own);
  const failed = move.failedChecks.find(own);
  const outdated = copy || failed ? undefined : move.outdatedCopies.find(own);
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
        label="copy here"
        aria-label={`${dataSet.name} goes to ${destination.name}`}
        checked={takes}
        disabled={!open || busy}
        onChange={(event) => void take(event.target.checked)}
      />
      {takes && !failed && (
        <p className={`copy-grade mb-0${(copy && counted?.because !== null) || outdated ? ' short' : ''}`}>
          {outdated ? (
            <ProofMark mark={gradeOf(outdated)} struck label="" />
          ) : (
            <ProofMark mark={copy ? gradeOf(copy) : 'planned'} label="" />
          )}{' '}
          {copy
            ? (counted?.because ?? describeGrade(copy))
            : outdated
              ? describeOutdated(outdated)
              : 'not compared yet'}
        </p>
      )}
      {copy && (
        <div className="small-print">
          {copy.verifiedBy}, <Instant at={copy.verifiedAt} />
        </div>
      )}
      {takes && !failed && (!copy || gradeOf(copy) === 'stated') && (
        <Form.Check
          id={`stated-${destination.id}-${dataSet.id}`}
          label="stated by hand"
          aria-label={`${dataSet.name} on ${destination.name} stated by hand to be a good copy`}
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
      {comparing && (
        <AskedList
          asked={{ kind: 'compare', dataSetId: dataSet.id, destinationId: destination.id }}
          onClose={() => setComparing(false)}
        />
      )}
    </td>
  );
}
