import { printCount } from '../../quantity/count';
import type { DataSet, Destination } from '../../backup/scope/dataSet';
import { outdate } from '../../backup/copies/outdated';
import { isAnotherDrive, isSameDevice } from '../../backup/destinations/sameDrive';
import { fail, type Problem } from '../../outcome/outcome';
import { alignCopySteps, hasCopy } from '../copySignatures';
import type { Move } from '../move';
import { statedCopy, whyDiffers } from '../statedCopies';
import {
  changed,
  refuseBelowLine,
  refuseWhenDone,
  type CommandContext,
  type CommandOutcome,
} from './command';

/** Leaves out what is said of data sets, destinations and copies that are no longer there. */
function prune(move: Move): Move {
  const has = (dataSetId: string) =>
    move.dataSets.some(({ id, part }) => id === dataSetId || part?.of === dataSetId);
  const takes = ({
    dataSetId,
    destinationId,
  }: {
    readonly dataSetId: string;
    readonly destinationId: string;
  }) => move.destinations.some(({ id, takes: taken }) => id === destinationId && taken.includes(dataSetId));
  return {
    ...move,
    failedChecks: move.failedChecks.filter(takes),
    outdatedCopies: move.outdatedCopies.filter(takes),
    renames: move.renames.filter(takes),
    fileLists: move.fileLists.filter(({ dataSetId }) => has(dataSetId)),
    reconciled: move.reconciled.filter(({ dataSetId }) => move.dataSets.some(({ id }) => id === dataSetId)),
    retention: move.retention.filter(({ destinationId }) =>
      move.destinations.some(({ id }) => id === destinationId),
    ),
  };
}

function doubled(items: readonly { readonly id: string }[], path: string): Problem[] {
  return items.flatMap(({ id }, index) =>
    items.findIndex((other) => other.id === id) < index
      ? [{ code: 'doubled-id', path: `${path}/${index}/id`, sentence: `“${id}” is listed twice.` }]
      : [],
  );
}

/** Sets the list of data sets. A verified copy of one that is another folder or another amount no longer counts. */
export function setDataSets(
  move: Move,
  dataSets: readonly DataSet[],
  { actor, now }: CommandContext,
): CommandOutcome {
  const refused = refuseWhenDone(move) ?? refuseBelowLine(move);
  if (refused) return refused;
  const problems = doubled(dataSets, '/dataSets');
  if (problems.length > 0) return { ok: false, problems };
  const same = (id: string) => {
    const before = move.dataSets.find((dataSet) => dataSet.id === id);
    const after = dataSets.find((dataSet) => dataSet.id === id);
    return (
      before !== undefined &&
      after !== undefined &&
      before.sizeBytes === after.sizeBytes &&
      before.fileCount === after.fileCount &&
      before.path === after.path &&
      before.place === after.place
    );
  };
  // A list of another folder is no list of this one.
  const elsewhere = new Set(
    dataSets
      .filter(({ id, path, place }) => {
        const before = move.dataSets.find((dataSet) => dataSet.id === id);
        return before !== undefined && (before.path !== path || before.place !== place);
      })
      .map(({ id }) => id),
  );
  const copies = move.copies.filter(({ dataSetId }) => same(dataSetId));
  const outdated = move.copies.filter((copy) => !copies.includes(copy));
  const lost = outdated.length;
  const ids = new Set(dataSets.map(({ id }) => id));
  const destinations = move.destinations.map((destination) => ({
    ...destination,
    takes: destination.takes.filter((id) => ids.has(id)),
  }));
  return changed(
    alignCopySteps(
      prune({
        ...move,
        // Counts that were typed over a list are not those of its files.
        dataSets: dataSets.map((one) => {
          const { shape: _shape, ...bare } = one;
          const before = move.dataSets.find(({ id }) => id === one.id);
          return same(one.id) && before?.shape ? { ...bare, shape: before.shape } : bare;
        }),
        destinations,
        copies,
        outdatedCopies: outdate(move.outdatedCopies, outdated, 'data-changed'),
        fileLists: move.fileLists.filter(({ dataSetId }) => !elsewhere.has(dataSetId)),
        failedChecks: move.failedChecks.filter(({ dataSetId }) => !elsewhere.has(dataSetId)),
      }),
      now,
      actor.name,
    ),
    'data-sets-set',
    `${printCount(dataSets.length, 'data set')} listed.${lost > 0 ? ` ${lost} verified ${lost === 1 ? 'copy no longer counts' : 'copies no longer count'}: the data, or the folder they are in, changed.` : ''}`,
  );
}

function isInstallerStick(
  { preparation: { stick } }: Move,
  { name, serial }: Pick<Destination, 'name' | 'serial'>,
): boolean {
  return stick !== null && isSameDevice(stick, { name, serial });
}

