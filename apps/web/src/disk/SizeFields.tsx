import type { SizeRange } from '@ulvane/core/disk';
import type { Outcome } from '@ulvane/core/outcome';
import { gibibyteBytes, mebibyteBytes, printBytes, type UnitFamily } from '@ulvane/core/quantity';
import { useId, useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useSizes, type Sizes } from '../shell/useSizes';

type SizeFieldsProps = {
  readonly label: string;
  readonly sizeBytes: number | undefined;
  readonly range: SizeRange | undefined;
  readonly onSize: (sizeBytes: number) => void;
};

/** One size in two fields, GB and GiB: what is typed in one is calculated in the other. */
export function SizeFields({ label, sizeBytes, range, onSize }: SizeFieldsProps) {
  const id = useId();
  const { parse } = useSizes();
  const [typed, setTyped] = useState<{ readonly family: UnitFamily; readonly text: string }>();
  const parsed = typed && parsedIn(parse, typed.text, typed.family);
  const error = parsed && !parsed.ok ? parsed.problems[0]?.sentence : undefined;
  // What was typed stays as it was typed; the other field follows.
  const shown = (family: UnitFamily) =>
    typed?.family === family ? typed.text : sizeBytes === undefined ? '' : numberOf(sizeBytes, family);
  const field = (family: UnitFamily, unit: string) => (
    <span className="size-field">
      <Form.Control
        id={`${id}-${family}`}
        aria-label={`${label}, ${unit}`}
        aria-describedby={`${id}-range`}
        aria-invalid={typed?.family === family && error !== undefined}
        inputMode="decimal"
        value={shown(family)}
        onChange={({ target }) => {
          setTyped({ family, text: target.value });
          const size = parsedIn(parse, target.value, family);
          if (size.ok && size.value >= mebibyteBytes) onSize(size.value);
        }}
        onBlur={() => setTyped(undefined)}
      />
      <span aria-hidden="true">{unit}</span>
    </span>
  );
  return (
    <div className="size-fields" role="group" aria-label={label}>
      <span>{label}</span> {field('decimal', 'GB')} <span aria-hidden="true">=</span> {field('binary', 'GiB')}
      <span id={`${id}-range`} className="soft">
        {range &&
          `possible: ${printBytes(range.minBytes, 'decimal')} to ${printBytes(range.maxBytes, 'decimal')}`}
      </span>
      {error !== undefined && (
        <span className="field-error" role="alert">
          {error}
        </span>
      )}
    </div>
  );
}

/** A number is of the unit beside the field; who writes another unit means it. */
function parsedIn(parse: Sizes['parse'], text: string, family: UnitFamily): Outcome<number> {
  const bare = /^[\s\d.,]+$/.test(text);
  return parse(bare ? `${text.trim()} ${family === 'decimal' ? 'GB' : 'GiB'}` : text, family);
}

/** @example numberOf(60 * 1024 ** 3, 'binary') // '60' */
function numberOf(sizeBytes: number, family: UnitFamily): string {
  const unit = family === 'decimal' ? 1000 ** 3 : gibibyteBytes;
  // Two digits mean one thing in every house; three could be thousands.
  return String(Math.round((sizeBytes / unit) * 100) / 100);
}
