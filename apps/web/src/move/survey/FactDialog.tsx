import { api } from '@ulvane/contract';
import { factTexts, type FactKey } from '@ulvane/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
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
  const input = factInput(factKey, house.catalogue);
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
    <Modal show onHide={onClose} aria-labelledby="fact-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title id="fact-title" as="h2">
            {label}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p className="soft">{howToFind}</p>
          <Problem error={error} />
          <Field label={label} hint={input.hint} error={unread}>
            {(ids) =>
              input.options ? (
                <Form.Select
                  {...ids}
                  value={text}
                  onChange={(event) => setText(event.target.value)}
                  autoFocus
                >
                  <option value="">choose …</option>
                  {input.options.map(({ value, label: name }) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </Form.Select>
              ) : (
                <Form.Control
                  {...ids}
                  value={text}
                  onChange={(event) => setText(event.target.value)}
                  autoFocus
                />
              )
            }
          </Field>
        </Modal.Body>
        <Modal.Footer>
          {move.facts[factKey] !== undefined && (
            <Button
              variant="quiet"
              disabled={busy}
              onClick={() => void change(api.forgetFact, {}, params).then((done) => done && onClose())}
            >
              Set back to unknown
            </Button>
          )}
          <Button type="submit" disabled={busy}>
            Keep
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
