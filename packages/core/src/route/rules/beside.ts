import { hasFreeEntry } from '../../disk/entries';
import { largestFreeRunBytes, roomNeededBytes, shrinkableBytes, shrinkableFloor } from '../../disk/room';
import { printBothUnits, printHasAndNeeds } from '../../quantity/bytes';
import {
  diskMark,
  partitionBytes,
  isFixed,
  spareDisk,
  systemDisk,
  systemPartition,
  type Disk,
} from '../../survey/disk';
import { valueOf, type Facts } from '../../survey/facts';
import { allows, excludes, targetOf, undecided, type RouteRule } from '../definition';
import { convertToGpt, freeSpace } from './remedies';
import { unknown } from './unknownFact';

/** @example hasOf(9e9, 10e9, 'and') // '9.0 GB (8.4 GiB) and 10.0 GB (9.3 GiB) are needed.' */
function hasOf(hasBytes: number, neededBytes: number, link: string): string {
  const [has, needs] = printHasAndNeeds(hasBytes, neededBytes);
  return `${has}${link === ';' ? '' : ' '}${link} ${needs} are needed.`;
}

export const roomBeside: RouteRule = {
  id: 'room-beside',
  reads: ['disks'],
  judge: (context) => {
    const needed = roomNeededBytes(targetOf(context).release.systemBytes);
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', `the second system needs ${printBothUnits(needed)}`);
    const disk = systemDisk(disks);
    const free = disk ? largestFreeRunBytes(disk) : 0;
    if (free >= needed) return allows(hasOf(free, needed, 'are free in one run;'));
    const shrinkable = disk && shrinkableBytes(disk);
    if (shrinkable === undefined)
      return undecided(
        `How far the system partition can shrink is unknown; the second system needs ${printBothUnits(needed)}.`,
        'Mark the system partition and type its used bytes, or run the collector while it is mounted.',
      );
    return shrinkable >= needed
      ? allows(`The system partition can give ${hasOf(shrinkable, needed, ';')}`)
      : excludes(`The system partition can give ${hasOf(shrinkable, needed, 'and')}`);
  },
  remedies: (context) => {
    const disk = systemDisk(valueOf(context.facts, 'disks'));
    const system = systemPartition(disk);
    if (!disk || !system || system.lastImmovableByte !== undefined) return [];
    // Room for the second system, and a reserve beside what stays used.
    const wanted = roomNeededBytes(targetOf(context).release.systemBytes);
    const size = partitionBytes(disk, system);
    return freeSpace(context, size - shrinkableFloor(size, wanted));
  },
};

export const schemeAgrees: RouteRule = {
  id: 'scheme-agrees',
  reads: ['disks', 'firmwareMode'],
  judge: (context) => {
    const { release } = targetOf(context);
    const disks = valueOf(context.facts, 'disks');
    const scheme = context.converting ?? systemDisk(disks)?.scheme;
    if (scheme === undefined) return unknown('disks', 'two systems must start from one scheme');
    const mode = scheme === 'gpt' ? 'uefi' : 'legacy';
    return release.firmwareModes.includes(mode)
      ? allows(`Both systems start from ${scheme.toUpperCase()}.`)
      : excludes(`The disk has ${scheme.toUpperCase()} and the release does not start from it.`);
  },
  remedies: convertToGpt,
};

/** A second system is one more partition, or several. */
export const entryFree: RouteRule = {
  id: 'entry-free',
  reads: ['disks'],
  judge: ({ facts, converting }) => {
    const disks = valueOf(facts, 'disks');
    if (disks === undefined) return unknown('disks', 'the table has to take one more partition');
    const disk = systemDisk(disks);
    if (disk === undefined)
      return undecided(
        'Which disk carries the system is not known, so neither is whether its table takes one more partition.',
        'Mark the system partition among the disks.',
      );
    return hasFreeEntry(disk, converting)
      ? allows('The table of the disk takes one more partition.')
      : excludes(
          'All four entries of the disk’s MBR are taken: make one of the partitions logical, or convert the disk to GPT, first. Plan that under Disk.',
        );
  },
  remedies: convertToGpt,
};

/** The disks that stay when a second one is fitted: the system's, and what can be unplugged. */
function besideSecond(facts: Facts): readonly Disk[] {
  const disks = valueOf(facts, 'disks') ?? [];
  const system = systemDisk(disks);
  return disks.filter((disk) => disk === system || disk.removable === true);
}

export const secondDiskThere: RouteRule = {
  id: 'second-disk-there',
  reads: ['disks', 'model'],
  judge: (context) => {
    const needed = targetOf(context).release.systemBytes;
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'a second disk is needed');
    const disk = spareDisk(disks);
    if (!disk) {
      const others = disks.filter((one) => one !== systemDisk(disks) && isFixed(one));
      return systemDisk(disks) && others.length > 1
        ? undecided(
            `Which of ${others.length} other disks a second system may take is not known: ${others.map(diskMark).join(', ')}.`,
            'Choose the disk when choosing the route; its data has to lie somewhere else first.',
          )
        : excludes('There is no second disk in the device.');
    }
    const used = disk.partitions.filter(({ usedBytes, role }) => (usedBytes ?? 0) > 0 || role === 'data');
    if (used.length > 0)
      return excludes(
        `The second disk ${diskMark(disk)} holds data (${used.map(({ label, number }) => label ?? `partition ${number}`).join(', ')}): it is not a spare.`,
      );
    if (disk.partitions.length > 0)
      return undecided(
        `Whether the partitions of the second disk ${diskMark(disk)} hold data is not known.`,
        'Mount them and run the collector again, or mark them among the disks.',
      );
    const bytes = disk.sectorBytes * disk.sectorCount;
    if (disk.health === 'failing') return excludes(`The second disk ${diskMark(disk)} is failing.`);
    return bytes >= roomNeededBytes(needed)
      ? allows(`The second disk ${diskMark(disk)} has ${printBothUnits(bytes)}.`)
      : excludes(`The second disk ${diskMark(disk)} has ${hasOf(bytes, roomNeededBytes(needed), 'and')}`);
  },
  remedies: ({ model }) => {
    const bay = model !== undefined && model.diskBays > 1;
    return [
      {
        id: bay ? 'fit-second-disk' : 'swap-in-spare-disk',
        action: bay
          ? 'Fit a spare solid-state disk of 256 GB into the second bay'
          : 'Swap in a spare solid-state disk of 256 GB and keep the present one in a drawer',
        handsOnMinutes: bay ? 25 : 35,
        cost: 45,
        gives: (now) => ({
          disks: [
            ...besideSecond(now),
            {
              name: 'spare',
              rotational: false,
              removable: false,
              bus: 'sata',
              sectorBytes: 512,
              sectorCount: 500_118_192,
              health: 'good',
              scheme: 'none',
              partitions: [],
            },
          ],
        }),
      },
    ];
  },
};
