import type { InstallerMediumId } from '../catalogue/catalogue';
import { largestFreeRunBytes, roomNeededBytes, shrinkableBytes } from '../disk/room';
import type { StepKind } from '../rules/stepTimes';
import { stepKinds } from '../rules/stepTimes';
import { printBothUnits, printHasAndNeeds } from '../quantity/bytes';
import { systemDisk } from '../survey/disk';
import { valueOf } from '../survey/facts';
import {
  allows,
  excludes,
  undecided,
  type Consenter,
  type RouteContext,
  type RouteDefinition,
  type RuleFinding,
} from './definition';

/** A dual-layer disc as written (ECMA-364 and its kin give 8.54 × 10⁹ bytes). */
const discBytes = 8_540_000_000;
/** File tables beside the image on a partition. */
const partitionOverhead = 1.06;

/** Bytes of the partition that holds an installer: its image, and what FAT32 adds. */
export function installerPartitionBytes({ imageBytes }: { readonly imageBytes: number }): number {
  return Math.ceil(imageBytes * partitionOverhead);
}

/** A way in which the installer gets to the device. Adding one is adding one entry of this shape. */
type InstallerMedium = {
  readonly id: InstallerMediumId;
  readonly title: string;
  readonly about: string;
  readonly judge: (context: RouteContext, route: RouteDefinition) => RuleFinding;
  readonly keeps: readonly string[];
  readonly loses: readonly string[];
  readonly cautions: readonly string[];
  readonly consent: readonly Consenter[];
  /** What stands in a plan in place of the stick's steps. */
  readonly replaces: Readonly<Partial<Record<StepKind, readonly StepKind[]>>>;
};

const needsNewStart = ({ steps }: RouteDefinition) =>
  steps.includes('start-from-stick') || steps.includes('start-by-key');

