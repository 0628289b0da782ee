import type { PlannedOperation } from '@ulvane/core/disk';

function riskWord(risk: number): string {
  if (risk === 0) return 'none';
  return risk < 10 ? 'little' : 'loses data if broken off';
}

/** The operations of a plan in their order: time, risk, what a power cut does, and the way back. */
export function Operations({ operations }: { readonly operations: readonly PlannedOperation[] }) {
  if (operations.length === 0) return null;
  return (
    <div className="table-scroll">
      <table className="table operations">
        <thead>
          <tr>
            <th scope="col">Operation</th>
            <th scope="col" className="number">
              Minutes
            </th>
            <th scope="col">Risk</th>
            <th scope="col">If the power fails · undo</th>
          </tr>
        </thead>
        <tbody>
          {operations.map((operation, index) => (
            <tr key={`${index} ${operation.kind}`}>
              <td>{operation.sentence}</td>
              <td className="number">{operation.minutes}</td>
              <td>{riskWord(operation.risk)}</td>
              <td className="small-print">
                {operation.ifPowerFails} <span className="d-block">Undo: {operation.undo}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
