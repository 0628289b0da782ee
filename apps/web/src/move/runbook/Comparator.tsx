import Form from 'react-bootstrap/Form';

type ComparatorProps = {
  readonly number: number;
  readonly label: string;
  readonly value: string;
  /** What it is compared with; covered until as much has been typed. */
  readonly expected: string;
  /** Whether the whole agrees; undefined until enough has been typed. */
  readonly agrees: boolean | undefined;
  readonly sentence: string;
  readonly from: string;
  readonly maxLength: number;
  readonly disabled: boolean;
  readonly onValue: (value: string) => void;
};

/** What somebody types above, what the survey says below; the lower row is covered until the last sign is typed. */
export function Comparator(props: ComparatorProps) {
  const { number, label, value, expected, agrees, sentence, from, maxLength, disabled, onValue } = props;
  const cells = Array.from({ length: Math.max(expected.length, value.length) }, (_none, index) => index);
  const open = agrees !== undefined;
  return (
    <div className="comparator">
      <label htmlFor={`crossing-${number}`}>
        <span className="comparator-number">{number}</span> {label}
      </label>
      <div className="comparator-row">
        <div>
          <Form.Control
            id={`crossing-${number}`}
            className="mono"
            autoComplete="off"
            spellCheck={false}
            maxLength={maxLength}
            value={value}
            disabled={disabled}
            aria-describedby={`crossing-${number}-said`}
            onChange={({ target }) => onValue(target.value)}
          />
          <div className="comparator-cells" aria-hidden="true">
            {cells.map((index) => {
              const typed = value[index] ?? '';
              const known = expected[index] ?? '';
              const same = open && typed.toLowerCase() === known.toLowerCase();
              return (
                <span key={index} className={open ? (same ? 'same' : 'differs') : 'covered'}>
                  <b>{typed}</b>
                  <i>{open && same ? '‖' : ''}</i>
                  <b>{open ? known : ''}</b>
                </span>
              );
            })}
          </div>
        </div>
        <p id={`crossing-${number}-said`} className="mb-0" role="status">
          {open ? <strong>{sentence}</strong> : <span className="soft">covered until it is typed</span>}
          {open && <span className="soft d-block">{from}</span>}
        </p>
      </div>
    </div>
  );
}
