import type { DataSet } from '../backup/scope/dataSet';
import { printCount } from '../quantity/count';
import { accountFor } from './handover';
import type { Move } from './move';
import type { Reconciled } from './reconciled';

export const fateKinds = ['same', 'renamed', 'changed', 'merged', 'system', 'added', 'missing'] as const;
export type FateKind = (typeof fateKinds)[number];

/** What became of a group of files: how many there were before, and how many there are after. */
type FileFate = {
  readonly kind: FateKind;
  readonly before: number;
  readonly after: number;
  readonly words: string;
};

export type FilesFlow = {
  readonly before: number;
  readonly after: number;
  readonly fates: readonly FileFate[];
  /** Differences without a reason yet. */
  readonly open: number;
  /** Data sets that have a list and are not compared. */
  readonly notCompared: readonly DataSet[];
  /** Data sets that were only counted: nobody compared their content. */
  readonly counted: readonly DataSet[];
  readonly sentence: string;
};

const words: Record<FateKind, string> = {
  same: 'the same: name, folder and content compared',
  renamed: 'renamed or moved, the content is the same',
  changed: 'changed',
  merged: 'merged: their content is in another file',
  system: 'made by the system: a rule names each',
  added: 'new',
  missing: 'missing',
};

function fatesOf({
  counts: of,
  noise,
}: Pick<Reconciled, 'counts' | 'noise'>): Record<FateKind, [number, number]> {
  const extra = of.added + of.duplicated;
  // A rule excuses only what a system added.
  const system = Math.min(noise, extra);
  return {
    same: [of.same, of.same],
    renamed: [of.renamed + of.moved, of.renamed + of.moved],
    changed: [of.changed + of.unproven, of.changed + of.unproven],
    merged: [of.merged, 0],
    system: [0, system],
    added: [0, extra - system],
    missing: [of.missing, 0],
  };
}

/**
 * What became of every file of the data sets that were compared, before and after. Files before are in exactly one
 * fate, and so are files after: both columns sum to the files that were listed.
 */
export function filesFlow(move: Move): FilesFlow {
  const accounts = accountFor(move);
  const stateOf = (by: 'comparison' | 'count') =>
    new Set(accounts.filter((line) => line.by === by).map(({ dataSetId }) => dataSetId));
  const compared = stateOf('comparison');
  const counted = stateOf('count');
  const listed = new Set(
    move.fileLists.filter(({ role }) => role === 'before').map(({ dataSetId }) => dataSetId),
  );
  const found = move.reconciled.filter(({ dataSetId }) => compared.has(dataSetId));
  const fates = fateKinds
    .map((kind): FileFate => {
      const pairs = found.map((one) => fatesOf(one)[kind]);
      return {
        kind,
        words: words[kind],
        before: pairs.reduce((sum, [before]) => sum + before, 0),
        after: pairs.reduce((sum, [, after]) => sum + after, 0),
      };
    })
    .filter(({ before, after }) => before + after > 0);
  const before = fates.reduce((sum, fate) => sum + fate.before, 0);
  return {
    before,
    after: fates.reduce((sum, fate) => sum + fate.after, 0),
    fates,
    open: found.reduce((sum, { open }) => sum + open, 0),
    notCompared: move.dataSets.filter(({ id, part }) => listed.has(part?.of ?? id) && !compared.has(id)),
    counted: move.dataSets.filter(({ id }) => counted.has(id)),
    sentence: sentenceOf(before, fates),
  };
}

function sentenceOf(before: number, fates: readonly FileFate[]): string {
  if (before === 0) return 'No file has been compared yet.';
  const of = (kind: FateKind) => fates.find((fate) => fate.kind === kind)?.before ?? 0;
  const back = of('same') + of('renamed') + of('merged');
  if (back === before) return `${printCount(before, 'file')}: all back, with the same content`;
  const rest = [
    ...(of('changed') > 0 ? [`${of('changed').toLocaleString('en')} changed`] : []),
    ...(of('missing') > 0 ? [`${of('missing').toLocaleString('en')} missing`] : []),
  ];
  return `${printCount(before, 'file')}: ${back.toLocaleString('en')} back with the same content, ${rest.join(', ')}`;
}
