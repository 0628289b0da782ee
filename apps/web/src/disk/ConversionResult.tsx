import type { WritesFile } from '@ulvane/core/disk';
import type { Outcome } from '@ulvane/core/outcome';
import { useState, type ReactNode } from 'react';
import { useAnswer } from '../workers/useAnswer';
import type { Result } from '../workers/disk.worker';
import { DownloadLink } from './DownloadLink';
import { diskWorker } from './diskWorker';
import { ProblemList } from './ProblemList';

type ConversionResultProps = {
  readonly name: string;
  readonly serial: string | null;
  /** The plan that was made last: its files are asked for anew with each. */
  readonly of: object;
  /** What the image becomes, for its name. */
  readonly result: string;
  /** The capsule that the move keeps already. */
  readonly kept?: WritesFile | undefined;
  /** What can be done with the capsule beside saving it. */
  readonly children?: (result: Result) => ReactNode;
};

/** What a plan comes to as files: first the capsule that undoes it, then what is written. */
export function ConversionResult({ name, serial, of, result: word, kept, children }: ConversionResultProps) {
  const result = useAnswer<Outcome<Result>>(of, async () => await diskWorker().result(serial));
  const [saved, setSaved] = useState<object>();
  if (!result) return <p role="status">Reading the old sectors …</p>;
  if (!result.ok) return <ProblemList problems={result.problems} />;
  const { writes, capsule, image, head, tail } = result.value;
  const file = name.replaceAll(/[^a-zA-Z0-9.-]+/g, '-').replace(/^-|-$/g, '');
  const safe = saved === of || (kept !== undefined && bringsBack(kept, capsule));
  return (
    <div className="mt-2">
      <p className="caution mb-1">
        Ulvane writes to no disk. What is saved here is put onto one by a person with a tool of their own,
        serial number and size compared, after the capsule has been kept apart from that disk.
      </p>
      <div className="d-flex flex-wrap gap-2">
        <DownloadLink content={capsule} name={`${file}-undo-capsule.json`} onSave={() => setSaved(of)}>
          Save the undo capsule
        </DownloadLink>
        {children?.(result.value)}
      </div>
      {!safe && (
        <p className="mt-2 mb-0">
          What is written is offered once the capsule is saved: it alone brings the old table back.
        </p>
      )}
      {safe && (
        <div className="d-flex flex-wrap gap-2 mt-2">
          <DownloadLink content={writes} name={`${file}-sectors.json`}>
            Save the list of sectors
          </DownloadLink>
          {image && (
            <DownloadLink content={image} name={`${file}-${word}.img`}>
              Save the {word === 'fixed' ? 'fixed' : 'converted'} image
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
      )}
      {safe && !head && !tail && (
        <p className="small-print mb-0 mt-1">
          Sectors between the partitions are written, too: head and tail alone would not do.
        </p>
      )}
    </div>
  );
}

/** Whether a capsule that is kept holds all the sectors of another, as they are on the disk now. */
function bringsBack(kept: WritesFile, capsule: WritesFile): boolean {
  const held = new Set(kept.writes.map(({ startLba, after }) => `${startLba} ${after}`));
  return capsule.writes.every(({ startLba, after }) => held.has(`${startLba} ${after}`));
}
