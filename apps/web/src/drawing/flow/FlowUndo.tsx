import type { DiskFlow } from '@ulvane/core/disk';
import type { FlowScale } from './flowScale';

/** Below each column the way back with its time; behind the Line there is none. */
export function FlowUndo({ flow, scale }: { readonly flow: DiskFlow; readonly scale: FlowScale }) {
  return (
    <g className="flow-undo" transform="translate(0 352)">
      {flow.columns.map((column, index) => {
        const left = scale.x(index) + 14;
        const right = scale.x(index + 1) - 12;
        const middle = (left + right) / 2;
        const beyond = flow.lineBefore !== undefined && index >= flow.lineBefore;
        const minutes = column.operations.reduce((sum, { undoMinutes }) => sum + undoMinutes, 0);
        const half = beyond ? 60 : 44;
        return (
          <g key={`${index} ${column.title}`} className={beyond ? 'beyond' : undefined}>
            <path
              d={
                beyond
                  ? `M${left} 2v14M${left} 9H${middle - half}M${middle + half} 9H${right}`
                  : `M${left + 9} 4L${left} 9L${left + 9} 14M${left} 9H${middle - half}M${middle + half} 9H${right}V2`
              }
            />
            <text x={middle} y="14" textAnchor="middle" className="strong">
              {beyond ? 'cannot be undone' : `undo, ${minutes} min`}
            </text>
          </g>
        );
      })}
    </g>
  );
}
