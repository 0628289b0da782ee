import { z } from 'zod';
import { fileKinds } from '../manifest/reconcile';
import { InstantSchema } from '../quantity/daySchema';

const count = z.int().min(0);

/** A data set compared, file by file, before and after; the differences themselves lie elsewhere. */
export const ReconciledSchema = z.strictObject({
  id: z.uuid(),
  dataSetId: z.string(),
  beforeId: z.uuid(),
  afterId: z.uuid(),
  at: InstantSchema,
  by: z.string(),
  counts: z.strictObject({
    same: count,
    changed: count,
    unproven: count,
    renamed: count,
    moved: count,
    missing: count,
    merged: count,
    added: count,
    duplicated: count,
  } satisfies Record<(typeof fileKinds)[number], typeof count>),
  /** Files that a system made by itself, as a noise rule says. */
  noise: count,
  /** Differences that somebody explained or accepted, with a reason. */
  explained: count,
  /** Differences that nobody has explained yet. */
  open: count,
});

export type Reconciled = z.infer<typeof ReconciledSchema>;

/** Differences of all kinds: everything but the same. */
export function differenceCount({ counts }: Pick<Reconciled, 'counts'>): number {
  return Object.entries(counts).reduce((sum, [kind, n]) => (kind === 'same' ? sum : sum + n), 0);
}

/**
 * What came of a comparison, in one line for the sheet.
 * @example reconciledSentence({ counts: { same: 8, missing: 1, … }, noise: 0, explained: 1, open: 0, … }) // '8 the same, 1 missing; 1 explained'
 */
export function reconciledSentence({ counts, noise, explained, open }: Reconciled): string {
  const said = fileKinds
    .filter((kind) => counts[kind] > 0)
    .map((kind) => `${counts[kind].toLocaleString('en')} ${kind === 'same' ? 'the same' : kind}`);
  const after = [
    ...(noise > 0 ? [`${noise.toLocaleString('en')} made by the system itself`] : []),
    ...(explained > 0 ? [`${explained.toLocaleString('en')} explained`] : []),
    ...(open > 0 ? [`${open.toLocaleString('en')} open`] : []),
  ];
  return [said.join(', ') || 'no files', after.join(', ')].filter((part) => part !== '').join('; ');
}
