import { z } from 'zod';
import { CopySchema, type Copy } from '../scope/dataSet';

/** Why a copy that was checked counts no more: a newer list of the device, or the data or its place changed. */
const outdatedReasons = ['newer-list', 'data-changed'] as const;

/** A copy that was checked against an earlier state: kept to be seen, and counted nowhere. */
export const OutdatedCopySchema = CopySchema.extend({ because: z.enum(outdatedReasons) });
export type OutdatedCopy = z.infer<typeof OutdatedCopySchema>;

const words: Readonly<Record<OutdatedCopy['because'], string>> = {
  'newer-list': 'for an earlier list: compare again',
  'data-changed': 'the data changed: compare again',
};

export function describeOutdated({ because }: Pick<OutdatedCopy, 'because'>): string {
  return words[because];
}

/** The outdated copies with those that have just become so; of one data set on one destination the last. */
export function outdate(
  outdated: readonly OutdatedCopy[],
  lost: readonly Copy[],
  because: OutdatedCopy['because'],
): OutdatedCopy[] {
  const again = (one: Copy) =>
    lost.some(
      ({ dataSetId, destinationId }) => dataSetId === one.dataSetId && destinationId === one.destinationId,
    );
  return [...outdated.filter((one) => !again(one)), ...lost.map((copy) => ({ ...copy, because }))];
}
