import { z } from 'zod';
import type { DataSet } from '../backup/scope/dataSet';
import { listOf, type FileListHead } from '../backup/copies/fileListHead';
import type { Reconciled } from './reconciled';
import { InstantSchema } from '../quantity/daySchema';

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
  /** What the owner was told, sentence by sentence. */
  told: z
    .array(z.strictObject({ sentence: z.string().max(1000), at: InstantSchema, by: z.string() }))
    .max(300)
    .default([]),
  signedOff: z
    .strictObject({ ownerName: z.string().trim().min(1).max(100), at: InstantSchema, by: z.string() })
    .nullable(),
});

export type Handover = z.infer<typeof HandoverSchema>;

export const nothingHandedOver: Handover = {
  found: [],
  openPoints: [],
  told: [],
  signedOff: null,
};

export type Accounting = {
  readonly dataSetId: string;
  /** Compared file by file, counted, or not yet. */
  readonly by: 'comparison' | 'count' | 'nothing';
  readonly state: 'equal' | 'explained' | 'open';
  /** After minus before; negative: missing. Null while nothing has been counted. */
  readonly fileDifference: number | null;
  readonly byteDifference: number | null;
  /** Why it is open, and what to do; empty when it is not. */
  readonly openBecause: string;
};

type Accounted = {
  readonly dataSets: readonly DataSet[];
  readonly fileLists: readonly FileListHead[];
  readonly reconciled: readonly Reconciled[];
  readonly handover: Pick<Handover, 'found'>;
};

function ofComparison({ counts, explained, open }: Reconciled): Pick<Accounting, 'state' | 'openBecause'> {
  if (open > 0)
    return {
      state: 'open',
      openBecause: `${open.toLocaleString('en')} ${open === 1 ? 'file differs' : 'files differ'} and nobody has said why (${counts.missing} missing, ${counts.changed} changed in all).`,
    };
  return { state: explained > 0 ? 'explained' : 'equal', openBecause: '' };
}

/**
 * Each data set before against after. One with a list of files counts only once it has been compared
 * file by file; one without is counted: equal by count and bytes, different with a reason, or open.
 * Every data set gets exactly one line.
 */
export function accountFor({ dataSets, fileLists, reconciled, handover }: Accounted): readonly Accounting[] {
  return dataSets.map((dataSet) => {
    const { id, fileCount, sizeBytes } = dataSet;
    const nothing = { dataSetId: id, fileDifference: null, byteDifference: null };
    const compared = reconciled.find(({ dataSetId }) => dataSetId === id);
    const before = listOf(fileLists, dataSet, 'before');
    const after = listOf(fileLists, dataSet, 'after');
    if (compared && compared.beforeId === before?.id && compared.afterId === after?.id)
      return { ...nothing, by: 'comparison', ...ofComparison(compared) };
    if (before)
      return {
        ...nothing,
        by: 'nothing',
        state: 'open',
        openBecause: compared
          ? 'a newer list has not been compared yet.'
          : 'its list of files from before has not been compared with what came back.',
      };
    const line = handover.found.find(({ dataSetId }) => dataSetId === id);
    if (!line) return { ...nothing, by: 'nothing', state: 'open', openBecause: 'not counted yet.' };
    const fileDifference = line.fileCount - fileCount;
    const byteDifference = line.sizeBytes - sizeBytes;
    const equal = fileDifference === 0 && byteDifference === 0;
    const open = !equal && line.explanation.trim() === '';
    return {
      dataSetId: id,
      by: 'count',
      state: equal ? 'equal' : open ? 'open' : 'explained',
      fileDifference,
      byteDifference,
      openBecause: open ? 'it differs, and no reason is given.' : '',
    };
  });
}
