import { api } from '@ulvane/contract';
import {
  fitOf,
  learntCopyTime,
  learntSentence,
  slugOf,
  sourceMedium,
  type Destination,
} from '@ulvane/core/backup';
import { fileSystems } from '@ulvane/core/catalogue';
import { printBothUnits, printCount, printMinutes } from '@ulvane/core/quantity';
import { isClosed } from '@ulvane/core/record';
import { systemDisk, valueOf } from '@ulvane/core/survey';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useChange } from '../../api/useMove';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { DestinationDialog } from './DestinationDialog';
import { FromInventory } from './FromInventory';
import { NamesAndSizes } from './NamesAndSizes';
import { useNameCheck } from './useNameCheck';

type DestinationsProps = {
  /** Set when another place of the page asks for a new one. */
  readonly adding: boolean;
  readonly onAdded: () => void;
};

/** Where copies go: whether they fit, by how much, and how long it takes. */
export function Destinations({ adding, onAdded }: DestinationsProps) {
  const { view, move } = useOpenMove();
  const { change, error, forgetError } = useChange(view);
  const may = useMay();
  const [chosen, setEditing] = useState<Destination | 'new'>();
  const editing = chosen ?? (adding ? 'new' : undefined);
  const open = may.write && !isClosed(move);
  const { destinations, dataSets } = move;
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
        {destinations.map((destination) => (
          <DestinationRow
            key={destination.id}
            destination={destination}
            onEdit={open ? () => setEditing(destination) : undefined}
            onRemove={
              open
                ? () =>
                    void change(api.setDestinations, {
                      destinations: destinations.filter(({ id }) => id !== destination.id),
                    })
                : undefined
            }
          />
        ))}
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

type DestinationRowProps = {
  readonly destination: Destination;
  readonly onEdit: (() => void) | undefined;
  readonly onRemove: (() => void) | undefined;
};

/** One destination: what fits, what its file system refuses, and how long copying takes. */
function DestinationRow({ destination, onEdit, onRemove }: DestinationRowProps) {
  const { move, house } = useOpenMove();
  const { dataSets } = move;
  const check = useNameCheck(destination);
  const fit = fitOf(destination, dataSets, check.refused);
  const taken = dataSets.filter(({ id }) => destination.takes.includes(id));
  const time = learntCopyTime(
    { sizeBytes: fit.fileBytes, fileCount: taken.reduce((sum, { fileCount }) => sum + fileCount, 0) },
    sourceMedium(systemDisk(valueOf(move.facts, 'disks'))),
    destination,
    house.timedCopies,
  );
  return (
    <li>
      <strong>{destination.name}</strong> <span className="mono soft">{destination.serial}</span>{' '}
      <span className="soft">
        {printBothUnits(destination.capacityBytes)} as formatted,{' '}
        {fileSystems.find(({ id }) => id === destination.fileSystem)?.name}
      </span>
      {onEdit && (
        <>
          {' '}
          <button
            type="button"
            className="btn-plain no-print"
            onClick={onEdit}
            aria-label={`Change ${destination.name}`}
          >
            Change
          </button>
        </>
      )}
      {onRemove && (
        <>
          {' '}
          <button
            type="button"
            className="btn-plain no-print"
            aria-label={`Remove ${destination.name}`}
            onClick={() =>
              window.confirm(`Remove ${destination.name}? Its copies no longer count.`) && onRemove()
            }
          >
            Remove
          </button>
        </>
      )}
      <p className={`mb-0 mt-1${fit.fits ? '' : ' fw-bold'}`}>{fit.sentence}</p>
      {check.refused > 0 && (
        <p className="caution mb-0">
          {printCount(check.refused, 'file')} cannot be copied there as{' '}
          {check.refused === 1 ? 'it is' : 'they are'}.
        </p>
      )}
      {fit.refused.map(({ dataSetId, sentence }) => (
        <p key={dataSetId} className="caution mb-0">
          {sentence}
        </p>
      ))}
      {taken.length > 0 && (
        <p className="soft mb-0">
          About {printMinutes(time.minutes.likely)} to copy (from {printMinutes(time.minutes.low)} to{' '}
          {printMinutes(time.minutes.high)}), and as long again to verify. The {time.slowest} sets the pace.{' '}
          {learntSentence(time.from)}
        </p>
      )}
      <NamesAndSizes destination={destination} check={check} />
    </li>
  );
}

/** What a destination keeps when its other fields are written anew, a cluster size that is no longer known among them. */
function keptOf({ id, takes, driveId }: Destination): Pick<Destination, 'id' | 'takes' | 'driveId'> {
  return { id, takes, ...(driveId === undefined ? {} : { driveId }) };
}
