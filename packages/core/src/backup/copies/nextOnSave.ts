import { printBytes } from '../../quantity/bytes';
import { printCount } from '../../quantity/count';
import type { FailedCheck } from './check';
import type { CopiesOfDataSet } from './copies';
import type { DataSet, Destination } from '../scope/dataSet';
import { listOf, type FileListHead } from './fileListHead';
import { fitOf } from '../destinations/fit';
import type { SaveFlow } from './saveFlow';

/** The one thing to do next on Save; `act` names what the page offers for it. */
export type NextOnSave = {
  readonly sentence: string;
  readonly detail: string;
  readonly act:
    | { readonly kind: 'none' }
    | { readonly kind: 'name-sets' }
    | { readonly kind: 'add-set' }
    | { readonly kind: 'add-destination' }
    | { readonly kind: 'pack' }
    | { readonly kind: 'read'; readonly dataSetId: string }
    | { readonly kind: 'compare'; readonly dataSetId: string; readonly destinationId: string };
};

type NextInput = {
  readonly flow: SaveFlow;
  readonly dataSets: readonly DataSet[];
  readonly destinations: readonly Destination[];
  readonly failedChecks: readonly FailedCheck[];
  readonly fileLists: readonly FileListHead[];
  readonly status: readonly CopiesOfDataSet[];
  readonly nothingToSave: boolean;
};

/** What brings the move nearest to its gate: bytes that go nowhere first, then room, then copies that do not count. */
export function nextOnSave(input: NextInput): NextOnSave {
  const { flow, dataSets, destinations, failedChecks, fileLists, status } = input;
  const setOf = (id: string) => dataSets.find((one) => one.id === id);
  const nameOn = (id: string) => destinations.find((one) => one.id === id)?.name ?? id;
  const unnamed = flow.boxes.filter(({ kind }) => kind === 'unnamed');
  const measured = unnamed.flatMap(({ paths }) => paths);
  if (dataSets.length === 0 && input.nothingToSave)
    return { sentence: 'Nothing has to be saved.', detail: '', act: { kind: 'none' } };
  if (dataSets.length === 0 && unnamed.length === 0)
    return {
      sentence: 'Next: name what has to be saved',
      detail: 'The survey measured no folder: add the data sets by hand, or state that there are none.',
      act: { kind: 'add-set' },
    };
  if (unnamed.length > 0 && !input.nothingToSave)
    return {
      sentence: `Next: name a data set for ${printBytes(
        unnamed.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
        'decimal',
      )} that would go nowhere`,
      detail:
        measured.length > 0
          ? measured.slice(0, 4).join('  ') + (measured.length > 4 ? ` and ${measured.length - 4} more` : '')
          : `In use on ${placesOf(unnamed, flow)}; the survey measured no folder of it.`,
      act: { kind: measured.length > 0 ? 'name-sets' : 'add-set' },
    };
  if (destinations.length === 0)
    return {
      sentence: 'Next: choose where the copies go',
      detail: `${printCount(dataSets.length, 'data set')}, ${printBytes(
        dataSets.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
        'decimal',
      )}.`,
      act: { kind: 'add-destination' },
    };
  const [failed] = failedChecks;
  if (failed)
    return {
      sentence: `Next: copy ${printCount(failed.count, 'file')} of ${setOf(failed.dataSetId)?.name ?? ''} to ${nameOn(failed.destinationId)} again`,
      detail: `First ${failed.files[0]?.path ?? ''}. Then compare the copy again.`,
      act: { kind: 'compare', dataSetId: failed.dataSetId, destinationId: failed.destinationId },
    };
  const full = destinations.map((one) => fitOf(one, dataSets)).find(({ spareBytes }) => spareBytes < 0);
  if (full) return { sentence: 'Next: make room', detail: full.sentence, act: { kind: 'pack' } };
  const nowhere = status.find(({ planned, needed }) => planned < needed);
  if (nowhere)
    return {
      sentence: `Next: choose ${nowhere.planned === 0 ? 'where' : 'where else'} ${setOf(nowhere.dataSetId)?.name ?? ''} goes`,
      detail: `It needs ${printCount(nowhere.needed, 'copy')}; ${nowhere.planned} ${nowhere.planned === 1 ? 'is' : 'are'} planned.`,
      act: { kind: 'pack' },
    };
  return nextCopy(input) ?? doneSentence(input, fileLists);
}

/** The partitions that boxes are on, in words. @example '1 DATA of disk …RH39' */
function placesOf(boxes: SaveFlow['boxes'], { disks }: SaveFlow): string {
  return disks
    .flatMap(({ title, partitions }) =>
      partitions
        .filter(({ key }) => boxes.some(({ partitionKey }) => partitionKey === key))
        .map((partition) => `${partition.title} of ${title.charAt(0).toLowerCase()}${title.slice(1)}`),
    )
    .join(', ');
}

/** The first copy that a data set is short of, largest data set first. */
function nextCopy({ dataSets, destinations, fileLists, status, flow }: NextInput): NextOnSave | undefined {
  const short = status.filter((line) => line.short !== null);
  const [dataSet] = dataSets
    .filter(({ id }) => short.some(({ dataSetId }) => dataSetId === id))
    .toSorted((a, b) => b.sizeBytes - a.sizeBytes);
  if (!dataSet) return undefined;
  const line = status.find(({ dataSetId }) => dataSetId === dataSet.id);
  const compared = (destinationId: string) =>
    line?.copies.some(
      (copy) => copy.destinationId === destinationId && copy.because === null && copy.grade === 'compared',
    );
  const to = destinations.find(({ id, takes }) => takes.includes(dataSet.id) && !compared(id));
  const left = `${flow.counted} of ${flow.planned} copies count; ${printCount(short.length, 'data set')} ${short.length === 1 ? 'is' : 'are'} short.`;
  if (!listOf(fileLists, dataSet, 'before'))
    return {
      sentence: `Next: read every file of ${dataSet.name}`,
      detail: `${printCount(dataSet.fileCount, 'file')}, ${printBytes(dataSet.sizeBytes, 'decimal')}: a copy is compared with their checksums. ${left}`,
      act: { kind: 'read', dataSetId: dataSet.part?.of ?? dataSet.id },
    };
  return {
    sentence: `Next: compare ${dataSet.name} on ${to?.name ?? ''}`,
    detail: left,
    act: { kind: 'compare', dataSetId: dataSet.id, destinationId: to?.id ?? '' },
  };
}

function doneSentence({ flow }: NextInput, lists: readonly FileListHead[]): NextOnSave {
  return {
    sentence: 'Every data set has the copies it needs.',
    detail: `${flow.counted} of ${flow.planned} copies count, by ${printCount(lists.length, 'list')} of files. Next is Prepare.`,
    act: { kind: 'none' },
  };
}
