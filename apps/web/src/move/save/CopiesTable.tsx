import { api } from '@ulvane/contract';
import { printBothUnits, type CopiesOfDataSet, type DataSet } from '@ulvane/core';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';

type CopiesTableProps = {
  readonly status: readonly CopiesOfDataSet[];
  readonly onEdit: ((dataSet: DataSet) => void) | undefined;
  readonly onRemove: ((id: string) => void) | undefined;
};

const places = {
  'system-partition': 'system partition',
  'data-partition': 'data partition',
  'other-disk': 'another disk',
} as const;

/** Data sets down, destinations across: what goes where, and which copies are verified by whom. */
export function CopiesTable({ status, onEdit, onRemove }: CopiesTableProps) {
  const { view, move } = useOpenMove();
  const { change, error, busy, forgetError } = useChange(view);
  const may = useMay();
  const { dataSets, destinations, copies } = move;
  const open = may.write && move.handover.signedOff === null;
  const take = (destinationId: string, dataSetId: string, takes: boolean) =>
    change(api.setDestinations, {
      destinations: destinations.map((destination) =>
        destination.id === destinationId
          ? {
              ...destination,
              takes: takes
                ? [...destination.takes, dataSetId]
                : destination.takes.filter((id) => id !== dataSetId),
            }
          : destination,
      ),
    });
  return (
    <>
      <Problem error={error} onClose={forgetError} />
      <div className="table-scroll">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">Data set</th>
              <th scope="col" className="number">
                Bytes
              </th>
              <th scope="col" className="number">
                Files
              </th>
              <th scope="col">Lies on</th>
              {destinations.map(({ id, name }) => (
                <th scope="col" key={id}>
                  {name}
                </th>
              ))}
              <th scope="col">Verified</th>
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
              return (
                <tr key={dataSet.id}>
                  <th scope="row">
                    {dataSet.name}
                    {dataSet.path !== '' && <div className="small-print mono">{dataSet.path}</div>}
                  </th>
                  <td className="number">{printBothUnits(dataSet.sizeBytes)}</td>
                  <td className="number">{dataSet.fileCount.toLocaleString('en')}</td>
                  <td>
                    {places[dataSet.place]}
                    <div className="small-print">
                      {line?.risk === 'at-risk' ? 'at risk on this route' : 'insured only'}
                    </div>
                  </td>
                  {destinations.map((destination) => {
                    const takes = destination.takes.includes(dataSet.id);
                    const copy = copies.find(
                      (entry) => entry.dataSetId === dataSet.id && entry.destinationId === destination.id,
                    );
                    return (
                      <td key={destination.id}>
                        <Form.Check
                          id={`take-${destination.id}-${dataSet.id}`}
                          label="goes here"
                          aria-label={`${dataSet.name} goes to ${destination.name}`}
                          checked={takes}
                          disabled={!open || busy}
                          onChange={(event) => void take(destination.id, dataSet.id, event.target.checked)}
                        />
                        {takes && (
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
                            {copy.verifiedBy}, {copy.verifiedAt.slice(0, 16).replace('T', ' ')}
                          </div>
                        )}
                      </td>
                    );
                  })}
                  <td>
                    {line && (
                      <strong>
                        {line.verified} of {line.needed}
                      </strong>
                    )}
                    {line && line.planned < line.needed && (
                      <div className="small-print">planned: {line.planned}</div>
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
    </>
  );
}
