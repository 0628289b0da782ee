import type { Release } from '../catalogue/catalogue';
import { stepTimes } from '../practice/stepTimes';
import { dataPartitions, systemDisk } from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';
import type { RouteDefinition } from './definition';

/** Where nothing is measured yet: a quarter of a terabyte is a common disk, a third of it used. */
const assumedDataBytes = 80_000_000_000;
/** A backup drive on USB 3 with a spinning disk behind it; see backup/speeds. */
const assumedBytesPerMinute = 100_000_000 * 60;

/** Bytes that the route puts at risk, as far as the survey tells. */
export function estimateDataBytes(facts: Facts, route: RouteDefinition): number {
  const disk = systemDisk(valueOf(facts, 'disks'));
  if (!disk) return assumedDataBytes;
  const apart = route.writesOver === 'system-partition' ? dataPartitions(disk) : [];
  const used = disk.partitions
    .filter((partition) => !apart.includes(partition))
    .map(({ usedBytes }) => usedBytes);
  if (used.every((bytes) => bytes === undefined)) return assumedDataBytes;
  return used.reduce<number>((sum, bytes) => sum + (bytes ?? 0), 0);
}

/**
 * Likely hands-on and waiting minutes of a route, before data sets and destinations are known:
 * the sum over its kinds of steps, plus copying, verifying and restoring the data, plus the install.
 */
export function estimateMinutes(
  route: RouteDefinition,
  facts: Facts,
  release: Release | undefined,
  fixMinutes: number,
): { readonly handsOnMinutes: number; readonly waitingMinutes: number } {
  let handsOnMinutes = fixMinutes;
  let waitingMinutes = 0;
  const copyMinutes = estimateDataBytes(facts, route) / assumedBytesPerMinute;
  for (const kind of route.steps) {
    const { handsOn, waiting } = stepTimes[kind];
    handsOnMinutes += handsOn.likely;
    waitingMinutes += waiting.likely;
    if (kind === 'copy' || kind === 'verify' || kind === 'restore') waitingMinutes += copyMinutes;
    if (kind === 'install' && release) waitingMinutes += release.installMinutes.likely;
  }
  return { handsOnMinutes: Math.round(handsOnMinutes), waitingMinutes: Math.round(waitingMinutes) };
}
