import { slugOf } from '../../backup/scope/proposals';
import type { DataSet } from '../../backup/scope/dataSet';
import { fail } from '../../outcome/outcome';
import type { Move } from '../move';
import { type CommandContext, type CommandOutcome } from './command';
import { setDataSets } from './save';

export type SplitPart = {
  readonly places: readonly string[];
  readonly sizeBytes: number;
  readonly fileCount: number;
  readonly largestFileBytes: number;
  /** Destinations that take this part. */
  readonly destinationIds: readonly string[];
};

/**
 * Splits a data set into parts by folder, each a data set of its own with its own copies. Refused
 * unless the parts together are the whole, to the file and the byte.
 */
export function splitDataSet(
  move: Move,
  dataSetId: string,
  parts: readonly SplitPart[],
  context: CommandContext,
): CommandOutcome {
  const whole = move.dataSets.find(({ id }) => id === dataSetId);
  if (!whole)
    return fail('no-such-data-set', '/dataSetId', 'The move has no such data set: reload the page.');
  if (whole.part) return fail('a-part', '/dataSetId', `${whole.name} is a part already: join it first.`);
  const sum = (of: (part: SplitPart) => number) => parts.reduce((total, part) => total + of(part), 0);
  if (
    parts.length < 2 ||
    sum(({ fileCount }) => fileCount) !== whole.fileCount ||
    sum(({ sizeBytes }) => sizeBytes) !== whole.sizeBytes
  )
    return fail(
      'parts-are-not-the-whole',
      '/parts',
      `The parts are not all of ${whole.name}: its list of files has changed. Read it again, then pack again.`,
    );
  const taken = new Set(move.dataSets.map(({ id }) => id));
  const made = parts.map((part, index): DataSet => {
    const id = slugOf(`${whole.id.slice(0, 24)} part ${index + 1}`, taken);
    taken.add(id);
    const { encrypted: _encrypted, placeholderFiles: _placeholders, ...plain } = whole;
    return {
      ...plain,
      id,
      name: `${whole.name}, part ${index + 1} of ${parts.length}`,
      sizeBytes: part.sizeBytes,
      fileCount: part.fileCount,
      largestFileBytes: part.largestFileBytes,
      part: { of: whole.id, places: [...part.places] },
    };
  });
  const destinations = move.destinations.map((destination) => ({
    ...destination,
    takes: [
      ...destination.takes.filter((id) => id !== whole.id),
      ...made.flatMap(({ id }, index) => (parts[index]?.destinationIds.includes(destination.id) ? [id] : [])),
    ],
  }));
  const dataSets = move.dataSets.flatMap((dataSet) => (dataSet === whole ? made : [dataSet]));
  return setDataSets({ ...move, destinations }, dataSets, context);
}

/** Puts the parts of a data set together again; the whole goes where all of its parts went. */
export function joinDataSet(move: Move, wholeId: string, context: CommandContext): CommandOutcome {
  const parts = move.dataSets.filter(({ part }) => part?.of === wholeId);
  const [first] = parts;
  if (!first) return fail('no-parts', '/id', 'That data set is not split: reload the page.');
  const sum = (of: (dataSet: DataSet) => number) => parts.reduce((total, dataSet) => total + of(dataSet), 0);
  const { part: _part, ...plain } = first;
  const whole: DataSet = {
    ...plain,
    id: wholeId,
    name: first.name.replace(/, part \d+ of \d+$/, ''),
    sizeBytes: sum(({ sizeBytes }) => sizeBytes),
    fileCount: sum(({ fileCount }) => fileCount),
    largestFileBytes: Math.max(...parts.map(({ largestFileBytes }) => largestFileBytes)),
  };
  const ids = new Set(parts.map(({ id }) => id));
  const destinations = move.destinations.map((destination) => ({
    ...destination,
    takes: [
      ...destination.takes.filter((id) => !ids.has(id)),
      ...(parts.every(({ id }) => destination.takes.includes(id)) ? [wholeId] : []),
    ],
  }));
  const dataSets = move.dataSets.flatMap((dataSet) =>
    dataSet === first ? [whole] : ids.has(dataSet.id) ? [] : [dataSet],
  );
  return setDataSets({ ...move, destinations }, dataSets, context);
}
