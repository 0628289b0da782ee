import { contentNames } from './content/content';
import { calledBy, inSentence, type TablePartition } from './table/partitionTable';

/** Why a partition is not ready for any change, as its content was left; undefined when it was closed in order. */
export function whyNotClosed(partition: TablePartition): string | undefined {
  const { content } = partition;
  if (content?.left === 'hibernated')
    return `A system is asleep in ${inSentence(partition)}: it goes on from what it remembers, and would write over whatever was changed. Start it and shut it down in full, then read the disk again.`;
  if (content?.left === 'unclean')
    return `The ${contentNames[content.kind]} in ${inSentence(partition)} was not closed in order: start its system, let it check the volume, and shut it down in full.`;
  return undefined;
}

/** What is done before a partition is touched: encryption is suspended by its own system. */
export function whatBefore(partition: TablePartition): string | undefined {
  return partition.encrypted === true
    ? `${calledBy(partition)} is encrypted: keep its recovery key apart, suspend the encryption in its own system, and shut that down in full. A changed table may make it ask for the key.`
    : undefined;
}
