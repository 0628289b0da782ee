import { printBytes } from '@ulvane/core/quantity';
import { diskBytes, diskMark, partitionBytes, type Disk, type Partition } from '@ulvane/core/survey';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useSizes } from '../../shell/useSizes';

type PartitionRowsProps = {
  readonly disk: Disk;
  /** The number of the first row on the sheet. */
  readonly from: number;
  readonly onDisk: (disk: Disk) => void;
};

const roles: readonly (readonly [NonNullable<Partition['role']>, string])[] = [
  ['efi', 'EFI'],
  ['reserved', 'Reserved'],
  ['system', 'System'],
  ['data', 'Data'],
  ['recovery', 'Recovery'],
  ['boot', 'Boot'],
  ['swap', 'Swap'],
];

/** The partitions of the disk with the system: what each is for and how much of it is used, with the sum of their sizes. */
export function PartitionRows({ disk, from, onDisk }: PartitionRowsProps) {
  const sum = disk.partitions.reduce((bytes, one) => bytes + partitionBytes(disk, one), 0);
  const whole = diskBytes(disk);
  const set = (number: number, change: (partition: Partition) => Partition) =>
    onDisk({
      ...disk,
      partitions: disk.partitions.map((one) => (one.number === number ? change(one) : one)),
    });
  if (disk.partitions.length === 0) return null;
  return (
    <section aria-labelledby="sheet-partitions">
      <h2 id="sheet-partitions">
        Partitions of disk {diskMark(disk)} <span className="soft">change what is wrong</span>
      </h2>
      <table className="table partitions">
        <thead>
          <tr>
            <th scope="col">Order</th>
            <th scope="col">Partition, label</th>
            <th scope="col" className="number">
              Size
            </th>
            <th scope="col">In use</th>
            <th scope="col">What it is for</th>
          </tr>
        </thead>
        <tbody>
          {disk.partitions.map((partition, index) => (
            <tr key={partition.number}>
              <td>
                <span className="order" aria-hidden="true">
                  {from + index}
                </span>
              </td>
              <th scope="row">
                {partition.number} {partition.label ?? <span className="soft">(no label)</span>}
              </th>
              <td className="number text-nowrap">
                {printBytes(partitionBytes(disk, partition), 'decimal')}{' '}
                <span className="soft">{printBytes(partitionBytes(disk, partition), 'binary')}</span>
              </td>
              <td>
                <UsedBytes
                  partition={partition}
                  onBytes={(usedBytes) =>
                    set(partition.number, ({ usedBytes: _before, ...rest }) =>
                      usedBytes === undefined ? rest : { ...rest, usedBytes },
                    )
                  }
                />
              </td>
              <td>
                <Form.Select
                  size="sm"
                  aria-label={`What partition ${partition.number} is for`}
                  value={partition.role ?? ''}
                  onChange={({ target }) => {
                    const role = roles.find(([one]) => one === target.value)?.[0];
                    set(partition.number, ({ role: _before, ...rest }) => (role ? { ...rest, role } : rest));
                  }}
                >
                  <option value="">Don’t know</option>
                  {roles.map(([value, name]) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </Form.Select>
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <td />
            <th scope="row">Adds up</th>
            <td className="number">{printBytes(sum, 'decimal')}</td>
            <td colSpan={2} className="soft">
              of {printBytes(whole, 'decimal')};{' '}
              {whole - sum > 2_000_000
                ? `${printBytes(whole - sum, 'decimal')} in no partition`
                : 'no byte missing but the tables’ own'}
            </td>
          </tr>
        </tfoot>
      </table>
    </section>
  );
}

function UsedBytes({
  partition,
  onBytes,
}: {
  readonly partition: Partition;
  readonly onBytes: (bytes: number | undefined) => void;
}) {
  const { parse, reading } = useSizes();
  const [text, setText] = useState(() =>
    partition.usedBytes === undefined ? '' : printBytes(partition.usedBytes, 'decimal'),
  );
  const wrong = text !== '' && !parse(text).ok;
  return (
    <>
      <Form.Control
        size="sm"
        aria-label={`In use on partition ${partition.number}`}
        aria-invalid={wrong}
        placeholder="Don’t know"
        value={text}
        onChange={({ target }) => {
          setText(target.value);
          const bytes = parse(target.value);
          if (target.value === '') onBytes(undefined);
          else if (bytes.ok) onBytes(bytes.value);
        }}
      />
      {text !== '' && <span className="small-print">{wrong ? 'A size, such as 48 GB.' : reading(text)}</span>}
    </>
  );
}
