import { z } from 'zod';
import type { DataSet } from '../backup/dataSet';

export const HandoverSchema = z.strictObject({
  /** What was found after the restore, a line a data set. */
  found: z.array(
    z.strictObject({
      dataSetId: z.string(),
      fileCount: z.int().min(0),
      sizeBytes: z.int().min(0),
      /** Why it differs; empty when it does not. */
      explanation: z.string().max(1000),
    }),
  ),
  openPoints: z.array(z.string().trim().min(1).max(500)).max(100),
  backupPlace: z.string().max(300),
  wipeOn: z.iso.date().nullable(),
  signedOff: z
    .strictObject({ ownerName: z.string().trim().min(1).max(100), at: z.iso.datetime(), by: z.string() })
    .nullable(),
});

export type Handover = z.infer<typeof HandoverSchema>;

export const nothingHandedOver: Handover = {
  found: [],
  openPoints: [],
  backupPlace: '',
  wipeOn: null,
  signedOff: null,
};

export type Accounting = {
  readonly dataSetId: string;
  readonly state: 'equal' | 'explained' | 'open';
  /** After minus before; negative: missing. Null while nothing has been counted. */
  readonly fileDifference: number | null;
  readonly byteDifference: number | null;
};

/**
 * Each data set before against after: equal by count and bytes, different with a reason, or open.
 * Every data set gets exactly one line.
 */
export function accountFor(dataSets: readonly DataSet[], found: Handover['found']): readonly Accounting[] {
  return dataSets.map(({ id, fileCount, sizeBytes }) => {
    const line = found.find(({ dataSetId }) => dataSetId === id);
    if (!line) return { dataSetId: id, state: 'open', fileDifference: null, byteDifference: null };
    const fileDifference = line.fileCount - fileCount;
    const byteDifference = line.sizeBytes - sizeBytes;
    const equal = fileDifference === 0 && byteDifference === 0;
    return {
      dataSetId: id,
      state: equal ? 'equal' : line.explanation.trim() === '' ? 'open' : 'explained',
      fileDifference,
      byteDifference,
    };
  });
}
