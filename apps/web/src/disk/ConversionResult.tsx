import type { ConversionPlan, Outcome } from '@ulvane/core';
import type { ReactNode } from 'react';
import { useAnswer } from '../workers/useAnswer';
import type { Result } from '../workers/disk.worker';
import { DownloadLink } from './DownloadLink';
import { diskWorker } from './diskWorker';
import { ProblemList } from './ProblemList';

type ConversionResultProps = {
  readonly name: string;
  readonly serial: string | null;
  readonly plan: ConversionPlan;
  /** What can be done with the capsule beside saving it. */
  readonly children?: (result: Result) => ReactNode;
};

/** What the conversion comes to as files, and the capsule that undoes it. */
export function ConversionResult({ name, serial, plan, children }: ConversionResultProps) {
  // Documents and files of the plan that was made last.
  const result = useAnswer<Outcome<Result>>(plan, async () => await diskWorker().result(serial));
  if (!result) return <p role="status">Reading the old sectors …</p>;
  if (!result.ok) return <ProblemList problems={result.problems} />;
  const { writes, capsule, image, head, tail } = result.value;
  const file = name.replaceAll(/[^a-zA-Z0-9.-]+/g, '-').replace(/^-|-$/g, '');
  return (
    <div className="mt-2">
      <p className="caution mb-1">
        Ulvane writes to no disk. What is saved here is put onto one by a person with a tool of their own,
        both marks compared, after the capsule has been kept apart from that disk.
      </p>
      <div className="d-flex flex-wrap gap-2">
        <DownloadLink content={capsule} name={`${file}-undo-capsule.json`}>
          Save the undo capsule
        </DownloadLink>
        <DownloadLink content={writes} name={`${file}-sectors.json`}>
          Save the list of sectors
        </DownloadLink>
        {image && (
          <DownloadLink content={image} name={`${file}-${plan.target}.img`}>
            Save the converted image
          </DownloadLink>
        )}
        {head && (
          <DownloadLink content={head.bytes} name={`${file}-head-from-${head.startLba}.bin`}>
            Save the head
          </DownloadLink>
        )}
        {tail && (
          <DownloadLink content={tail.bytes} name={`${file}-tail-from-${tail.startLba}.bin`}>
            Save the tail
          </DownloadLink>
        )}
      </div>
      {children?.(result.value)}
      {!head && !tail && (
        <p className="small-print mb-0 mt-1">
          Sectors between the partitions are written, too: head and tail alone would not do.
        </p>
      )}
    </div>
  );
}
