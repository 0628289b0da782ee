import type { RouteDefinition } from '../route/definition';
import { isFixed, spareDisk, systemDisk, type Disk } from '../survey/disk';
import { ownDisk } from '../survey/emptyDevice';
import { isEmptyDevice, valueOf, type Facts } from '../survey/facts';
import type { ChosenDisk } from './chosen';

type Given = {
  readonly facts: Facts;
  readonly route: Pick<RouteDefinition, 'writesOver'>;
  /** The one that was chosen, where one was. */
  readonly disk?: ChosenDisk | null;
};

/**
 * The disks among which one may be chosen to be written: beside on another disk, those of the device that do not carry
 * the present system; where no system is on it, all that are built in; otherwise the system’s own.
 */
export function disksToWrite({ facts, route }: Pick<Given, 'facts' | 'route'>): readonly Disk[] {
  const disks = valueOf(facts, 'disks') ?? [];
  const own = systemDisk(disks);
  if (route.writesOver === 'second-disk')
    return own ? disks.filter((disk) => disk !== own && isFixed(disk)) : [];
  if (isEmptyDevice(facts)) return disks.filter(isFixed);
  return own ? [own] : [];
}

/** The disk that a route writes to: the chosen one, else the system’s or the second one. Undefined when it cannot be told. */
export function diskToWrite({ facts, route, disk: chosen }: Given): Disk | undefined {
  if (chosen) {
    const found = disksToWrite({ facts, route }).find(({ name, serial }) =>
      chosen.serial === null ? name === chosen.name : serial === chosen.serial,
    );
    if (found) return found;
  }
  return route.writesOver === 'second-disk' ? spareDisk(valueOf(facts, 'disks')) : ownDisk(facts);
}
