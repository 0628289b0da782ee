import { listOf, type NextOnSave } from '@ulvane/core/backup';
import { FileListDialog } from '../../files/FileListDialog';
import { useOpenMove } from '../MoveContext';

type AskedListProps = {
  readonly asked: Extract<NextOnSave['act'], { readonly dataSetId: string }>;
  readonly onClose: () => void;
};

/** The dialog that reads the files that the next step on Save is about. */
export function AskedList({ asked, onClose }: AskedListProps) {
  const { view, move } = useOpenMove();
  const dataSet = move.dataSets.find(({ id }) => id === asked.dataSetId);
  if (!dataSet) return null;
  if (asked.kind === 'read')
    return <FileListDialog view={view} dataSet={dataSet} role="before" onClose={onClose} />;
  const destination = move.destinations.find(({ id }) => id === asked.destinationId);
  const before = listOf(move.fileLists, dataSet, 'before');
  if (!destination || !before) return null;
  return (
    <FileListDialog
      view={view}
      dataSet={dataSet}
      role="copy"
      destination={destination}
      {...(dataSet.part ? {} : { before: { id: before.id, fileCount: before.fileCount } })}
      onClose={onClose}
    />
  );
}
