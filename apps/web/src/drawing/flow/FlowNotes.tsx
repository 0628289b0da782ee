import type { DiskFlow, FlowColumn } from '@ulvane/core/disk';
import { printBothUnits, printBytes } from '@ulvane/core/quantity';

type ColumnsProps = { readonly flow: DiskFlow; readonly columnWidth: number };
type HeadsProps = ColumnsProps & { readonly empty: string };

const gridOf = ({ flow, columnWidth }: ColumnsProps) => ({
  gridTemplateColumns: `repeat(${Math.max(1, flow.columns.length)}, ${columnWidth}px)`,
});

/** Each operation by number and name, with what to type. */
export function FlowHeads(props: HeadsProps) {
  const { flow, empty, columnWidth } = props;
  return (
    <ol className="flow-heads" style={gridOf(props)}>
      {flow.columns.length === 0 && <li>{empty}</li>}
      {flow.columns.map((column, index) => {
        const [first] = column.operations;
        const amount = amountOf(column);
        const crossed = flow.lineBefore !== undefined && index >= flow.lineBefore;
        return (
          <li key={`${index} ${column.title}`} className={crossed ? 'beyond' : undefined}>
            <strong>
              <span className="disc">{index + 1}</span> {column.title}
            </strong>
            {amount !== undefined && (
              <span>
                {first?.kind === 'shrink' || first?.kind === 'grow' || first?.kind === 'move' ? 'by ' : ''}
                {columnWidth < 200
                  ? printBytes(amount, 'decimal')
                  : printBothUnits(amount).replace(' (', ', ').replace(')', '')}
              </span>
            )}
            {first?.typeMebibytes !== undefined && (
              <span>
                {first.kind === 'shrink' ? 'take away: ' : 'size box: '}
                <b className="mono">{first.typeMebibytes}</b> MiB
              </span>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** What each operation takes, what a power cut does, and the way back. */
export function FlowNotes(props: ColumnsProps) {
  const { flow } = props;
  const longest = Math.max(1, ...flow.columns.map(minutesOf));
  return (
    <ol className="flow-notes" style={gridOf(props)}>
      {flow.columns.map((column, index) => {
        const minutes = minutesOf(column);
        const hands = column.operations.reduce((sum, one) => sum + one.handsMinutes, 0);
        const last = column.operations.at(-1);
        const beyond = flow.lineBefore !== undefined && index >= flow.lineBefore;
        return (
          <li key={`${index} ${column.title}`}>
            <span>
              <strong>{hands} min</strong> hands-on
              {minutes > hands && (
                <>
                  , <strong>{minutes - hands} min</strong> waiting
                </>
              )}
            </span>
            <span className="flow-time" aria-hidden="true">
              <i style={{ width: `${(hands / longest) * 100}%` }} />
              {minutes > hands && (
                <i className="waiting" style={{ width: `${((minutes - hands) / longest) * 100}%` }} />
              )}
            </span>
            <span>
              <strong>Power cut:</strong> {last?.ifPowerFails}
            </span>
            <span>
              <strong>Undo:</strong>{' '}
              {beyond ? 'none: what stood there is written over. Its copies count.' : last?.undo}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

export function minutesOf({ operations }: FlowColumn): number {
  return operations.reduce((sum, { minutes }) => sum + minutes, 0);
}

/** What an operation gives, takes or is made of; of deletions in a row together. */
function amountOf({ operations }: FlowColumn): number | undefined {
  const [first] = operations;
  return first?.kind === 'delete'
    ? operations.reduce((sum, { amountBytes = 0 }) => sum + amountBytes, 0)
    : first?.amountBytes;
}
