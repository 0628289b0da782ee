import { printBothUnits, printHasAndNeeds } from '../../quantity/bytes';
import { dataPartitions, diskMark, partitionBytes, systemDisk, systemPartition } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import { allows, excludes, targetOf, undecided, type RouteRule } from '../definition';
import { convertToGpt, freeSpace, withSystemDisk } from './remedies';
import { unknown } from './unknownFact';

export const enoughFreeSpace: RouteRule = {
  id: 'enough-free-space',
  reads: ['disks'],
  judge: (context) => {
    const { release } = targetOf(context);
    const needs = printBothUnits(release.upgradeFreeBytes);
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', `the upgrade needs ${needs} free`);
    const disk = systemDisk(disks);
    const system = systemPartition(disk);
    if (!disk || system?.usedBytes === undefined)
      return undecided(
        `Free space of the system partition unknown; the upgrade needs ${needs}.`,
        'Mark the system partition and type its used bytes, or run the collector while it is mounted.',
      );
    const freeBytes = partitionBytes(disk, system) - system.usedBytes;
    const [free, wanted] = printHasAndNeeds(freeBytes, release.upgradeFreeBytes);
    return freeBytes >= release.upgradeFreeBytes
      ? allows(`${free} are free; the upgrade needs ${wanted}.`)
      : excludes(
          `${free} are free and the upgrade needs ${wanted}: free ${printBothUnits(release.upgradeFreeBytes - freeBytes)} more.`,
        );
  },
  remedies: (context) => freeSpace(context, targetOf(context).release.upgradeFreeBytes),
};

export const diskSound: RouteRule = {
  id: 'disk-sound',
  reads: ['disks'],
  judge: (context) => {
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'an upgrade on a failing disk loses data');
    const disk = systemDisk(disks);
    if (disk?.health === undefined)
      return undecided(
        'The health of the system disk is unknown; a failing disk does not survive an upgrade.',
        'Read the disk’s own report with the rescue stick’s disk page, and type it among the disks.',
      );
    return disk.health === 'failing'
      ? excludes(`Disk ${diskMark(disk)} is failing: copy it first, and read it once.`)
      : allows(`Disk ${diskMark(disk)} is in ${disk.health} health.`);
  },
  remedies: () => [
    {
      id: 'new-disk',
      action: 'Copy the failing disk onto a new solid-state disk, most valuable data first, and fit that',
      handsOnMinutes: 45,
      cost: 45,
      gives: (now) => ({
        disks: withSystemDisk(now, (disk) => ({ ...disk, health: 'good', rotational: false })),
      }),
    },
  ],
};

/** The present table must be one that the target can start from, as the table stays. */
export const schemeSuits: RouteRule = {
  id: 'scheme-suits',
  reads: ['disks', 'firmwareMode'],
  judge: (context) => {
    const { release } = targetOf(context);
    if (release.firmwareModes.includes('legacy')) return allows('The release starts from either scheme.');
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'the release starts from GPT only');
    if (context.converting === 'gpt')
      return allows('The system disk is converted to GPT first, without loss: it is planned under Disk.');
    const scheme = context.converting ?? systemDisk(disks)?.scheme;
    if (scheme === undefined)
      return undecided(
        'The system disk’s partition scheme is unknown; the release starts from GPT only.',
        'Run the collector on the device, or read it in the present system’s disk page, and type it.',
      );
    return scheme === 'gpt'
      ? allows('The system disk has GPT, from which the release starts.')
      : excludes(
          'The system disk has MBR and the release starts from GPT only: its scheme would have to be converted first. Plan that on Prepare, under Disk, and this is allowed.',
        );
  },
  remedies: convertToGpt,
};

export const dataApart: RouteRule = {
  id: 'data-apart',
  reads: ['disks'],
  judge: (context) => {
    const disks = valueOf(context.facts, 'disks');
    if (disks === undefined) return unknown('disks', 'a data partition must lie apart from the system');
    const disk = systemDisk(disks);
    const apart = dataPartitions(disk);
    if (apart.length > 0)
      return allows(`Partition ${apart.map(({ number }) => number).join(', ')} holds data and stays.`);
    if (!disk || disk.partitions.length === 0 || disk.partitions.some(({ role }) => role === undefined))
      return undecided(
        'Whether a partition holds only data is not known.',
        'Mark what each partition of the system disk is for.',
      );
    return excludes('No partition holds only data: everything is on the system partition.');
  },
};
