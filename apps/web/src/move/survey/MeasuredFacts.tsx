import type { Assessment } from '@ulvane/core/assess';
import { printBytes } from '@ulvane/core/quantity';
import { factTexts, valueOf, type Facts } from '@ulvane/core/survey';
import Form from 'react-bootstrap/Form';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';
import { factInput } from './factInputs';
import { measuredKeys, type SheetKey } from './sheetDraft';

type MeasuredFactsProps = {
  readonly facts: Facts;
  /** Of the release that the advice leads to; undefined where it leads to none. */
  readonly assessment: Assessment | undefined;
  readonly target: string;
  readonly from: number;
  readonly texts: Readonly<Partial<Record<SheetKey, string>>>;
  readonly problems: Readonly<Partial<Record<SheetKey, string>>>;
  readonly onText: (key: SheetKey, text: string) => void;
};

/** A size is read with one digit; typed over, it is read as it is written. */
function shownText(key: SheetKey, facts: Facts, exact: string): string {
  const bytes = key === 'memoryBytes' ? valueOf(facts, key) : undefined;
  return bytes === undefined ? exact : printBytes(bytes, 'binary');
}

/** What the survey measured, beside what the advised release needs of it; typed over where it is wrong. */
export function MeasuredFacts(props: MeasuredFactsProps) {
  const { facts, assessment, target, from, texts, problems, onText } = props;
  const { house } = useOpenMove();
  const sizes = useSizes();
  const known = measuredKeys.filter((key) => facts[key] !== undefined);
  if (known.length === 0) return null;
  const needOf = (key: SheetKey) =>
    assessment?.judgements.find(({ facts: read }) => read.includes(key))?.sentence;
  return (
    <section aria-labelledby="sheet-measured" className="sheet-measured">
      <h2 id="sheet-measured">
        Measured{' '}
        <span className="soft">
          {target === ''
            ? 'type over what is wrong'
            : `beside the need of ${target}; type over what is wrong`}
        </span>
      </h2>
      <ul>
        {known.map((key, index) => {
          const input = factInput(key, house.catalogue, sizes);
          const problem = problems[key];
          const measured = shownText(key, facts, input.write(facts));
          const typed = texts[key] ?? '';
          const text = typed === '' ? measured : typed;
          return (
            <li key={key} data-fact={key} className={typed === '' ? 'answered' : 'open'}>
              <span className="order" aria-hidden="true">
                {from + index}
              </span>
              <label htmlFor={`measured-${key}`}>
                <strong>{factTexts[key].label}</strong>{' '}
                <span className={problem === undefined ? 'soft' : 'caution'}>
                  {problem ?? needOf(key) ?? ''}
                </span>
              </label>
              <Form.Control
                id={`measured-${key}`}
                size="sm"
                value={text}
                aria-invalid={problem !== undefined}
                onChange={({ target: { value } }) => onText(key, value === measured ? '' : value)}
              />
            </li>
          );
        })}
      </ul>
    </section>
  );
}
