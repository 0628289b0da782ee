import type { Fate, Segment } from '@ulvane/core/disk';
import { printBothUnits } from '@ulvane/core/quantity';
import type { ReactNode } from 'react';

const fateWords: Readonly<Record<Fate, string>> = {
  kept: 'stays',
  moved: 'moves',
  erased: 'erased',
  new: 'new',
  unknown: 'unknown',
};

type SegmentTableProps = {
  readonly sectorSizeBytes: number;
  readonly before: readonly Segment[];
  readonly after: readonly Segment[] | undefined;
  /** More that belongs to it. */
  readonly children?: ReactNode;
};

/** The tape in words and numbers; longer runs of free space are named, too. */
export function SegmentTable({ sectorSizeBytes, before, after, children }: SegmentTableProps) {
  const aMebibyte = 1024 ** 2 / sectorSizeBytes;
  const rows = [
    ...before.map((segment) => ({ when: 'now', segment })),
    ...(after ?? []).map((segment) => ({ when: 'after', segment })),
  ].filter(({ segment }) => segment.kind === 'partition' || segment.sectorCount > aMebibyte);
  return (
    <details className="mt-1">
      <summary className="small-print">Show as a table</summary>
      <div className="table-scroll">
        <table className="table">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Partition</th>
              <th scope="col" className="number">
                Size
              </th>
              <th scope="col" className="number">
                First and last sector
              </th>
              <th scope="col">Fate</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ when, segment }) => (
              <tr key={`${when} ${segment.startLba}`}>
                <td>{when}</td>
                <td>
                  {segment.partitionNumber !== undefined && `${segment.partitionNumber}: `}
                  {segment.label}
                </td>
                <td className="number">{printBothUnits(segment.sectorCount * sectorSizeBytes)}</td>
                <td className="number mono">
                  {segment.startLba} – {segment.startLba + segment.sectorCount - 1}
                </td>
                <td>{segment.kind === 'free' ? '' : fateWords[segment.fate]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {children}
    </details>
  );
}
