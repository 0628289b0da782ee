import { inSentence, type PartitionTable, type TablePartition } from '../table/partitionTable';
import { typeOf } from '../table/partitionTypes';

/**
 * What names the disk and its partitions afterwards, and what hangs on the old names: a sentence for each thing that
 * somebody has to look after.
 */
export function changedIdentifiers(
  before: PartitionTable,
  after: readonly TablePartition[],
  target: 'gpt' | 'mbr',
): readonly string[] {
  const pairs = before.partitions.flatMap((old) => {
    const now = after.find(({ startLba }) => startLba === old.startLba);
    return now ? [{ old, now }] : [];
  });
  const list = (partitions: readonly TablePartition[]) =>
    partitions.map((partition) => inSentence(partition)).join(', ');
  const renumbered = pairs.filter(({ old, now }) => old.number !== now.number);
  const active = before.partitions.filter(({ active: is }) => is === true);
  const attributes = pairs.filter(
    ({ old, now }) => old.attributes !== undefined && now.attributes === undefined,
  );
  const typed = pairs.filter(({ old, now }) => typeOf(old.typeCode)?.name !== typeOf(now.typeCode)?.name);
  return [
    target === 'gpt'
      ? 'The disk gets a GUID in place of its signature, and each partition one of its own: drive letters, boot entries and mount tables that went by the old ones are set again. What goes by the label or the volume’s own number finds it as before.'
      : 'The disk gets a signature in place of its GUID, and names and GUIDs of the partitions cannot be written in MBR; they are kept in the record. Drive letters, boot entries and mount tables that went by them are set again.',
    ...(renumbered.length > 0
      ? [
          `Numbers change: ${renumbered.map(({ old, now }) => `${inSentence(old)} becomes ${now.number}`).join(', ')}. What names a partition by its number has to be told.`,
        ]
      : []),
    ...(typed.length > 0
      ? [
          `Types follow what is in them: ${typed.map(({ old, now }) => `${inSentence(old)} becomes “${typeOf(now.typeCode)?.name ?? now.typeCode}”`).join(', ')}.`,
        ]
      : []),
    ...(target === 'gpt' && active.length > 0
      ? [
          `GPT has no mark for the one to start from: that of ${list(active)} goes, and is kept in the record.`,
        ]
      : []),
    ...(attributes.length > 0
      ? [
          `MBR has no attributes: those of ${list(attributes.map(({ old }) => old))} (hidden, read only, no letter) do not count any more, and are kept in the record.`,
        ]
      : []),
  ];
}
