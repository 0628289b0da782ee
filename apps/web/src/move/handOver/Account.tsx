import { printCount } from '@ulvane/core/quantity';
import { filesFlow } from '@ulvane/core/record';
import { FilesFlowFigure } from '../../drawing/filesFlow/FilesFlowFigure';
import { useOpenMove } from '../MoveContext';

/** Every file accounted for: what became of the files that were compared, and which data sets were not. */
export function Account() {
  const { move } = useOpenMove();
  const flow = filesFlow(move);
  if (move.dataSets.length === 0) return null;
  const names = (sets: readonly { readonly name: string }[]) => sets.map(({ name }) => name).join(', ');
  return (
    <section className="sheet" aria-labelledby="account-title">
      <h2 id="account-title">{flow.sentence}</h2>
      {flow.before > 0 && <FilesFlowFigure flow={flow} />}
      {flow.open > 0 && (
        <p className="mb-0">
          <strong>{printCount(flow.open, 'difference')} without a reason.</strong> The step that accounts for
          every file signs itself after the last one.
        </p>
      )}
      {flow.notCompared.length > 0 && <p className="mb-0">Not compared yet: {names(flow.notCompared)}.</p>}
      {flow.counted.length > 0 && (
        <p className="soft mb-0">Only counted, not compared: {names(flow.counted)}.</p>
      )}
    </section>
  );
}
