import { asksForCopies } from '@ulvane/core/record';
import { nextOnSave, type NextOnSave, type SaveFlow } from '@ulvane/core/backup';
import type { CopiesOfDataSet } from '@ulvane/core/backup';
import Button from 'react-bootstrap/Button';
import { useOpenMove } from '../MoveContext';

const buttons: Record<Exclude<NextOnSave['act']['kind'], 'none'>, string> = {
  'name-sets': 'Name them',
  'add-set': 'Add a data set',
  'add-destination': 'Add a destination',
  pack: 'Pack',
  read: 'Read every file',
  compare: 'Compare',
};

type NextStepProps = {
  readonly flow: SaveFlow;
  readonly status: readonly CopiesOfDataSet[];
  /** Absent where nothing may be changed. */
  readonly onAct?: ((act: NextOnSave['act']) => void) | undefined;
};

/** One line: how many copies count, what to do next, and the button that does it. */
export function NextStep({ flow, status, onAct }: NextStepProps) {
  const { move } = useOpenMove();
  const next = nextOnSave({
    ...move,
    flow,
    status,
    nothingToSave: move.preparation.nothingToSave !== null || !asksForCopies(move),
  });
  return (
    <section className="next-step" aria-label="Next on Save">
      <p className="count">
        <strong>
          {flow.counted} of {flow.planned}
        </strong>
        copies count
      </p>
      <div>
        <h2>{next.sentence}</h2>
        <p>{next.detail}</p>
      </div>
      {onAct && next.act.kind !== 'none' && (
        <Button className="ms-auto" onClick={() => onAct(next.act)}>
          {buttons[next.act.kind]}
        </Button>
      )}
    </section>
  );
}
