import { fileSystemLimit } from '../../catalogue/fileSystems';
import { printBothUnits } from '../../quantity/bytes';
import { neededOn } from './allocation';
import type { DataSet, Destination } from '../scope/dataSet';

type Fit = {
  readonly destinationId: string;
  /** Bytes of the files. */
  readonly fileBytes: number;
  /** Bytes that they take there: whole clusters, folders, names. */
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
 * Whether the data sets that a destination takes fit on it, as they are there, and by how much.
 * @param namesRefused files whose names or sizes its file system refuses, as far as lists have been checked
 * @example fitOf(drive, sets).spareBytes // freeBytes − what the files take in whole clusters
 */
export function fitOf(destination: Destination, dataSets: readonly DataSet[], namesRefused = 0): Fit {
  const taken = dataSets.filter(({ id }) => destination.takes.includes(id));
  const fileBytes = taken.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  const needed = taken.map((dataSet) => neededOn(dataSet, destination));
  const neededBytes = needed.reduce((sum, { bytes }) => sum + bytes, 0);
  const atMost = needed.every(({ fromList }) => fromList) ? '' : 'probably no more than ';
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
  const amount = `${printBothUnits(fileBytes)} in files, ${atMost}${printBothUnits(neededBytes)} as they are there`;
  return {
    destinationId: destination.id,
    fileBytes,
    neededBytes,
    freeBytes: destination.freeBytes,
    spareBytes,
    fits: spareBytes >= 0 && refused.length === 0 && namesRefused === 0,
    sentence: sentenceOf(amount, spareBytes, destination.freeBytes, refused.length > 0 || namesRefused > 0),
    refused,
  };
}

/** A refusal never begins with “Fits”. */
function sentenceOf(amount: string, spareBytes: number, freeBytes: number, refused: boolean): string {
  if (spareBytes < 0)
    return `Does not fit: ${amount}, for ${printBothUnits(freeBytes)} free: ${printBothUnits(-spareBytes)} too much.`;
  return `${refused ? 'Not taken as it is, though there is room' : 'Fits'}: ${amount}, of ${printBothUnits(freeBytes)} free, ${printBothUnits(spareBytes)} to spare.`;
}
