import { api } from '@ulvane/contract';
import { printBothUnits, printBytes, printExactBytes } from '@ulvane/core/quantity';
import {
  describeDisk,
  diskMark,
  partitionBytes,
  valueOf,
  type Disk,
  type Partition,
} from '@ulvane/core/survey';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';

const roleLabels: Readonly<Record<NonNullable<Partition['role']>, string>> = {
  efi: 'EFI system',
  reserved: 'reserved',
  system: 'the present system',
  data: 'data only',
  recovery: 'recovery',
  boot: 'boot files',
  swap: 'swap',
};

/** Sets or, with an empty value, removes an optional key. */
function withKey<T extends object, K extends string>(object: T, key: K, value: unknown): T {
  const rest = Object.fromEntries(Object.entries(object).filter(([name]) => name !== key));
  // The keys are those of T; the server parses the whole again.
  return (value === '' || value === undefined ? rest : { ...rest, [key]: value }) as T;
}

/** The disks as measured, to be completed by hand: marks, health, scheme, and what partitions are for. */
export function DisksDialog({ onClose }: { readonly onClose: () => void }) {
  const { view, move } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const [disks, setDisks] = useState<readonly Disk[]>(() => valueOf(move.facts, 'disks') ?? []);
  const setDisk = (index: number, disk: Disk) =>
    setDisks(disks.map((other, at) => (at === index ? disk : other)));
  const keep = async () => {
    if (await change(api.typeFact, { value: z.json().parse(disks) }, { key: 'disks' })) onClose();
  };
  return (
    <Modal show onHide={onClose} size="lg" scrollable aria-labelledby="disks-title">
      <Modal.Header closeButton>
        <Modal.Title id="disks-title" as="h2">
          Disks
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p className="soft">
          Read serial number and size off the disk’s own label. A disk is identified by both.
        </p>
        <Problem error={error} />
        {disks.map((disk, index) => (
          <DiskFields
            key={disk.name}
            disk={disk}
            onChange={(next) => setDisk(index, next)}
            onRemove={() => setDisks(disks.filter((_other, at) => at !== index))}
          />
        ))}
        <AddDisk taken={disks.map(({ name }) => name)} onAdd={(disk) => setDisks([...disks, disk])} />
      </Modal.Body>
      <Modal.Footer>
        <Button disabled={busy} onClick={() => void keep()}>
          Save
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

type DiskFieldsProps = {
  readonly disk: Disk;
  readonly onChange: (disk: Disk) => void;
  readonly onRemove: () => void;
};

function DiskFields({ disk, onChange, onRemove }: DiskFieldsProps) {
  const set = (key: keyof Disk, value: unknown) => onChange(withKey(disk, key, value));
  const setPartition = (index: number, key: keyof Partition, value: unknown) =>
    onChange({
      ...disk,
      partitions: disk.partitions.map((other, at) => (at === index ? withKey(other, key, value) : other)),
    });
  return (
    <fieldset className="sheet">
      <legend className="h3">
        {disk.name}: {describeDisk(disk)}
      </legend>
      <div className="row">
        <div className="col-6">
          <Field label={`Serial of ${disk.name}`}>
            {(ids) => (
              <Form.Control
                {...ids}
                className="mono"
                value={disk.serial ?? ''}
                onChange={(event) => set('serial', event.target.value)}
              />
            )}
          </Field>
        </div>
        <div className="col-6">
          <Field label={`Model of ${disk.name}`}>
            {(ids) => (
              <Form.Control
                {...ids}
                value={disk.model ?? ''}
                onChange={(event) => set('model', event.target.value)}
              />
            )}
          </Field>
        </div>
        <div className="col-4">
          <Field label={`Health of ${disk.name}`}>
            {(ids) => (
              <Form.Select
                {...ids}
                value={disk.health ?? ''}
                onChange={(event) => set('health', event.target.value)}
              >
                <option value="">unknown</option>
                <option value="good">good</option>
                <option value="worn">worn</option>
                <option value="failing">failing</option>
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-4">
          <Field label={`Scheme of ${disk.name}`}>
            {(ids) => (
              <Form.Select
                {...ids}
                value={disk.scheme ?? ''}
                onChange={(event) => set('scheme', event.target.value)}
              >
                <option value="">unknown</option>
                <option value="gpt">GPT</option>
                <option value="mbr">MBR</option>
                <option value="none">none</option>
              </Form.Select>
            )}
          </Field>
        </div>
        <div className="col-4">
          <Field label={`Kind of ${disk.name}`}>
            {(ids) => (
              <Form.Select
                {...ids}
                value={disk.rotational === undefined ? '' : String(disk.rotational)}
                onChange={(event) =>
                  set('rotational', event.target.value === '' ? '' : event.target.value === 'true')
                }
              >
                <option value="">unknown</option>
                <option value="false">solid-state</option>
                <option value="true">spinning</option>
              </Form.Select>
            )}
          </Field>
        </div>
      </div>
      {disk.partitions.length > 0 && (
        <div className="table-scroll">
          <table className="table">
            <thead>
              <tr>
                <th scope="col">No.</th>
                <th scope="col">Size</th>
                <th scope="col">Label</th>
                <th scope="col">Is for</th>
                <th scope="col">Used</th>
              </tr>
            </thead>
            <tbody>
              {disk.partitions.map((partition, index) => (
                <tr key={partition.number}>
                  <td>{partition.number}</td>
                  <td>{printBothUnits(partitionBytes(disk, partition))}</td>
                  <td>
                    <Form.Control
                      size="sm"
                      aria-label={`Label of partition ${partition.number}`}
                      value={partition.label ?? ''}
                      onChange={(event) => setPartition(index, 'label', event.target.value)}
                    />
                  </td>
                  <td>
                    <Form.Select
                      size="sm"
                      aria-label={`What partition ${partition.number} is for`}
                      value={partition.role ?? ''}
                      onChange={(event) => setPartition(index, 'role', event.target.value)}
                    >
                      <option value="">unknown</option>
                      {Object.entries(roleLabels).map(([value, label]) => (
                        <option key={value} value={value}>
                          {label}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                  <td>
                    <UsedBytes
                      number={partition.number}
                      usedBytes={partition.usedBytes}
                      onRead={(bytes) => setPartition(index, 'usedBytes', bytes)}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <button type="button" className="btn-plain" onClick={onRemove}>
        Remove {diskMark(disk)} from the list
      </button>
    </fieldset>
  );
}

type UsedBytesProps = {
  readonly number: number;
  readonly usedBytes: number | undefined;
  readonly onRead: (bytes: number | undefined) => void;
};

function UsedBytes({ number, usedBytes, onRead }: UsedBytesProps) {
  const [text, setText] = useState(() => (usedBytes === undefined ? '' : printBytes(usedBytes, 'decimal')));
  const [bad, setBad] = useState(false);
  const { parse, reading } = useSizes();
  const read = (written: string) => {
    setText(written);
    const bytes = written.trim() === '' ? undefined : parse(written);
    setBad(bytes?.ok === false);
    if (bytes === undefined) onRead(undefined);
    else if (bytes.ok) onRead(bytes.value);
  };
  return (
    <>
      <Form.Control
        size="sm"
        aria-label={`Used bytes of partition ${number}`}
        placeholder="unknown"
        value={text}
        isInvalid={bad}
        onChange={(event) => read(event.target.value)}
      />
      <div className="small-print">{reading(text)}</div>
    </>
  );
}

function AddDisk({
  taken,
  onAdd,
}: {
  readonly taken: readonly string[];
  readonly onAdd: (disk: Disk) => void;
}) {
  const [size, setSize] = useState('');
  const [problem, setProblem] = useState<string>();
  const { parse, reading } = useSizes();
  const add = () => {
    const bytes = parse(size);
    if (!bytes.ok || bytes.value < 1_000_000)
      return setProblem('Write the size on the label, such as 256 GB.');
    let number = taken.length + 1;
    while (taken.includes(`disk${number}`)) number += 1;
    onAdd({
      name: `disk${number}`,
      sectorBytes: 512,
      sectorCount: Math.floor(bytes.value / 512),
      partitions: [],
    });
    setSize('');
    setProblem(undefined);
  };
  return (
    <div className="d-flex gap-2 align-items-end">
      <Field label="Add a disk of the size" hint={reading(size)} error={problem}>
        {(ids) => (
          <Form.Control
            {...ids}
            value={size}
            placeholder={printExactBytes(256_000_000_000, 'decimal')}
            onChange={(event) => setSize(event.target.value)}
          />
        )}
      </Field>
      <Button variant="quiet" className="mb-2" onClick={add}>
        Add
      </Button>
    </div>
  );
}
