import type { CopyCheck, FailedCheck } from '../../backup/copies/check';
import type { DataSet } from '../../backup/scope/dataSet';
import type { FileListHead } from '../../backup/copies/fileListHead';
import { gradeOf } from '../../backup/copies/grade';
import { outdate } from '../../backup/copies/outdated';
import { printCount } from '../../quantity/count';
import { fail } from '../../outcome/outcome';
import { alignAccounting } from '../accountingSignature';
import { alignCopySteps } from '../copySignatures';
import type { Move } from '../move';
import {
  changed,
  refuseBelowLine,
  refuseWhenDone,
  type CommandContext,
  type CommandOutcome,
} from './command';

const roleWords = { before: 'as saved', copy: 'of the copy', after: 'after the restore' } as const;

export function sameList(
  a: FileListHead,
  b: Pick<FileListHead, 'dataSetId' | 'role' | 'destinationId'>,
): boolean {
  return a.dataSetId === b.dataSetId && a.role === b.role && a.destinationId === b.destinationId;
}

/**
 * Notes that a list of files was recorded; it takes the place of the one of its kind before. A list
 * of the data as it is on the device also sets the data set's counts. Verified copies count on only when the new
 * list is of the same content.
 */
export function recordFileList(
  move: Move,
  head: Omit<FileListHead, 'at' | 'by'>,
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const dataSet = move.dataSets.find(({ id }) => id === head.dataSetId);
  if (!dataSet)
    return fail('no-such-data-set', '/dataSetId', 'The move has no such data set: reload the page.');
  const below = head.role === 'after' ? undefined : refuseBelowLine(move);
  if (below) return below;
  if (head.role === 'before' && dataSet.part)
    return fail('a-part', '/dataSetId', `${dataSet.name} is a part: its list is that of the whole data set.`);
  const destination = move.destinations.find(({ id }) => id === head.destinationId);
  if (head.role === 'copy' && !destination?.takes.includes(head.dataSetId))
    return fail(
      'no-such-copy',
      '/destinationId',
      'That destination has no copy of that data set planned: tick “copy here” on Save first.',
    );
  const stamped: FileListHead = { ...head, at: now, by: actor.name };
  const fileLists = [...move.fileLists.filter((list) => !sameList(list, head)), stamped];
  const next = { ...move, fileLists };
  const sentence = `List of ${dataSet.name} ${roleWords[head.role]}${destination ? ` on ${destination.name}` : ''}: ${printCount(head.fileCount, 'file')}${head.troubled > 0 ? `, ${head.troubled} of them without a checksum` : ''}.`;
  if (head.role !== 'before')
    return changed(alignAccounting(next, now, actor.name), 'file-list-recorded', sentence);
  const { shape: _earlierShape, ...bare } = dataSet;
  const earlier = move.fileLists.find((list) => sameList(list, head));
  const measured = {
    ...bare,
    fileCount: head.fileCount,
    ...(head.withoutSize === 0
      ? {
          sizeBytes: head.sizeBytes,
          largestFileBytes: head.largestFileBytes,
          ...(head.shape ? { shape: head.shape } : {}),
        }
      : {}),
  };
  const counted = earlier ? measured : withTyped(measured, dataSet);
  // A copy belongs to the content that it was compared with: another list is that content only when its digest says so.
  const same = earlier
    ? earlier.contentDigest !== undefined && earlier.contentDigest === head.contentDigest
    : counted.fileCount === dataSet.fileCount && counted.sizeBytes === dataSet.sizeBytes;
  const concerned = new Set([
    dataSet.id,
    ...move.dataSets.filter(({ part }) => part?.of === dataSet.id).map(({ id }) => id),
  ]);
  const lost = same ? [] : move.copies.filter(({ dataSetId }) => concerned.has(dataSetId));
  const counting = {
    ...next,
    dataSets: move.dataSets.map((other) => (other.id === dataSet.id ? counted : other)),
    copies: move.copies.filter((copy) => !lost.includes(copy)),
    outdatedCopies: outdate(move.outdatedCopies, lost, earlier ? 'newer-list' : 'data-changed'),
  };
  return changed(
    alignCopySteps(counting, now, actor.name),
    'file-list-recorded',
    `${sentence}${
      lost.length === 0
        ? ''
        : earlier
          ? ' Its verified copies no longer count: they were compared with an earlier list. Compare them with this one.'
          : ' Its verified copies no longer count: the data changed.'
    }`,
  );
}

/** The measured counts with those that were typed before, where these are not the same. */
function withTyped(measured: DataSet, { sizeBytes, fileCount }: DataSet): DataSet {
  return measured.sizeBytes === sizeBytes && measured.fileCount === fileCount
    ? measured
    : { ...measured, typed: { sizeBytes, fileCount } };
}

type Comparison = {
  readonly dataSetId: string;
  readonly destinationId: string;
  readonly check: CopyCheck;
  /** Files that are not on the copy as they were. */
  readonly count: number;
  readonly files: FailedCheck['files'];
};

/** Notes what comparing a copy gave: a good copy, or the files that differ, which closes the gate. */
export function recordCheck(
  move: Move,
  comparison: Comparison,
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move) ?? refuseBelowLine(move);
  if (closed) return closed;
  const { dataSetId, destinationId, check, count, files } = comparison;
  const dataSet = move.dataSets.find(({ id }) => id === dataSetId);
  const destination = move.destinations.find(({ id }) => id === destinationId);
  if (!dataSet || !destination?.takes.includes(dataSetId))
    return fail(
      'no-such-copy',
      '/dataSetId',
      'That destination has no copy of that data set planned: tick “copy here” on Save first.',
    );
  const other = (entry: { readonly dataSetId: string; readonly destinationId: string }) =>
    entry.dataSetId !== dataSetId || entry.destinationId !== destinationId;
  const copies = move.copies.filter(other);
  const failedChecks = move.failedChecks.filter(other);
  const outdatedCopies = move.outdatedCopies.filter(other);
  const how =
    check.method === 'full'
      ? `${printCount(check.files, 'file')} compared`
      : `a sample of ${check.files.toLocaleString('en')} of ${printCount(check.ofFiles, 'file')} compared`;
  if (count > 0)
    return changed(
      alignCopySteps(
        {
          ...move,
          copies,
          outdatedCopies,
          failedChecks: [
            ...failedChecks,
            { dataSetId, destinationId, at: now, by: actor.name, count, files: files.slice(0, 200) },
          ],
        },
        now,
        actor.name,
      ),
      'copy-differs',
      `${dataSet.name} on ${destination.name}: ${how}, ${count === 1 ? '1 differs' : `${count.toLocaleString('en')} differ`}. Copy them again, and compare.`,
    );
  return changed(
    alignCopySteps(
      {
        ...move,
        failedChecks,
        outdatedCopies,
        copies: [...copies, { dataSetId, destinationId, verifiedAt: now, verifiedBy: actor.name, check }],
      },
      now,
      actor.name,
    ),
    gradeOf({ check }) === 'compared' ? 'copy-compared' : 'copy-sampled',
    `${dataSet.name} on ${destination.name}: ${how}, all the same.`,
  );
}
