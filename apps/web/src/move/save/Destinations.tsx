import { api } from '@ulvane/contract';
import {
  fileSystems,
  fitOf,
  learntCopyTime,
  learntSentence,
  printBothUnits,
  printMinutes,
  slugOf,
  sourceMedium,
  systemDisk,
  valueOf,
  type Destination,
} from '@ulvane/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { DestinationDialog } from './DestinationDialog';
import { FromInventory } from './FromInventory';
import { NamesAndSizes } from './NamesAndSizes';

type DestinationsProps = {
  /** Set when another place of the page asks for a new one. */
  readonly adding: boolean;
  readonly onAdded: () => void;
};

/** Where copies go: whether they fit, by how much, and how long it takes. */
export function Destinations({ adding, onAdded }: DestinationsProps) {
  const { view, move, house } = useOpenMove();
  const { change, error, forgetError } = useChange(view);
  const may = useMay();
  const [chosen, setEditing] = useState<Destination | 'new'>();
  const editing = chosen ?? (adding ? 'new' : undefined);
  const open = may.write && move.handover.signedOff === null;
  const { destinations, dataSets } = move;
  const source = sourceMedium(systemDisk(valueOf(move.facts, 'disks')));
  const keep = (destination: Destination) => {
    const known = destinations.some(({ id }) => id === destination.id);
    return change(api.setDestinations, {
      destinations: known
        ? destinations.map((other) => (other.id === destination.id ? destination : other))
        : [...destinations, destination],
    });
  };
  return (
    <section className="sheet">
      <div className="page-head">
        <h2>Destinations</h2>
        {open && (
          <span className="ms-auto d-flex gap-2">
            <FromInventory onTake={(destination) => void keep(destination)} />
            <Button size="sm" variant="quiet" onClick={() => setEditing('new')}>
              Add a destination
            </Button>
          </span>
        )}
      </div>
      <Problem error={error} onClose={forgetError} />
      {destinations.length === 0 && (
        <p className="empty">No destination yet. The installer stick is never one: it will be erased.</p>
      )}
      <ul className="check-rows">
        {destinations.map((destination) => {
          const fit = fitOf(destination, dataSets);
          const taken = dataSets.filter(({ id }) => destination.takes.includes(id));
          const time = learntCopyTime(
            {
              sizeBytes: fit.fileBytes,
              fileCount: taken.reduce((sum, { fileCount }) => sum + fileCount, 0),
            },
            source,
            destination,
            house.timedCopies,
          );
          return (
            <li key={destination.id}>
              <strong>{destination.name}</strong> <span className="mono soft">{destination.serial}</span>{' '}
              <span className="soft">
                {printBothUnits(destination.capacityBytes)} as formatted,{' '}
                {fileSystems.find(({ id }) => id === destination.fileSystem)?.name}
              </span>
              {open && (
                <>
                  {' '}
                  <button
                    type="button"
                    className="btn-plain no-print"
                    onClick={() => setEditing(destination)}
                    aria-label={`Change ${destination.name}`}
                  >
                    Change
                  </button>{' '}
                  <button
                    type="button"
                    className="btn-plain no-print"
                    aria-label={`Remove ${destination.name}`}
                    onClick={() =>
                      window.confirm(
                        `Take ${destination.name} off the list? Its verified copies no longer count.`,
                      ) &&
                      void change(api.setDestinations, {
                        destinations: destinations.filter(({ id }) => id !== destination.id),
                      })
                    }
                  >
                    Remove
                  </button>
                </>
              )}
              <p className={`mb-0 mt-1${fit.spareBytes < 0 ? ' fw-bold' : ''}`}>{fit.sentence}</p>
              {fit.refused.map(({ dataSetId, sentence }) => (
                <p key={dataSetId} className="caution mb-0">
                  {sentence}
                </p>
              ))}
              {taken.length > 0 && (
                <p className="soft mb-0">
                  About {printMinutes(time.minutes.likely)} to copy (from {printMinutes(time.minutes.low)} to{' '}
                  {printMinutes(time.minutes.high)}), and as long again to verify. The {time.slowest} sets the
                  pace. {learntSentence(time.from)}
                </p>
              )}
              <NamesAndSizes destination={destination} />
            </li>
          );
        })}
      </ul>
      {editing !== undefined && (
        <DestinationDialog
          destination={editing === 'new' ? undefined : editing}
          error={error}
          onClose={() => {
            setEditing(undefined);
            onAdded();
          }}
          onKeep={(written) =>
            keep(
              editing === 'new'
                ? {
                    ...written,
                    id: slugOf(written.name, new Set(destinations.map(({ id }) => id))),
                    takes: dataSets.map(({ id }) => id),
                  }
                : { ...written, ...keptOf(editing) },
            )
          }
        />
      )}
    </section>
  );
}

/** What a destination keeps when its other fields are written anew, a cluster size that is no longer known among them. */
function keptOf({ id, takes, driveId }: Destination): Pick<Destination, 'id' | 'takes' | 'driveId'> {
  return { id, takes, ...(driveId === undefined ? {} : { driveId }) };
}
