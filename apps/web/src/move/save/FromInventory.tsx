import { slugOf, type Destination } from '@ulvane/core/backup';
import { printBothUnits } from '@ulvane/core/quantity';
import Dropdown from 'react-bootstrap/Dropdown';
import { useDrives } from '../../api/useDrives';
import { useOpenMove } from '../MoveContext';

/** Backup drives of the house that are not used here yet, with what is free on them; never an installer stick. */
export function FromInventory({ onTake }: { readonly onTake: (destination: Destination) => void }) {
  const { move } = useOpenMove();
  const { drives } = useDrives();
  const offered = (drives ?? []).flatMap((drive) => {
    const { id, kind, purpose } = drive;
    const isUsed = move.destinations.some(({ driveId }) => driveId === id);
    return purpose !== 'backup' || kind === 'disc' || isUsed ? [] : [{ ...drive, kind }];
  });
  if (offered.length === 0) return null;
  return (
    <Dropdown align="end">
      <Dropdown.Toggle size="sm" variant={move.destinations.length === 0 ? 'primary' : 'quiet'}>
        From the inventory
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {offered.map((drive) => (
          <Dropdown.Item
            as="button"
            key={drive.id}
            onClick={() =>
              onTake({
                id: slugOf(drive.name, new Set(move.destinations.map(({ id }) => id))),
                driveId: drive.id,
                name: drive.name,
                kind: drive.kind,
                serial: drive.serial,
                capacityBytes: drive.capacityBytes,
                freeBytes: drive.freeBytes,
                fileSystem: drive.fileSystem,
                ...(drive.clusterBytes === undefined ? {} : { clusterBytes: drive.clusterBytes }),
                link: drive.link,
                medium: drive.medium,
                takes: move.dataSets.map(({ id }) => id),
              })
            }
          >
            <strong>{drive.name}</strong> {printBothUnits(drive.freeBytes)} free
            {drive.health !== 'good' && <em>, health: {drive.health}</em>}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
