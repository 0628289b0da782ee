import { printCount } from '@ulvane/core/quantity';
import { factTexts } from '@ulvane/core/survey';
import { useMemo } from 'react';
import Form from 'react-bootstrap/Form';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';
import { factInput } from './factInputs';
import type { SheetKey } from './sheetDraft';

type FactRowProps = {
  readonly factKey: SheetKey;
  readonly number: number;
  /** Options that wait for it. */
  readonly waiting: number;
  readonly text: string;
  readonly problem: string | undefined;
  readonly onText: (text: string) => void;
  readonly onFocus: () => void;
  /** What an answer would make of the advice. */
  readonly leadsTo: (key: SheetKey, text: string) => string;
};

/** So many answers stand as buttons; more are a list to pick from. */
const maxButtons = 6;

/** Answers that are numbers and stand for themselves. */
const steps: Readonly<Partial<Record<SheetKey, readonly (readonly [string, string])[]>>> = {
  graphicsTier: [
    ['1', '1: draws windows'],
    ['2', '2: smoothly'],
    ['3', '3: drawing work'],
    ['4', '4: workstation'],
  ],
};

/** The answer that a key means: figures by their number, arrows the one beside; undefined where it means none. */
function answerByKey(
  key: string,
  answers: readonly { readonly value: string }[],
  text: string,
): string | undefined {
  const values = [...answers.map(({ value }) => value), ''];
  if (key === '0') return '';
  if (/^[1-9]$/.test(key)) return answers[Number(key) - 1]?.value;
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[key];
  if (step === undefined) return undefined;
  // From “don’t know”, where nobody has chosen, the first is one on.
  const at = text === '' ? (step > 0 ? -1 : values.length - 1) : values.indexOf(text);
  return values[(at + step + values.length) % values.length];
}

/** One fact: where to read it, its answers with what each leads to, and what it unlocks. */
export function FactRow({ factKey, number, waiting, text, problem, onText, onFocus, leadsTo }: FactRowProps) {
  const { house } = useOpenMove();
  const sizes = useSizes();
  const input = useMemo(() => factInput(factKey, house.catalogue, sizes), [factKey, house.catalogue, sizes]);
  const { label, howToFind } = factTexts[factKey];
  const options = useMemo(
    () => steps[factKey]?.map(([value, name]) => ({ value, label: name })) ?? input.options,
    [factKey, input],
  );
  const buttons = options && options.length <= maxButtons ? options : undefined;
  const ends = useMemo(
    () => new Map(buttons?.map(({ value }) => [value, leadsTo(factKey, value)])),
    [buttons, leadsTo, factKey],
  );
  const id = `fact-${factKey}`;
  return (
    <li data-fact={factKey} className={text === '' ? 'open' : 'answered'} onFocus={onFocus}>
      <span className="order" aria-hidden="true">
        {number}
      </span>
      <span>
        <label className="fact-name" htmlFor={id} id={`${id}-name`}>
          {label}
        </label>
        <span className="soft d-block">{howToFind}</span>
      </span>
      {buttons ? (
        <span
          className="answers"
          role="radiogroup"
          aria-labelledby={`${id}-name`}
          onKeyDown={(event) => {
            const chosen = answerByKey(event.key, buttons, text);
            if (chosen === undefined) return;
            event.preventDefault();
            onText(chosen);
            // The answer that is chosen is the group's one tab stop, and keeps the focus.
            const place = buttons.findIndex(({ value }) => value === chosen);
            const answers = event.currentTarget.querySelectorAll('button');
            answers[place < 0 ? buttons.length : place]?.focus();
          }}
        >
          {buttons.map(({ value, label: name }, index) => (
            <button
              key={value}
              id={index === 0 ? id : undefined}
              type="button"
              role="radio"
              aria-checked={text === value}
              tabIndex={text === value || (text === '' && index === 0) ? 0 : -1}
              className="answer"
              onClick={() => onText(value)}
            >
              <span>
                <kbd>{index + 1}</kbd> {name}
              </span>
              <span className="soft">{ends.get(value)}</span>
            </button>
          ))}
          <button
            type="button"
            role="radio"
            aria-checked={text === ''}
            tabIndex={-1}
            className="answer unknown"
            onClick={() => onText('')}
          >
            <span>
              <kbd>0</kbd> Don’t know
            </span>
            <span className="soft">stays open</span>
          </button>
        </span>
      ) : (
        <span className="answers">
          {options ? (
            <Form.Select id={id} size="sm" value={text} onChange={({ target }) => onText(target.value)}>
              <option value="">Don’t know</option>
              {options.map(({ value, label: name }) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </Form.Select>
          ) : (
            <Form.Control
              id={id}
              size="sm"
              value={text}
              aria-describedby={`${id}-hint`}
              aria-invalid={problem !== undefined}
              onChange={({ target }) => onText(target.value)}
            />
          )}
          <span id={`${id}-hint`} className={problem === undefined ? 'soft' : 'caution'}>
            {problem ??
              (text === ''
                ? (input.hint ?? 'Empty: it stays open.')
                : (input.reading?.(text) ?? leadsTo(factKey, text)))}
          </span>
        </span>
      )}
      <span className="unlocks">
        {waiting > 0 ? (
          <>
            <strong>{printCount(waiting, 'option')}</strong> {waiting === 1 ? 'waits' : 'wait'}
            <span className="bar" style={{ width: `${Math.min(100, waiting * 3)}%` }} aria-hidden="true" />
          </>
        ) : (
          'Could change the advice.'
        )}
      </span>
    </li>
  );
}
