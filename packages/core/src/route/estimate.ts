import type { Release } from '../catalogue/catalogue';
import { stepTimes, type StepKind } from '../rules/stepTimes';
import { dataPartitions, systemDisk } from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';
import type { RouteDefinition } from './definition';

/** Where nothing is measured yet: a quarter of a terabyte is a common disk, a third of it used. */
const assumedDataBytes = 80_000_000_000;
/** Before anything is listed an estimate is no finer than this; what would change it can be told exactly then. */
export const estimateStepBytes = 25_000_000_000;
/** A backup drive on USB 3 with a spinning disk behind it; see backup/speeds. */
const assumedBytesPerMinute = 100_000_000 * 60;

/** Bytes that the route puts at risk, as far as the survey tells. */
function estimateDataBytes(facts: Facts, route: RouteDefinition): number {
  const disk = systemDisk(valueOf(facts, 'disks'));
  if (!disk) return assumedDataBytes;
  const apart = route.writesOver === 'system-partition' ? dataPartitions(disk) : [];
  const used = disk.partitions
    .filter((partition) => !apart.includes(partition))
    .map(({ usedBytes }) => usedBytes);
  if (used.every((bytes) => bytes === undefined)) return assumedDataBytes;
  const bytes = used.reduce<number>((sum, part) => sum + (part ?? 0), 0);
  return Math.ceil(bytes / estimateStepBytes) * estimateStepBytes;
}

/** Kinds of steps that few devices need: before there is a plan they are not counted. */
const seldom: ReadonlySet<StepKind> = new Set(['other-disks-back', 'resume-encryption']);

export type Minutes = { readonly handsOnMinutes: number; readonly waitingMinutes: number };

/**
 * Likely hands-on and waiting minutes of a route, before data sets and destinations are known and
 * without the install itself: the sum over its kinds of steps, plus copying, verifying and restoring
 * the data. Not rounded.
 */
export function estimateRoute(route: RouteDefinition, facts: Facts): Minutes {
  let handsOnMinutes = 0;
  let waitingMinutes = 0;
  const copyMinutes = estimateDataBytes(facts, route) / assumedBytesPerMinute;
  for (const kind of route.steps) {
    if (seldom.has(kind)) continue;
    const { handsOn, waiting } = stepTimes[kind];
    handsOnMinutes += handsOn.likely;
    waitingMinutes += waiting.likely;
    if (kind === 'copy' || kind === 'verify' || kind === 'restore') waitingMinutes += copyMinutes;
  }
  return { handsOnMinutes, waitingMinutes };
}

/** What a licence asks for; a release that needs none has no such steps. */
const licenceKinds: readonly StepKind[] = ['record-licence', 'activate'];

/** The route's minutes with the target's install, its licence and the fixes that it needs, in whole minutes. */
export function estimateCandidate(
  base: Minutes,
  route: RouteDefinition,
  release: Release | undefined,
  fixMinutes: number,
): Minutes {
  const installs = release !== undefined && route.steps.includes('install');
  let withoutLicence = 0;
  if (release && release.activation.every((kind) => kind === 'none'))
    for (const kind of licenceKinds)
      if (route.steps.includes(kind)) withoutLicence += stepTimes[kind].handsOn.likely;
  return {
    handsOnMinutes: Math.round(base.handsOnMinutes - withoutLicence + fixMinutes),
    waitingMinutes: Math.round(base.waitingMinutes + (installs ? release.installMinutes.likely : 0)),
  };
}
