import { keys } from '../../api/keys';
import { listOf, type Destination, type FileFit } from '@ulvane/core/backup';
import useSWRImmutable from 'swr/immutable';
import { withFilesWork } from '../../files/filesWork';
import { useOpenMove } from '../MoveContext';
import { listedOf } from './listed';

type Checked = readonly { readonly dataSetId: string; readonly fit: FileFit }[];

export type NameCheck = {
  readonly checked: Checked | undefined;
  readonly running: boolean;
  readonly failure: unknown;
  /** Files that cannot be copied as they are; those whose other names are kept are not among them. */
  readonly refused: number;
};

/** Checks every name and size against a destination's file system, as soon as there is a list and whenever one changes. */
export function useNameCheck(destination: Destination): NameCheck {
  const { move } = useOpenMove();
  const sets = move.dataSets.filter(
    (dataSet) => destination.takes.includes(dataSet.id) && listOf(move.fileLists, dataSet, 'before'),
  );
  const lists = sets.map((dataSet) => `${dataSet.id} ${listOf(move.fileLists, dataSet, 'before')?.id ?? ''}`);
  const { data, error, isLoading } = useSWRImmutable<Checked, unknown>(
    lists.length === 0 ? null : keys.nameCheck(destination.fileSystem, lists),
    () =>
      withFilesWork((remote) =>
        remote.check(
          sets.map((dataSet) => listedOf(move, dataSet, 1)),
          destination.fileSystem,
        ),
      ),
  );
  const isKept = (dataSetId: string) =>
    move.renames.some((one) => one.dataSetId === dataSetId && one.destinationId === destination.id);
  const blocking = (data ?? []).flatMap(({ dataSetId, fit }) =>
    fit.faults.filter(({ blocks, remedy }) => blocks && !(remedy === 'rename' && isKept(dataSetId))),
  );
  return {
    checked: data,
    running: isLoading,
    failure: error,
    refused: blocking.reduce((sum, { count }) => sum + count, 0),
  };
}