export const installerMedia: Readonly<Record<InstallerMediumId, InstallerMedium>> = {
  stick: {
    id: 'stick',
    title: 'Installer stick',
    about: 'The usual way: written once, started by the boot-menu key, unplugged at the first restart.',
    judge: () => allows('A stick is at hand in every workshop.'),
    keeps: [],
    loses: ['everything on the stick'],
    cautions: ['The stick and the backup drive are two devices.'],
    consent: [],
    replaces: {},
  },
  'optical-disc': {
    id: 'optical-disc',
    title: 'Optical disc',
    about: 'Slow, and sure on old machines whose firmware does not start from USB.',
    judge: ({ target, facts }) => {
      const { imageBytes = 0 } = target?.release ?? {};
      if (imageBytes > discBytes)
        return excludes(
          `The image has ${printBothUnits(imageBytes)} and a disc holds ${printBothUnits(discBytes)}.`,
        );
      switch (valueOf(facts, 'opticalDrive')) {
        case 'internal':
          return allows('The device has a drive for discs.');
        case 'external':
          return allows('A drive for discs on USB is at hand.');
        case 'none':
          return excludes('The device has no drive for discs, and none on USB is at hand.');
        case undefined:
          return undecided(
            'Whether the device has a drive for discs is not in the survey.',
            'Look at the device: a tray, a slot, or a drive on USB.',
          );
      }
    },
    keeps: [],
    loses: ['a blank disc'],
    cautions: ['A disc that was written and not compared fails at the worst moment: verify it.'],
    consent: [],
    replaces: {
      'write-stick': ['burn-disc'],
      'start-from-stick': ['start-from-disc'],
      'stick-out': ['disc-out'],
    },
  },
  'disk-partition': {
    id: 'disk-partition',
    title: 'Partition on the same disk',
    about:
      'No stick at hand: a FAT32 partition that holds the image, started by the firmware’s “boot from file”.',
    judge: (context, route) => {
      if (!needsNewStart(route)) return excludes('An upgrade starts from inside the running system.');
      if (route.writesOver === 'second-disk')
        return excludes('The first disk is unplugged meanwhile, and the installer would be on it.');
      if (route.writesOver === 'whole-disk')
        return excludes('The route empties the whole disk, and the installer would be on it.');
      if (valueOf(context.facts, 'firmwareMode') === 'legacy')
        return excludes('Firmware in legacy mode does not start from a file.');
      const { imageBytes = 0, systemBytes = 0 } = context.target?.release ?? {};
      // Installer and second system take their room from the same disk: calculated together.
      const beside = route.id === 'beside-same-disk' ? roomNeededBytes(systemBytes) : 0;
      const needed = installerPartitionBytes({ imageBytes }) + beside;
      const disk = systemDisk(valueOf(context.facts, 'disks'));
      const shrinkable = disk && shrinkableBytes(disk);
      if (!disk || shrinkable === undefined)
        return undecided(
          `Room for a partition of ${printBothUnits(needed)} is unknown.`,
          'Mark the system partition and type its used bytes.',
        );
      const room = Math.max(shrinkable, largestFreeRunBytes(disk));
      const [has, needs] = printHasAndNeeds(room, needed);
      return room >= needed
        ? allows(`The disk can give ${has}; ${needs} are needed.`)
        : excludes(`The disk can give ${has} and ${needs} are needed.`);
    },
    keeps: [],
    loses: ['space on the disk until the partition is taken away'],
    cautions: ['A file over 4 GiB does not fit on FAT32: split it, as the release’s recipe says.'],
    consent: [],
    replaces: {
      'write-stick': ['recovery-medium', 'shrink-system', 'make-installer-partition'],
      'start-from-stick': ['start-from-partition'],
      'stick-out': ['installer-partition-away'],
    },
  },
  'running-system': {
    id: 'running-system',
    title: 'Image opened in the running system',
    about: 'For upgrades and second systems: no stick, no boot menu; the installer starts as an application.',
    judge: (_context, route) =>
      needsNewStart(route) && route.id !== 'beside-same-disk'
        ? excludes('The running system cannot erase the partition that it runs from.')
        : allows('The image is opened by a double click; its checksum first.'),
    keeps: [],
    loses: [],
    cautions: ['A system that is infected or unstable is no place to start an installer from.'],
    consent: [],
    replaces: { 'write-stick': ['open-image'], 'start-from-stick': ['start-installer'], 'stick-out': [] },
  },
};

/** How the installer can be brought for a route to a target, each with its finding. */
export function installerMediaFor(
  context: RouteContext,
  route: RouteDefinition,
): readonly { readonly installerMedium: InstallerMedium; readonly finding: RuleFinding }[] {
  const { target } = context;
  if (!target || !route.steps.includes('write-stick')) return [];
  return Object.values(installerMedia).map((installerMedium) => ({
    installerMedium,
    finding: target.release.bringings.includes(installerMedium.id)
      ? installerMedium.judge(context, route)
      : excludes(`The release’s installer does not come that way.`),
  }));
}

const place = new Map<StepKind, number>(stepKinds.map((kind, index) => [kind, index]));

/** Asked for every option of every device: the same for a route and a medium each time. */
const kindsByRoute = new WeakMap<RouteDefinition, Partial<Record<InstallerMediumId, readonly StepKind[]>>>();

/** A route's kinds of steps when the installer comes in another way, in the order in which they are done. */
export function stepsOfRoute(
  route: RouteDefinition,
  installerMedium: InstallerMediumId,
): readonly StepKind[] {
  const known = kindsByRoute.get(route)?.[installerMedium];
  if (known) return known;
  const { replaces } = installerMedia[installerMedium];
  // A route may have a step already that its medium asks for as well.
  const kinds = inStepOrder([...new Set(route.steps.flatMap((kind) => replaces[kind] ?? [kind]))]);
  kindsByRoute.set(route, { ...kindsByRoute.get(route), [installerMedium]: kinds });
  return kinds;
}

/** Kinds of steps in the order in which they are done, whatever the route. */
export function inStepOrder(kinds: readonly StepKind[]): readonly StepKind[] {
  return [...kinds].sort((a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0));
}
