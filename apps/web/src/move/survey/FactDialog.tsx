import { api } from '@ulvane/contract';
import { factTexts, type FactKey } from '@ulvane/core/survey';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { useOpenMove } from '../MoveContext';
import { useSizes } from '../../shell/useSizes';
import { factInput } from './factInputs';

/** Types one fact, or sets it back to unknown. */
export function FactDialog({
  factKey,
  onClose,
}: {
  readonly factKey: Exclude<FactKey, 'disks'>;
  readonly onClose: () => void;
}) {
  const { view, move, house } = useOpenMove();
  const { change, error, busy } = useChange(view);
  const input = factInput(factKey, house.catalogue, useSizes());
  const [text, setText] = useState(() => input.write(move.facts));
  const [unread, setUnread] = useState<string>();
  const { label, howToFind } = factTexts[factKey];
  const params = { key: factKey };

  const keep = async () => {
    if (text.trim() === '') return setUnread('Write a value, or set the fact back to unknown.');
    const read = input.read(text);
    if ('problem' in read) return setUnread(read.problem);
    setUnread(undefined);
    if (await change(api.typeFact, { value: z.json().parse(read.value) }, params)) onClose();
  };

  return (
    <FormDialog
      title={label}
      action="Save"
      error={error}
      busy={busy}
      beside={
        move.facts[factKey] === undefined ? undefined : (
          <Button
            variant="quiet"
            disabled={busy}
            onClick={() => void change(api.forgetFact, {}, params).then((done) => done && onClose())}
          >
            Set back to unknown
          </Button>
        )
      }
      onSubmit={() => void keep()}
      onClose={onClose}
    >
      <p className="soft">{howToFind}</p>
      <Field label={label} hint={input.reading?.(text) ?? input.hint} error={unread}>
        {(ids) =>
          input.options ? (
            <Form.Select {...ids} value={text} onChange={(event) => setText(event.target.value)} autoFocus>
              <option value="">choose …</option>
              {input.options.map(({ value, label: name }) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </Form.Select>
          ) : (
            <Form.Control {...ids} value={text} onChange={(event) => setText(event.target.value)} autoFocus />
          )
        }
      </Field>
    </FormDialog>
  );
}
