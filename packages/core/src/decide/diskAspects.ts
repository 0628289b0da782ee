import type { Catalogue } from '../catalogue/catalogue';
import { roomNeededBytes, shrinkableFloor } from '../disk/room';
import { gibibyteBytes, printApart } from '../quantity/bytes';
import {
  dataPartitions,
  diskBytes,
  diskMark,
  isFixed,
  partitionBytes,
  secondDisk,
  systemDisk,
  systemPartition,
  type Disk,
  type Partition,
} from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';
import type { FactPatch } from '../survey/patch';
import { limitBytes, minima, numberClasses, wordClasses, type Tell } from './aspectClasses';
import { estimateStepBytes } from './assumed';

/** What the rules look at of the disks. */
export function diskAspects(facts: Facts, catalogue: Catalogue, tell: Tell): void {
  const disks = valueOf(facts, 'disks');
  const disk = systemDisk(disks);
  if (disks === undefined) return unknownDisks(catalogue, tell);
  if (!disk) return unmarkedDisks(disks, tell);
  const put = (next: Disk): FactPatch => ({ disks: disks.map((one) => (one === disk ? next : one)) });
  tell(
    'disks',
    'Health of the system disk',
    wordClasses(['good', 'worn', 'failing'] as const, disk.health, (health) => put({ ...disk, health })),
    { id: 'disk health' },
  );
  tell(
    'disks',
    'Partition scheme',
    wordClasses(
      ['gpt', 'mbr', 'none'] as const,
      disk.scheme,
      (scheme) => put({ ...disk, scheme }),
      (scheme) => (scheme === 'none' ? 'none' : scheme.toUpperCase()),
    ),
    { id: 'disk scheme' },
  );
  sizeAspect(disk, put, catalogue, tell);
  usedAspect(disk, put, catalogue, tell);
  dataAspect(disk, put, tell);
  secondDiskAspect(disks, catalogue, tell);
}

const endOf = (disk: Disk) =>
  disk.partitions.reduce((end, { startLba, sectorCount }) => Math.max(end, startLba + sectorCount), 0) *
  disk.sectorBytes;

const ofSize = (disk: Disk, sizeBytes: number): Disk => ({
  ...disk,
  sectorCount: Math.ceil(sizeBytes / disk.sectorBytes),
});

/** A larger disk, or a smaller one that still holds every partition: what is more lies free behind the last. */
function sizeAspect(disk: Disk, put: (next: Disk) => FactPatch, catalogue: Catalogue, tell: Tell): void {
  const end = endOf(disk);
  const rooms = catalogue.releases.map(({ systemBytes }) => end + roomNeededBytes(systemBytes));
  const cuts = [...minima(catalogue, 'system-disk', (r) => r.minimumBytes), ...rooms].map(
    // A disk ends with a whole sector.
    (bytes) => Math.ceil(bytes / disk.sectorBytes) * disk.sectorBytes,
  );
  const size = diskBytes(disk);
  tell(
    'disks',
    'Size of the system disk',
    numberClasses(
      cuts,
      end,
      Number.MAX_SAFE_INTEGER,
      size,
      (sizeBytes) => put(ofSize(disk, sizeBytes)),
      limitBytes('decimal'),
    ),
    { id: 'disk size', now: printApart(size, cuts, 'decimal') },
  );
}

function usedAspect(disk: Disk, put: (next: Disk) => FactPatch, catalogue: Catalogue, tell: Tell): void {
  const system = systemPartition(disk);
  const size = system ? partitionBytes(disk, system) : 0;
  if (!system || size <= 0) return;
  // Data elsewhere on the disk counts along in the estimate, and shifts its steps.
  const others = disk.partitions
    .filter((one) => one !== system)
    .reduce((sum, one) => sum + (one.usedBytes ?? 0), 0);
  const apart = dataPartitions(disk).reduce((sum, one) => sum + (one.usedBytes ?? 0), 0);
  const steps = (base: number) =>
    Array.from(
      { length: Math.ceil((size + base) / estimateStepBytes) + 1 },
      (_unused, index) => index * estimateStepBytes - base + 1,
    );
  const cuts = [
    ...catalogue.releases.flatMap((release) => [
      size - release.upgradeFreeBytes + 1,
      shrinkableFloor(size, roomNeededBytes(release.systemBytes)) + 1,
    ]),
    ...steps(others),
    ...steps(others - apart),
  ];
  tell(
    'disks',
    'Used bytes of the system partition',
    numberClasses(
      cuts,
      0,
      size,
      system.usedBytes,
      (usedBytes) => put(withPartition(disk, system, { usedBytes })),
      limitBytes('decimal'),
    ),
    {
      id: 'disk used',
      ...(system.usedBytes === undefined ? {} : { now: printApart(system.usedBytes, cuts, 'decimal') }),
    },
  );
}

function withPartition(disk: Disk, partition: Partition, change: Partial<Partition>): Disk {
  return {
    ...disk,
    partitions: disk.partitions.map((one) => (one === partition ? { ...one, ...change } : one)),
  };
}

