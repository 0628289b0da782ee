import { printCount } from '@ulvane/core/quantity';
import { stageTitles } from '@ulvane/core/record';
import { totalMinutes, type Step } from '@ulvane/core/runbook';
import { HandsBar } from '../../drawing/HandsBar';

type FoldRowProps = {
  /** Of one stage, in their order. */
  readonly steps: readonly Step[];
  /** Of the first of them, counted from 1. */
  readonly first: number;
  readonly isSigned: boolean;
  readonly isOpen: boolean;
  readonly fullMinutes: number;
  /** When the first was or will be begun: a clock time. */
  readonly when: string;
  readonly onToggle: () => void;
};

/** Titles as far as they go on one line. */
function summary(steps: readonly Step[]): string {
  const shown = steps.slice(0, 3).map(({ title }) => title);
  const more = steps.length - shown.length;
  return `${shown.join(' · ')}${more > 0 ? ` · ${more} more` : ''}`;
}

/** Steps of one stage on one line, with their time together. */
export function FoldRow({ steps, first, isSigned, isOpen, fullMinutes, when, onToggle }: FoldRowProps) {
  const { handsOn, waiting } = totalMinutes(steps);
  const [one] = steps;
  if (!one) return null;
  return (
    <li className={`fold-row${isSigned ? ' signed' : ''}`} id={`stage-${one.stage}-${first}`}>
      <button type="button" className="run-line" aria-expanded={isOpen} onClick={onToggle}>
        <span className="run-number">
          {first}–{first + steps.length - 1}
        </span>
        <span className="run-summary">
          <strong>{stageTitles[one.stage]}</strong>
          {isSigned
            ? `, ${printCount(steps.length, 'step')} signed`
            : `, ${printCount(steps.length, 'step')}`}
          <span className="soft">: {summary(steps)}</span>
        </span>
        <HandsBar handsOnMinutes={handsOn.likely} waitingMinutes={waiting.likely} fullMinutes={fullMinutes} />
        <span className="run-when">{when}</span>
      </button>
    </li>
  );
}
