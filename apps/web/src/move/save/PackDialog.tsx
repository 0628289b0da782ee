import type { CopiesOfDataSet } from '@ulvane/core/backup';
import { printBothUnits } from '@ulvane/core/quantity';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useTakeView } from '../../api/useMove';
import { withFilesWork } from '../../files/filesWork';
import { Loading } from '../../shell/Loading';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { listedOf } from './listed';
import { applyPacking, partsOf, type Proposal } from './packing';

type PackDialogProps = { readonly status: readonly CopiesOfDataSet[]; readonly onClose: () => void };

/** As many as are needed, and as many as were meant: packing takes no copy away. */
function copiesFor(status: CopiesOfDataSet | undefined): number {
  return Math.max(status?.needed ?? 1, status?.planned ?? 1);
}

/** Proposes what goes onto which destination, so that everything has its copies and folders stay whole; then does it. */
export function PackDialog({ status, onClose }: PackDialogProps) {
  const { view, move } = useOpenMove();
  const takeView = useTakeView();
  const [proposal, setProposal] = useState<Proposal>();
  const [error, setError] = useState<unknown>();
  const [busy, setBusy] = useState(false);
  const { dataSets, destinations } = move;
  useEffect(() => {
    let wanted = true;
    withFilesWork((remote) =>
      remote.pack(
        dataSets.map((dataSet) =>
          listedOf(move, dataSet, copiesFor(status.find(({ dataSetId }) => dataSetId === dataSet.id))),
        ),
        destinations.map(({ id, name, freeBytes, fileSystem, capacityBytes, clusterBytes }) => ({
          id,
          name,
          freeBytes,
          fileSystem,
          capacityBytes,
          clusterBytes,
        })),
      ),
    ).then(
      (found) => wanted && setProposal(found),
      (problem: unknown) => wanted && setError(problem),
    );
    return () => {
      wanted = false;
    };
    // The move that the dialog was opened on: it is closed when anything changes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const nameOf = (id: string) => destinations.find((destination) => destination.id === id)?.name ?? id;
  const take = async () => {
    if (!proposal) return;
    setBusy(true);
    try {
      await takeView(await applyPacking(view, dataSets, proposal));
      onClose();
    } catch (problem) {
      setError(problem);
      setBusy(false);
    }
  };
  const lost = move.copies.filter(
    ({ dataSetId, destinationId }) =>
      proposal &&
      !partsOf(proposal, dataSetId).some(
        ({ places, destinationIds }) => places.includes('') && destinationIds.includes(destinationId),
      ),
  );
  const split = dataSets.filter(({ id }) => proposal && partsOf(proposal, id).length > 1);
  return (
    <Modal show onHide={onClose} size="lg" aria-labelledby="pack-title">
      <Modal.Header closeButton>
        <Modal.Title id="pack-title" as="h2">
          Pack onto the destinations
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Problem error={error} />
        {!proposal && error === undefined && <Loading what="the packing" />}
        {proposal && (
          <>
            <table className="table">
              <thead>
                <tr>
                  <th scope="col">What</th>
                  <th scope="col" className="number">
                    Bytes
                  </th>
                  <th scope="col">Goes to</th>
                </tr>
              </thead>
              <tbody>
                {dataSets.flatMap(({ id, name }) =>
                  partsOf(proposal, id).map(({ places, sizeBytes, destinationIds }) => (
                    <tr key={`${id} ${places[0] ?? ''}`}>
                      <th scope="row">
                        {name}
                        {!places.includes('') && (
                          <div className="small-print mono">
                            {places.slice(0, 5).join(', ')}
                            {places.length > 5 && ` and ${places.length - 5} more`}
                          </div>
                        )}
                      </th>
                      <td className="number">{printBothUnits(sizeBytes)}</td>
                      <td>{destinationIds.map(nameOf).join(' and ') || <strong>nowhere</strong>}</td>
                    </tr>
                  )),
                )}
              </tbody>
            </table>
            <p className="mb-1">
              Free afterwards:{' '}
              {destinations
                .map(({ id, name }) => `${name} ${printBothUnits(proposal.packing.freeAfter[id] ?? 0)}`)
                .join('; ')}
              .
            </p>
            {split.length > 0 && (
              <p className="mb-1">
                {split.map(({ name }) => name).join(', ')} {split.length === 1 ? 'is' : 'are'} split by
                folder: each part is a data set of its own, and can be joined again.
              </p>
            )}
            {lost.length > 0 && (
              <p className="caution mb-1">
                {lost.length === 1 ? '1 verified copy' : `${lost.length} verified copies`} would no longer
                count: the data set goes elsewhere.
              </p>
            )}
            {proposal.packing.left.length > 0 && (
              <div className="notice" role="alert">
                <strong>Not everything finds its place.</strong>
                {proposal.helps.length > 0 && (
                  <>
                    <p className="mb-0 mt-1">What would help, tried:</p>
                    <ul className="mb-1">
                      {proposal.helps.map(({ sentence }) => (
                        <li key={sentence}>{sentence}</li>
                      ))}
                    </ul>
                  </>
                )}
                <ul className="mb-0">
                  {proposal.packing.left.slice(0, 8).map(({ path, dataSetId, copy, sentence }) => (
                    <li key={`${dataSetId} ${path} ${copy}`}>
                      {copy > 1 ? `Copy ${copy}: ` : ''}
                      {sentence}
                    </li>
                  ))}
                  {proposal.packing.left.length > 8 && <li>and {proposal.packing.left.length - 8} more</li>}
                </ul>
              </div>
            )}
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose} disabled={busy}>
          Cancel
        </Button>
        <Button onClick={() => void take()} disabled={!proposal || busy}>
          Apply the packing
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
