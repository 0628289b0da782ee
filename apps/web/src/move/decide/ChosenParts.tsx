import { routes } from '@ulvane/core/route';
import { disksToWrite, type ChosenDisk } from '@ulvane/core/runbook';
import { printBytes } from '@ulvane/core/quantity';
import { diskBytes, diskMark, systemDisk, valueOf } from '@ulvane/core/survey';
import { shrinkableBytes } from '@ulvane/core/disk';
import type { Candidate } from '@ulvane/core/decide';
import Form from 'react-bootstrap/Form';
import { Field } from '../../shell/Field';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';

type DiskChoiceProps = {
  readonly candidate: Candidate;
  readonly value: ChosenDisk | null;
  readonly onValue: (disk: ChosenDisk | null) => void;
};

/** Which disk is written, where there is more than one that could be. */
export function DiskChoice({ candidate, value, onValue }: DiskChoiceProps) {
  const { move } = useOpenMove();
  const route = routes[candidate.routeId];
  const among = route.writesOver === 'nothing' ? [] : disksToWrite({ facts: move.facts, route });
  if (among.length < 2) return null;
  return (
    <Field label="Disk that is written" hint="By serial number and size, never by its number in a list.">
      {(ids) => (
        <Form.Select
          {...ids}
          value={value?.name ?? ''}
          onChange={({ target }) => {
            const disk = among.find(({ name }) => name === target.value);
            onValue(disk ? { name: disk.name, serial: disk.serial ?? null } : null);
          }}
        >
          <option value="">As the route goes</option>
          {among.map((disk) => (
            <option key={disk.name} value={disk.name}>
              {diskMark(disk)}, {printBytes(diskBytes(disk), 'decimal')},{' '}
              {disk.partitions.length === 0 ? 'no partition' : `${disk.partitions.length} partitions`}
            </option>
          ))}
        </Form.Select>
      )}
    </Field>
  );
}

export type RoomText = { readonly size: string; readonly from: string };

type RoomChoiceProps = {
  readonly value: RoomText;
  readonly onValue: (room: RoomText) => void;
};

/** How much room a second system gets on the same disk, and from which partition. */
export function RoomChoice({ value, onValue }: RoomChoiceProps) {
  const { move } = useOpenMove();
  const { reading } = useSizes();
  const disk = systemDisk(valueOf(move.facts, 'disks'));
  return (
    <>
      <Field
        label="Room for the new system"
        hint={
          value.size === ''
            ? 'Empty: what the release asks for, and some for work.'
            : (reading(value.size) ?? 'A size, such as 60 GB.')
        }
      >
        {(ids) => (
          <Form.Control
            {...ids}
            value={value.size}
            onChange={({ target }) => onValue({ ...value, size: target.value })}
          />
        )}
      </Field>
      {value.size !== '' && (
        <Field label="Taken from">
          {(ids) => (
            <Form.Select
              {...ids}
              value={value.from}
              onChange={({ target }) => onValue({ ...value, from: target.value })}
            >
              <option value="">A run that is free already</option>
              {disk?.partitions.map((partition) => {
                const gives = shrinkableBytes(disk, partition);
                return gives === undefined || gives === 0 ? null : (
                  <option key={partition.number} value={partition.number}>
                    Partition {partition.number}
                    {partition.label === undefined ? '' : ` (${partition.label})`}: can give{' '}
                    {printBytes(gives, 'decimal')}
                  </option>
                );
              })}
            </Form.Select>
          )}
        </Field>
      )}
    </>
  );
}
