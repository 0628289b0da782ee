import { releaseTitle } from '@ulvane/core/catalogue';
import { printBytes } from '@ulvane/core/quantity';
import { deviceTitle, isClosed } from '@ulvane/core/record';
import { routes } from '@ulvane/core/route';
import { diskBytes, diskMark, presentTitle, systemDisk, valueOf } from '@ulvane/core/survey';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMay } from '../api/useSession';
import { CallOffDialog } from './CallOff';
import { IdentityDialog } from './IdentityDialog';
import { useOpenMove } from './MoveContext';
import { useBootKeys, useTarget } from './readings';

/** The identity card of the device: what is printed on it, so that screen and hardware can be matched. */
export function Plate() {
  const { move, house } = useOpenMove();
  const target = useTarget();
  const may = useMay();
  const [editing, setEditing] = useState(false);
  const [callingOff, setCallingOff] = useState(false);
  const { facts, decision } = move;
  const disks = valueOf(facts, 'disks') ?? [];
  const system = systemDisk(disks);
  const keys = useBootKeys();
  const year = valueOf(facts, 'year');
  return (
    <section className="plate" aria-label="Plate of the device">
      <dl>
        <dt>Device</dt>
        <dd>
          {deviceTitle(facts)}
          {year !== undefined && `, ${year}`}
          {valueOf(facts, 'chassis') && `, ${valueOf(facts, 'chassis') ?? ''}`}
        </dd>
        <dt>Owner</dt>
        <dd>
          {[move.owner, move.site].filter((part) => part !== '').join(', ') || (
            <span className="soft">not named</span>
          )}{' '}
          {may.write && !isClosed(move) && (
            <button type="button" className="btn-plain small-print no-print" onClick={() => setEditing(true)}>
              Edit
            </button>
          )}
        </dd>
      </dl>
      <dl>
        <dt>Serial, on the label</dt>
        <dd className="mono">{valueOf(facts, 'serial') ?? 'unknown'}</dd>
        <dt>Boot-menu key</dt>
        <dd>
          {keys.bootMenu} <span className="small-print">{keys.bootMenuSource}</span>
        </dd>
      </dl>
      <dl>
        <dt>Disks, with serial number and size</dt>
        {disks.length === 0 && <dd className="soft">unknown</dd>}
        {disks.map((disk) => (
          <dd key={disk.name}>
            <span className="mono">{diskMark(disk)}</span> {printBytes(diskBytes(disk), 'decimal')}{' '}
            {disk.rotational === undefined ? '' : disk.rotational ? 'spinning' : 'solid-state'}
            {system && (disk === system ? ', system' : ', do not touch')}
          </dd>
        ))}
      </dl>
      <dl>
        <dt>Move{move.dueOn !== null && `, due ${move.dueOn}`}</dt>
        <dd>
          <Link className="mono" to={`/moves/${move.reference}/log`} title="The log of this move">
            {move.reference}
          </Link>
        </dd>
        <dt>
          {presentTitle(house.catalogue, facts) || 'system unknown'} →{' '}
          {target ? releaseTitle(target) : decision ? 'stays' : 'not chosen'}
        </dt>
        <dd>{decision ? routes[decision.routeId].title : 'no route yet'}</dd>
      </dl>
      {editing && (
        <IdentityDialog
          onClose={() => setEditing(false)}
          onCallOff={() => {
            setEditing(false);
            setCallingOff(true);
          }}
        />
      )}
      {callingOff && <CallOffDialog onClose={() => setCallingOff(false)} />}
    </section>
  );
}
