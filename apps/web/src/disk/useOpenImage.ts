import type { PartitionTable, Problem } from '@ulvane/core';
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
};

/** What is known of the disk that the sectors are of; null at the bench, where the file is the disk. */
type KnownDisk = { readonly sectorBytes: number; readonly sectorCount: number } | null;

let openings = 0;

/** Opens images and heads and tails of disks in the worker, by slices: nothing is loaded whole. */
export function useOpenImage(known: KnownDisk) {
  const [image, setImage] = useState<OpenImage>();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const [files, setFiles] = useState<readonly File[]>([]);
  const [sectorSizeBytes, setSectorSize] = useState(known?.sectorBytes ?? 512);

  const open = useCallback(
    async (given: readonly File[], size: number) => {
      setFiles(given);
      setSectorSize(size);
      const [head, tail] = given;
      if (!head) return;
      const diskBytes = known ? known.sectorBytes * known.sectorCount : head.size;
      const partial = known !== null && head.size < diskBytes;
      const sectorCount = Math.floor((known ? diskBytes : head.size) / size);
      const parts: ImagePart[] = [{ file: head, startLba: 0 }];
      if (tail) parts.push({ file: tail, startLba: sectorCount - Math.floor(tail.size / size) });
      const read = await diskWorker().open(parts, size, sectorCount);
      setProblems(read.ok ? [] : read.problems);
      setImage(
        read.ok
          ? {
              opening: (openings += 1),
              name: given.map(({ name }) => name).join(' and '),
              table: read.value,
              partial,
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
    take: (given: readonly File[]) => open(given, sectorSizeBytes),
    readAs: (size: number) => open(files, size),
    close: () => {
      setImage(undefined);
      setFiles([]);
      setProblems([]);
    },
  };
}