/** A data partition taken away, or one made of the end of the system partition. */
function dataAspect(disk: Disk, put: (next: Disk) => FactPatch, tell: Tell): void {
  const data = dataPartitions(disk);
  const system = systemPartition(disk);
  if (data.length > 0)
    tell(
      'disks',
      'A data partition',
      [
        { when: 'there', patch: put(disk), isPresent: true },
        {
          when: 'not there',
          patch: put({ ...disk, partitions: disk.partitions.filter((one) => !data.includes(one)) }),
          isPresent: false,
        },
      ],
      { id: 'disk data' },
    );
  else if (system) {
    const sectors = Math.min(Math.ceil(gibibyteBytes / disk.sectorBytes), Math.floor(system.sectorCount / 2));
    const kept = system.sectorCount - sectors;
    const smaller = withPartition(disk, system, { sectorCount: kept });
    const number = Math.max(0, ...disk.partitions.map((one) => one.number)) + 1;
    const made: Partition = {
      number,
      startLba: system.startLba + kept,
      sectorCount: sectors,
      role: 'data',
      usedBytes: 0,
    };
    tell(
      'disks',
      'A data partition',
      [
        {
          when: 'there',
          patch: put({ ...smaller, partitions: [...smaller.partitions, made] }),
          isPresent: false,
        },
        { when: 'not there', patch: put(disk), isPresent: true },
      ],
      { id: 'disk data' },
    );
  }
}

const empty = (name: string, sizeBytes: number): Disk => ({
  name,
  rotational: false,
  removable: false,
  bus: 'sata',
  sectorBytes: 512,
  sectorCount: Math.ceil(sizeBytes / 512),
  health: 'good',
  scheme: 'none',
  partitions: [],
});

/** A second fixed disk taken out, emptied, or put in, of every size that a rule tells apart. */
function secondDiskAspect(disks: readonly Disk[], catalogue: Catalogue, tell: Tell): void {
  const second = secondDisk(disks);
  const system = systemDisk(disks);
  const fixed = disks.filter((disk) => disk !== system && isFixed(disk));
  // Of several it is not told which one is meant.
  if (fixed.length > 1) return;
  const rest = disks.filter((disk) => disk !== second);
  const rooms = [...new Set(catalogue.releases.map(({ systemBytes }) => roomNeededBytes(systemBytes)))].sort(
    (a, b) => a - b,
  );
  tell(
    'disks',
    'A second disk in the device',
    [
      ...(second
        ? [{ when: `${diskMark(second)}, as it is`, patch: { disks: [...disks] }, isPresent: true }]
        : []),
      { when: second ? 'taken out' : 'none', patch: { disks: rest }, isPresent: second === undefined },
      ...rooms.map((room) => ({
        when: `an empty one of ${printApart(room, rooms, 'decimal')} or more`,
        patch: { disks: [...rest, empty('second disk', room)] },
        isPresent: false,
      })),
    ],
    { id: 'disk second' },
  );
}

/** Nothing is known of the disks: one that is sound and roomy, and each thing that may be wrong with it. */
function unknownDisks(catalogue: Catalogue, tell: Tell): void {
  const max = Math.max(...minima(catalogue, 'system-disk', (r) => r.minimumBytes), 0);
  const rooms = catalogue.releases.flatMap(({ systemBytes, upgradeFreeBytes }) => [
    roomNeededBytes(systemBytes),
    upgradeFreeBytes,
  ]);
  const roomy = 2 * (max + Math.max(...rooms, 0));
  const withSystem = (scheme: 'gpt' | 'mbr', sizeBytes: number, usedBytes: number): Disk => {
    const disk: Disk = { ...empty('disk', sizeBytes), scheme };
    return {
      ...disk,
      partitions: [
        { number: 1, startLba: 2048, sectorCount: disk.sectorCount - 4096, role: 'system', usedBytes },
      ],
    };
  };
  const told = (when: string, disk: Disk) => ({ when, patch: { disks: [disk] }, isPresent: false });
  const small = Math.max(Math.min(...rooms, max), gibibyteBytes);
  tell(
    'disks',
    'The system disk',
    (['gpt', 'mbr'] as const).flatMap((scheme) => {
      const name = scheme.toUpperCase();
      const full = withSystem(scheme, roomy, 0);
      return [
        told(`${name}, sound, with room`, withSystem(scheme, roomy, 0)),
        told(`${name}, sound, full`, withSystem(scheme, roomy, partitionBytesOf(full))),
        told(`${name}, failing`, { ...withSystem(scheme, roomy, 0), health: 'failing' }),
        told(`${name}, too small for any release`, withSystem(scheme, small, 0)),
      ];
    }),
    { id: 'disk unknown' },
  );
}

const partitionBytesOf = (disk: Disk) => {
  const system = systemPartition(disk);
  return system ? partitionBytes(disk, system) : 0;
};

/** The disk with that partition as the system's, if it has it, and no other. */
function withSystemOn(disk: Disk, system: Partition): Disk {
  return {
    ...disk,
    partitions: disk.partitions.map((partition) => {
      if (partition === system) return { ...partition, role: 'system' };
      if (partition.role !== 'system') return partition;
      const { role: _system, ...rest } = partition;
      return rest;
    }),
  };
}

/** Which disk carries the system is not marked: each of them could. */
function unmarkedDisks(disks: readonly Disk[], tell: Tell): void {
  const classes = disks.flatMap((disk) => {
    const largest = disk.partitions.toSorted((a, b) => b.sectorCount - a.sectorCount)[0];
    if (!largest) return [];
    return [
      {
        when: `on ${diskMark(disk)}`,
        patch: { disks: disks.map((one) => withSystemOn(one, largest)) },
        isPresent: false,
      },
    ];
  });
  if (classes.length > 0) tell('disks', 'Where the system is', classes, { id: 'disk unmarked' });
}
