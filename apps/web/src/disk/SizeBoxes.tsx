import { bothMeanings, explainSizeBox, shrinkBox, sizeBox } from '@ulvane/core/disk';
import { boxUnits, printBothUnits, printBytes, type BoxUnit } from '@ulvane/core/quantity';
import { useState, type ReactNode } from 'react';
import Form from 'react-bootstrap/Form';
import { Field } from '../shell/Field';
import { useSizes } from '../shell/useSizes';

const unitWords: Readonly<Record<BoxUnit, string>> = {
  MiB: 'MiB (most boxes, though they say MB)',
  MB: 'MB, 1000² bytes',
  GiB: 'GiB',
  GB: 'GB, 1000³ bytes',
};

function UnitField({ unit, onUnit }: { readonly unit: BoxUnit; readonly onUnit: (unit: BoxUnit) => void }) {
  return (
    <Field label="The box means">
      {(ids) => (
        <Form.Select
          {...ids}
          value={unit}
          onChange={(event) => onUnit(boxUnits.find((known) => known === event.target.value) ?? unit)}
        >
          {boxUnits.map((known) => (
            <option key={known} value={known}>
              {unitWords[known]}
            </option>
          ))}
        </Form.Select>
      )}
    </Field>
  );
}

type InstallerBoxProps = {
  readonly ownPartitionBytes: readonly number[];
  readonly start: string;
  /** What can be done with a size that can be typed. */
  readonly children?: (wantedBytes: number) => ReactNode;
};

/** What to type into an installer's size box, and both readings of the number side by side. */
export function InstallerBox({ ownPartitionBytes, start, children }: InstallerBoxProps) {
  const [text, setText] = useState(start);
  const [unit, setUnit] = useState<BoxUnit>('MiB');
  const { parse, reading, numberIn } = useSizes();
  const wanted = parse(text, 'binary');
  const box = wanted.ok ? sizeBox(wanted.value, ownPartitionBytes, unit) : wanted;
  const number = numberIn(text);
  return (
    <>
      <div className="row g-2">
        <div className="col">
          <Field
            label="The system shall get"
            hint={reading(text, 'binary') ?? 'In GB or GiB'}
            error={box.ok ? undefined : box.problems[0]?.sentence}
          >
            {(ids) => (
              <Form.Control {...ids} value={text} onChange={(event) => setText(event.target.value)} />
            )}
          </Field>
        </div>
        <div className="col">
          <UnitField unit={unit} onUnit={setUnit} />
        </div>
      </div>
      {box.ok && (
        <>
          <p className="size-box-result mb-1">
            Type <strong>{box.value.type}</strong>{' '}
            <span className="soft">{unit === 'MiB' ? '(MiB, though it may say MB)' : `(${unit})`}</span>
          </p>
          <p className="soft mb-2">
            {explainSizeBox(box.value)} Typed as whole GB × 1000 it would come out{' '}
            {printBytes(Math.abs(box.value.missingBytes), 'binary')} too{' '}
            {box.value.missingBytes >= 0 ? 'small' : 'large'}.
          </p>
        </>
      )}
      {number !== undefined && number > 0 && number < 1_000_000 && <Meanings number={number} />}
      {wanted.ok && box.ok && children?.(wanted.value)}
    </>
  );
}

function Meanings({ number }: { readonly number: number }) {
  const { decimalBytes, binaryBytes, differenceBytes } = bothMeanings(number);
  return (
    <dl className="meanings" aria-label={`What ${number} GB may mean`}>
      <div>
        <dt>{number} × 1000³</dt>
        <dd>{printBothUnits(decimalBytes)}</dd>
      </div>
      <div>
        <dt>{number} × 1024³</dt>
        <dd>{printBothUnits(binaryBytes, 'binary')}</dd>
      </div>
      <div>
        <dt>between them</dt>
        <dd>{printBothUnits(differenceBytes)}</dd>
      </div>
    </dl>
  );
}

/** What to type into a shrink dialog, which asks for what is taken away. */
export function ShrinkDialogBox({ presentBytes }: { readonly presentBytes: number | undefined }) {
  const [present, setPresent] = useState(presentBytes === undefined ? '238 GiB' : `${presentBytes} B`);
  const [left, setLeft] = useState('120 GiB');
  const [unit, setUnit] = useState<BoxUnit>('MiB');
  const { parse, reading } = useSizes();
  const has = parse(present, 'binary');
  const keeps = parse(left, 'binary');
  const box = has.ok && keeps.ok ? shrinkBox(has.value, keeps.value, unit) : undefined;
  return (
    <>
      <div className="row g-2">
        <div className="col">
          <Field
            label="The partition has"
            hint={reading(present, 'binary')}
            error={has.ok ? undefined : has.problems[0]?.sentence}
          >
            {(ids) => (
              <Form.Control {...ids} value={present} onChange={(event) => setPresent(event.target.value)} />
            )}
          </Field>
        </div>
        <div className="col">
          <Field
            label="New size"
            hint={reading(left, 'binary')}
            error={
              !keeps.ok ? keeps.problems[0]?.sentence : box && !box.ok ? box.problems[0]?.sentence : undefined
            }
          >
            {(ids) => (
              <Form.Control {...ids} value={left} onChange={(event) => setLeft(event.target.value)} />
            )}
          </Field>
        </div>
        <div className="col">
          <UnitField unit={unit} onUnit={setUnit} />
        </div>
      </div>
      {box?.ok && (
        <p className="mb-0">
          <span className="size-box-result">
            Type <strong>{box.value.type}</strong> <span className="soft">to remove</span>
          </span>{' '}
          <span className="soft">
            {printBothUnits(box.value.takenBytes)} go, {printBothUnits(box.value.leftBytes)} stay. The dialog
            asks for the amount to remove, not for what is left.
          </span>
        </p>
      )}
    </>
  );
}