/** Sets the destinations and what each takes. A verified copy that is no longer taken no longer counts. */
export function setDestinations(
  move: Move,
  destinations: readonly Destination[],
  { actor, now }: CommandContext,
): CommandOutcome {
  const refused = refuseWhenDone(move) ?? refuseBelowLine(move);
  if (refused) return refused;
  const problems: Problem[] = [
    ...doubled(destinations, '/destinations'),
    ...destinations.flatMap(({ name, serial, capacityBytes, freeBytes, takes }, index): Problem[] => [
      ...(isInstallerStick(move, { name, serial })
        ? [
            {
              code: 'installer-stick' as const,
              path: `/destinations/${index}/serial`,
              sentence: `${name} is the installer stick: installing erases it. Take another drive.`,
            },
          ]
        : []),
      ...(freeBytes > capacityBytes
        ? [
            {
              code: 'contradiction' as const,
              path: `/destinations/${index}/freeBytes`,
              sentence: `${name} has more bytes free than it has.`,
            },
          ]
        : []),
      ...takes
        .filter((id) => !move.dataSets.some((dataSet) => dataSet.id === id))
        .map((id): Problem => ({
          code: 'reference-to-nowhere',
          path: `/destinations/${index}/takes`,
          sentence: `${name} takes “${id}”, which is no data set of this move.`,
        })),
    ]),
  ];
  if (problems.length > 0) return { ok: false, problems };
  // Another drive under the same name: what was compared on the old one says nothing of it.
  const replaced = destinations.filter((destination) => {
    const before = move.destinations.find(({ id }) => id === destination.id);
    return before !== undefined && isAnotherDrive(before, destination);
  });
  const isReplaced = (destinationId: string | null) => replaced.some(({ id }) => id === destinationId);
  const copies = move.copies.filter(
    ({ dataSetId, destinationId }) =>
      !isReplaced(destinationId) &&
      destinations.some(({ id, takes }) => id === destinationId && takes.includes(dataSetId)),
  );
  const lost = move.copies.filter(({ destinationId }) => isReplaced(destinationId)).length;
  return changed(
    alignCopySteps(
      prune({
        ...move,
        destinations: [...destinations],
        copies,
        fileLists: move.fileLists.filter(({ destinationId }) => !isReplaced(destinationId)),
        failedChecks: move.failedChecks.filter(({ destinationId }) => !isReplaced(destinationId)),
        // Of a drive that is not there any more nothing is to be compared again.
        outdatedCopies: move.outdatedCopies.filter(({ destinationId }) => !isReplaced(destinationId)),
      }),
      now,
      actor.name,
    ),
    'destinations-set',
    `Destinations: ${destinations.map(({ name }) => name).join(', ') || 'none'}.${lost > 0 ? ` ${lost} verified ${lost === 1 ? 'copy no longer counts' : 'copies no longer count'}: ${replaced.map(({ name }) => name).join(', ')} is another drive now, by its serial.` : ''}`,
  );
}

/** States by hand that a copy is good, or withdraws that. */
export function tickCopy(
  move: Move,
  tick: { readonly dataSetId: string; readonly destinationId: string; readonly verified: boolean },
  { actor, now }: CommandContext,
): CommandOutcome {
  const refused = refuseWhenDone(move) ?? refuseBelowLine(move);
  if (refused) return refused;
  const destination = move.destinations.find(({ id }) => id === tick.destinationId);
  const dataSet = move.dataSets.find(({ id }) => id === tick.dataSetId);
  if (!destination || !dataSet || !destination.takes.includes(dataSet.id))
    return fail(
      'no-such-copy',
      '/dataSetId',
      'That destination has no copy of that data set planned: tick “copy here” on Save first.',
    );
  const others = move.copies.filter(
    (copy) => copy.dataSetId !== dataSet.id || copy.destinationId !== destination.id,
  );
  if (tick.verified && hasCopy(move, dataSet.id, destination.id))
    return fail(
      'already-verified',
      '/verified',
      `${dataSet.name} on ${destination.name} is verified already.`,
    );
  const differs = tick.verified ? whyDiffers(move, dataSet.id, destination.id) : undefined;
  if (differs !== undefined) return fail('copy-differs', '/verified', differs);
  const copies = tick.verified
    ? [...others, statedCopy(dataSet.id, destination.id, now, actor.name)]
    : others;
  return changed(
    alignCopySteps({ ...move, copies }, now, actor.name),
    tick.verified ? 'copy-stated' : 'copy-withdrawn',
    `${dataSet.name} on ${destination.name}: ${tick.verified ? 'stated by hand to be a good copy' : 'no longer counts as a copy'}.`,
  );
}
