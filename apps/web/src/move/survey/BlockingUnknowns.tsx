import { printCount } from '@ulvane/core/quantity';
import type { BlockingUnknown } from '@ulvane/core/decide';
import type { FactKey } from '@ulvane/core/survey';

type BlockingUnknownsProps = {
  readonly unknowns: readonly BlockingUnknown[];
  /** Absent where nothing may be changed. */
  readonly onEnter: ((key: FactKey) => void) | undefined;
};

/** Everything unknown that is in the way of an option, each to be entered where it is listed. */
export function BlockingUnknowns({ unknowns, onEnter }: BlockingUnknownsProps) {
  if (unknowns.length === 0) return null;
  return (
    <ul className="check-rows" aria-label="What is unknown and in the way">
      {unknowns.map(({ key, label, sentence, howToFind, waiting }) => (
        <li key={`${key} ${sentence}`}>
          <strong>{label}</strong>{' '}
          <span className="soft">
            {printCount(waiting, 'option')} {waiting === 1 ? 'waits' : 'wait'} for it
          </span>
          <br />
          {sentence} <span className="soft">{howToFind}</span>{' '}
          {onEnter && (
            <button
              type="button"
              className="btn-plain no-print"
              onClick={() => onEnter(key)}
              aria-label={`Enter: ${label}, ${sentence}`}
            >
              Enter
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
