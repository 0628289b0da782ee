import { fileSystemLimit } from '../catalogue/fileSystems';
import { printBothUnits } from '../quantity/bytes';
import type { DataSet, Destination } from './dataSet';

export type Fit = {
  readonly destinationId: string;
  readonly neededBytes: number;
  readonly freeBytes: number;
  /** Positive: left over. Negative: missing. */
  readonly spareBytes: number;
  readonly fits: boolean;
  /** Reading form, in both unit families. */
  readonly sentence: string;
  /** Data sets that hold a file larger than the file system takes. */
  readonly refused: readonly { readonly dataSetId: string; readonly sentence: string }[];
};

/**
 * Whether the data sets that a destination takes fit on it, and by how much.
 * @example fitOf(drive, sets).spareBytes // freeBytes − sum of sizeBytes
 */
export function fitOf(destination: Destination, dataSets: readonly DataSet[]): Fit {
  const taken = dataSets.filter(({ id }) => destination.takes.includes(id));
  const neededBytes = taken.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  const spareBytes = destination.freeBytes - neededBytes;
  const limit = fileSystemLimit(destination.fileSystem);
  const refused = taken.flatMap((dataSet) =>
    limit.largestFileBytes !== null && dataSet.largestFileBytes > limit.largestFileBytes
      ? [
          {
            dataSetId: dataSet.id,
            sentence: `${dataSet.name} holds a file of ${printBothUnits(dataSet.largestFileBytes)}; ${limit.name} takes files up to ${printBothUnits(limit.largestFileBytes)}. Use another file system, or split the file.`,
          },
        ]
      : [],
  );
  const fits = spareBytes >= 0 && refused.length === 0;
  return {
    destinationId: destination.id,
    neededBytes,
    freeBytes: destination.freeBytes,
    spareBytes,
    fits,
    sentence:
      spareBytes >= 0
        ? `Fits: ${printBothUnits(neededBytes)} of ${printBothUnits(destination.freeBytes)} free, ${printBothUnits(spareBytes)} to spare.`
        : `Does not fit: ${printBothUnits(neededBytes)} for ${printBothUnits(destination.freeBytes)} free, ${printBothUnits(-spareBytes)} too much.`,
    refused,
  };
}
