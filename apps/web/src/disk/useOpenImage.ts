import type { PartitionTable } from '@ulvane/core/disk';
import type { Outcome, Problem } from '@ulvane/core/outcome';
import { useCallback, useState } from 'react';
import { diskWorker } from './diskWorker';
import type { ImagePart } from '../workers/disk.worker';

type OpenImage = {
  /** Another one for each opening: two files may have one name. */
  readonly opening: number;
  readonly name: string;
  readonly table: PartitionTable;
  /** Set when a part of the disk was given and not the whole of it. */
  readonly partial: boolean;
  /** Read with the other sector size than was expected, because the image says so. */
  readonly otherSize: boolean;
};

/** What is known of the disk that the sectors are of; null at the bench, where the file is the disk. */
type KnownDisk = { readonly sectorBytes: number; readonly sectorCount: number } | null;

let openings = 0;

function saysOtherSize(outcome: Outcome<PartitionTable>): boolean {
  return outcome.ok && outcome.value.findings.some(({ code }) => code === 'sector-size-other');
}

/** Opens images and heads and tails of disks in the worker, by slices: nothing is loaded whole. */
export function useOpenImage(known: KnownDisk) {
  const [image, setImage] = useState<OpenImage>();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [files, setFiles] = useState<readonly File[]>([]);
  const [sectorSizeBytes, setSectorSize] = useState(known?.sectorBytes ?? 512);

  const open = useCallback(
    async (given: readonly File[], asked: number | undefined) => {
      setFiles(given);
      const [head, tail] = given;
      if (!head) return;
      const diskBytes = known ? known.sectorBytes * known.sectorCount : head.size;
      const readWith = async (size: number) => {
        const sectorCount = Math.floor(diskBytes / size);
        const parts: ImagePart[] = [{ file: head, startLba: 0 }];
        if (tail) parts.push({ file: tail, startLba: sectorCount - Math.floor(tail.size / size) });
        return { size, outcome: await diskWorker().open(parts, size, sectorCount) };
      };
      const first = await readWith(asked ?? known?.sectorBytes ?? 512);
      let read = first;
      // The image says that its sectors have the other size: it is read so, unless somebody asked for this one.
      if (asked === undefined && saysOtherSize(first.outcome)) {
        const other = await readWith(first.size === 512 ? 4096 : 512);
        read =
          other.outcome.ok && other.outcome.value.partitions.length > 0 ? other : await readWith(first.size);
      }
      setSectorSize(read.size);
      setProblems(read.outcome.ok ? [] : read.outcome.problems);
      setImage(
        read.outcome.ok
          ? {
              opening: (openings += 1),
              name: given.map(({ name }) => name).join(' and '),
              table: read.outcome.value,
              partial: known !== null && head.size < diskBytes,
              otherSize: read.size !== first.size,
            }
          : undefined,
      );
    },
    [known],
  );

  return {
    image,
    problems,
    sectorSizeBytes,
    take: (given: readonly File[]) => open(given, undefined),
    readAs: (size: number) => open(files, size),
    close: () => {
      setImage(undefined);
      setFiles([]);
      setProblems([]);
    },
  };
}
