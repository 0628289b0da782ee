import { printCount } from '../../quantity/count';
import { fail } from '../../outcome/outcome';
import type { Move } from '../move';
import { changed, type CommandContext, type CommandOutcome } from './command';
import { setDestinations } from './save';
import { splitDataSet, type SplitPart } from './splitDataSet';

/** Where a data set goes: in one part whose place is '' (whole), or in several by folder. */
type PackedDataSet = { readonly dataSetId: string; readonly parts: readonly SplitPart[] };

const isWhole = ({ parts }: PackedDataSet) => parts.every(({ places }) => places.includes(''));

/**
 * Lets the destinations take what a packing says, and splits the data sets that go in parts: all of it, or nothing.
 * Refused unless the packing names every data set of the move once, and the parts of each are the whole of it.
 */
export function packDataSets(
  move: Move,
  packing: readonly PackedDataSet[],
  context: CommandContext,
): CommandOutcome {
  const named = packing.map(({ dataSetId }) => dataSetId).toSorted();
  if (
    named.join(' ') !==
    move.dataSets
      .map(({ id }) => id)
      .toSorted()
      .join(' ')
  )
    return fail('packing-stale', '/packing', 'The data sets of the move have changed since: pack again.');
  const goes = packing.flatMap((packed) => packed.parts.flatMap(({ destinationIds }) => destinationIds));
  if (goes.some((id) => !move.destinations.some((destination) => destination.id === id)))
    return fail('packing-stale', '/packing', 'The destinations of the move have changed since: pack again.');
  const whole = packing.filter(isWhole);
  let outcome = setDestinations(
    move,
    move.destinations.map((destination) => ({
      ...destination,
      takes: whole
        .filter(({ parts }) => parts.some(({ destinationIds }) => destinationIds.includes(destination.id)))
        .map(({ dataSetId }) => dataSetId),
    })),
    context,
  );
  const split = packing.filter((packed) => !isWhole(packed));
  for (const { dataSetId, parts } of split) {
    if (!outcome.ok) return outcome;
    outcome = splitDataSet(outcome.value.move, dataSetId, parts, context);
  }
  if (!outcome.ok) return outcome;
  const { move: packed } = outcome.value;
  const lost = move.copies.length - packed.copies.length;
  return changed(
    packed,
    'packed',
    `Packed: ${printCount(move.dataSets.length, 'data set')} onto ${printCount(new Set(goes).size, 'destination')}${split.length > 0 ? `, ${printCount(split.length, 'data set')} in parts by folder` : ''}.${lost > 0 ? ` ${printCount(lost, 'copy')} no longer count${lost === 1 ? 's' : ''}: the data set goes elsewhere.` : ''}`,
  );
}
