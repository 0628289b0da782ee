import { printCount } from '../quantity/count';
import { filesFlow, type FateKind } from './filesFlow';
import type { Handover } from './handover';
import type { Move } from './move';
import { routes } from '../route/catalogueOfRoutes';

type ThingToTell = {
  readonly sentence: string;
  /** By whom and when the owner was told; null as long as nobody has. */
  readonly told: Handover['told'][number] | null;
};

/**
 * What the owner meets that is not as before, and until when a file can be brought back. Sentences are made from
 * the record: one that has changed since it was told is to be told again.
 */
export function thingsToTell(move: Move): readonly ThingToTell[] {
  const { fates } = filesFlow(move);
  const of = (kind: FateKind) => fates.find((fate) => fate.kind === kind)?.before ?? 0;
  const files = (kind: FateKind, one: string, several: string) => {
    const count = of(kind);
    return count === 0 ? [] : [`${printCount(count, 'file')} ${count === 1 ? one : several}`];
  };
  const route = move.decision ? routes[move.decision.routeId] : undefined;
  const kept = move.retention.filter(({ wiped }) => wiped === null);
  const until = kept.map(({ keepUntil }) => keepUntil).toSorted()[0];
  const names = kept.map(
    ({ destinationId }) => move.destinations.find(({ id }) => id === destinationId)?.name ?? destinationId,
  );
  const sentences = [
    ...(route && route.writesOver !== 'nothing'
      ? ['The system was installed anew: some settings have to be made again.']
      : []),
    ...files(
      'renamed',
      'has another name or folder; its content is the same.',
      'have another name or folder; their content is the same.',
    ),
    ...files(
      'merged',
      'was equal to another one: one of them is left.',
      'were equal to others: one of each is left.',
    ),
    ...files('changed', 'changed, and why.', 'changed, and why.'),
    ...files(
      'missing',
      'is not on the device any more, and why.',
      'are not on the device any more, and why.',
    ),
    ...move.handover.openPoints.map((point) => `Still open: ${point}`),
    ...(move.decision && (route?.id === 'beside-same-disk' || route?.id === 'beside-second-disk')
      ? [
          `To remove the second system again: let the other one come first in the firmware’s order and start it once; from inside it delete the partitions that the answer sheet of ${move.reference} lists as made, and no other; then let the neighbour have the room.`,
        ]
      : []),
    ...(until === undefined
      ? []
      : [
          `The backup on ${listed(names)} is kept until ${until}; after that day no file can be brought back.`,
        ]),
  ];
  return [...new Set(sentences)].map((sentence) => ({
    sentence,
    told: move.handover.told.find((one) => one.sentence === sentence) ?? null,
  }));
}

/** Names in a sentence that somebody reads aloud: three of them, and how many more. */
function listed(names: readonly string[]): string {
  return names.length > 4 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ');
}
