import type { RouteDefinition } from '../route/definition';
import { secondDisk, systemDisk, type Disk } from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';

/** The disk that a route writes to: the present system's, or the second one. Undefined when it cannot be told. */
export function diskToWrite(facts: Facts, route: Pick<RouteDefinition, 'writesOver'>): Disk | undefined {
  const disks = valueOf(facts, 'disks');
  return route.writesOver === 'second-disk' ? secondDisk(disks) : systemDisk(disks);
}
