import { copiesOf } from '../../backup/copies/copies';
import { fail } from '../../outcome/outcome';
import { houseRulesOfMove } from '../../rules/houseRules';
import { routes } from '../../route/catalogueOfRoutes';
import { maxCapsules, type Capsule, type DiskWork } from '../../runbook/diskPlan';
import { guardedDiskWork, type WorkContext } from '../../runbook/diskWork';
import { lineCrossed } from '../../runbook/signature';
import { diskBytes, diskMark, systemDisk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import { diskOfDecision } from '../diskOf';
import type { Move } from '../move';
import type { House } from '../reading';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** What the guards of disk work ask of a move. */
export function diskWorkContext(move: Move, { houseRules }: Pick<House, 'houseRules'>): WorkContext {
  const route = move.decision ? routes[move.decision.routeId] : undefined;
  const own = houseRulesOfMove(houseRules, move.departures);
  const copies = copiesOf(move.dataSets, move.destinations, move.copies, route?.writesOver ?? 'nothing', own);
  return {
    // Only what the guards read: it travels to workers.
    route: route && { writesOver: route.writesOver },
    target: move.decision ? diskOfDecision(move) : systemDisk(valueOf(move.facts, 'disks')),
    marks: move.preparation.diskMarks,
    short: copies.flatMap(({ dataSetId, planned, needed }) =>
      planned < needed
        ? [{ name: move.dataSets.find(({ id }) => id === dataSetId)?.name ?? dataSetId, planned, needed }]
        : [],
    ),
  };
}

const workTitles = {
  room: 'room for a second system',
  split: 'system and data apart',
  'installer-partition': 'a partition with the installer',
  standard: 'the release’s own layout',
  wipe: 'the whole disk laid out anew',
  'grow-back': 'a partition grown back',
} as const;

/**
 * Plans work on a disk's table, or takes the plan out. Refused for another disk than the route's, a disk not
 * identified by serial number and size, a partition that is to be kept, and data without the copies that are asked for.
 */
export function planDisk(
  move: Move,
  asked: { readonly disk: string; readonly work: DiskWork | null },
  context: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  if (move.plan && lineCrossed(move.plan.runbook, move.signatures))
    return fail('line-crossed', '', 'The Line has been crossed: the plan for the disk stays as it is.');
  if (asked.work === null)
    return changed({ ...move, diskPlan: null }, 'disk-unplanned', 'Work on the disk removed from the plan.');
  const disk = valueOf(move.facts, 'disks')?.find(({ name }) => name === asked.disk);
  if (!disk) return fail('no-such-disk', '/disk', `There is no disk ${asked.disk} in the survey.`);
  const planned = guardedDiskWork(disk, asked.work, diskWorkContext(move, context));
  if (!planned.ok) return planned;
  const { work } = asked;
  const what =
    work.kind === 'convert' ? `converted to ${work.target.toUpperCase()}` : workTitles[work.goal.kind];
  return changed(
    {
      ...move,
      diskPlan: {
        disk: disk.name,
        serial: disk.serial ?? null,
        work,
        at: context.now,
        by: context.actor.name,
      },
    },
    'disk-planned',
    `Disk ${diskMark(disk)}: ${what}, ${planned.value.operations.length} operations, about ${planned.value.minutes} min.`,
  );
}

/** A table's old sectors in base64 are some 60 kB; 128 logical partitions with wide sectors ten times as much. */
const maxCapsuleCharacters = 1_200_000;

/** Keeps the old sectors of a disk with the move: what a conversion overwrites, and how it is undone. */
export function keepCapsule(
  move: Move,
  given: Pick<Capsule, 'disk' | 'target' | 'remembered' | 'undo'>,
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const disk = valueOf(move.facts, 'disks')?.find(({ name }) => name === given.disk);
  if (!disk) return fail('no-such-disk', '/disk', `There is no disk ${given.disk} in the survey.`);
  const { sectorCount, sectorSizeBytes } = given.undo.disk;
  if (sectorCount * sectorSizeBytes !== diskBytes(disk))
    return fail(
      'another-disk',
      '/undo/disk',
      `The sectors are of a disk with ${sectorCount} sectors of ${sectorSizeBytes} bytes; disk ${diskMark(disk)} has ${disk.sectorCount} of ${disk.sectorBytes}.`,
    );
  if (move.capsules.length >= maxCapsules)
    return fail(
      'too-many-capsules',
      '',
      `${maxCapsules} capsules are kept with this move already: each may be the only way back of a conversion. Start a new move for the device.`,
    );
  if (given.undo.writes.reduce((sum, { data }) => sum + data.length, 0) > maxCapsuleCharacters)
    return fail('capsule-too-large', '/undo', 'So many sectors are no table: keep this capsule as a file.');
  const capsule: Capsule = { ...given, at: now, by: actor.name };
  return changed(
    { ...move, capsules: [...move.capsules, capsule] },
    'capsule-kept',
    `Old sectors of disk ${diskMark(disk)} kept before the conversion to ${given.target.toUpperCase()}: ${given.undo.writes.length} places.`,
  );
}
