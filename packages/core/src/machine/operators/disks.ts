import { diskOf, systemOf, withDisk, withSystem, type Machine } from '../state';
import type { OperatorRule } from '../operator';
import {
  copied,
  installerRuns,
  mayBeWritten,
  nameOf,
  namesOf,
  need,
  notLocked,
  recoverable,
  setsOn,
  shutDownFully,
} from './needs';

export const unplug: OperatorRule<'unplug'> = {
  needs: (machine, { disk }) => need(diskOf(machine, disk) !== undefined, `disk ${disk} is not there`),
  does: (machine, { disk }) => withDisk({ ...machine, running: { what: 'off' } }, disk, { plugged: false }),
};

export const plug: OperatorRule<'plug'> = {
  needs: (machine, { disk }) => need(diskOf(machine, disk) !== undefined, `disk ${disk} is not there`),
  does: (machine, { disk }) => withDisk({ ...machine, running: { what: 'off' } }, disk, { plugged: true }),
};

export const fitPart: OperatorRule<'fit-part'> = {
  // Who opens a device for its disk may be left without it.
  needs: (machine, { part, disk }) => (part === 'disk' ? copied(machine, setsOn(machine, disk)) : []),
  does: (machine, { part }) => ({
    ...machine,
    running: { what: 'off' },
    lacking: machine.lacking.filter((one) => one !== part),
  }),
  risks: (machine, { part, disk }) => (part === 'disk' ? setsOn(machine, disk) : []),
};

export const label: OperatorRule<'label'> = {
  needs: (machine, { disk }) => need(diskOf(machine, disk) !== undefined, `disk ${disk} is not there`),
  does: (machine, { disk }) => withDisk(machine, disk, { toldApart: true }),
};

export const identify: OperatorRule<'identify'> = {
  needs: (machine, { disk }) =>
    need(diskOf(machine, disk)?.plugged === true, `disk ${disk} is unplugged`, 'plug'),
  does: (machine, { disk }) => withDisk(machine, disk, { identified: true }),
};

export const keepSectors: OperatorRule<'keep-sectors'> = {
  needs: (machine, { disk }) =>
    need(diskOf(machine, disk)?.plugged === true, `disk ${disk} is unplugged`, 'plug'),
  does: (machine, { disk }) => withDisk(machine, disk, { capsule: true }),
};

export const connectMains: OperatorRule<'connect-mains'> = {
  needs: () => [],
  does: (machine) => ({ ...machine, onMains: true }),
};

/** What every change of a table with systems on it asks for. */
const changesTable = (machine: Machine, disk: string) => [
  ...mayBeWritten(machine, disk),
  ...shutDownFully(machine),
  ...notLocked(machine),
];

const roleOf = (
  machine: Machine,
  { disk, partition }: { readonly disk: string; readonly partition: number },
) => diskOf(machine, disk)?.partitions.find(({ number }) => number === partition)?.role;

/** The data sets that lie in that partition. */
function setsIn(
  machine: Machine,
  place: { readonly disk: string; readonly partition: number },
): readonly string[] {
  const role = roleOf(machine, place);
  return role === 'system' || role === 'data' ? setsOn(machine, place.disk, role) : [];
}

/** What the firmware and the system keep for themselves is never shrunk. */
const neverShrunk: ReadonlySet<string | undefined> = new Set(['efi', 'reserved']);

export const shrink: OperatorRule<'shrink'> = {
  needs: (machine, operator) => [
    ...need(
      diskOf(machine, operator.disk)?.partitions.some(({ number }) => number === operator.partition) === true,
      'nobody has marked which partition carries the system, so none is shrunk',
    ),
    ...need(
      !neverShrunk.has(roleOf(machine, operator)),
      `partition ${operator.partition} is one that nothing may shrink`,
    ),
    ...changesTable(machine, operator.disk),
    ...(systemOf(machine, 'present')?.disk === operator.disk ? recoverable(machine) : []),
    ...copied(machine, setsIn(machine, operator)),
  ],
  does: (machine, { disk }) => withDisk(machine, disk, { room: true }),
  risks: setsIn,
};

/** What every operator asks that leaves a partition elsewhere, or nowhere. */
const changesContents = (machine: Machine, place: { readonly disk: string; readonly partition: number }) => [
  ...changesTable(machine, place.disk),
  ...need(
    diskOf(machine, place.disk)?.capsule === true,
    'the disk’s old sectors are not kept',
    'keep-sectors',
  ),
  ...copied(machine, setsIn(machine, place)),
];

export const movePartition: OperatorRule<'move-partition'> = {
  needs: (machine, operator) => changesContents(machine, operator),
  does: (machine) => machine,
  risks: setsIn,
};

export const deletePartition: OperatorRule<'delete-partition'> = {
  needs: (machine, operator) => changesContents(machine, operator),
  does: (machine, operator) =>
    emptied(machine, operator.disk, setsIn(machine, operator), ({ number }) => number !== operator.partition),
  risks: setsIn,
};

export const convert: OperatorRule<'convert'> = {
  needs: (machine, { disk, scheme }) => [
    ...changesTable(machine, disk),
    ...need(diskOf(machine, disk)?.capsule === true, 'the disk’s old sectors are not kept', 'keep-sectors'),
    ...need(
      diskOf(machine, disk)?.scheme !== scheme,
      `disk ${diskOf(machine, disk)?.called ?? disk} has ${scheme.toUpperCase()} already`,
    ),
    ...copied(machine, setsOn(machine, disk)),
  ],
  does: (machine, { disk, scheme }) => ({
    ...withDisk(machine, disk, { scheme }),
    // The system that lies on it has no loader for the new table yet.
    systems: machine.systems.map((system) =>
      system.disk === disk
        ? { ...system, loader: false, mode: scheme === 'gpt' ? ('uefi' as const) : ('legacy' as const) }
        : system,
    ),
    running: { what: 'off' },
  }),
  risks: (machine, { disk }) => setsOn(machine, disk),
};

export const writeLoader: OperatorRule<'write-loader'> = {
  needs: (machine, { of: id = 'present' }) => {
    const system = systemOf(machine, id);
    return [
      ...need(
        system?.loader === false,
        `${nameOf(id)} has its loader: there is nothing to make`,
        ...(id === 'present' ? (['convert'] as const) : []),
      ),
      // After a conversion it is the disk that was identified for it.
      ...(id === 'target' && system ? mayBeWritten(machine, system.disk) : []),
    ];
  },
  does: (machine, { of: id = 'present' }) => withSystem(machine, id, { loader: true }),
  // Broken off, no system starts; no data set is touched.
  risks: () => [],
};

/** Partitions go, and with them the systems and originals in them. */
function emptied(
  machine: Machine,
  disk: string,
  sets: readonly string[],
  stays: (partition: { readonly number: number; readonly role: string | undefined }) => boolean,
): Machine {
  const before = diskOf(machine, disk)?.partitions ?? [];
  const partitions = before.filter(stays);
  const marked = ({ role }: (typeof before)[number]) => role === 'system';
  // Nobody may have marked which partition is the system's: only an empty disk has none then.
  const systemGone = partitions.length === 0 || (before.some(marked) && !partitions.some(marked));
  return {
    ...withDisk(machine, disk, { partitions }),
    systems: machine.systems.filter((system) => !(systemGone && system.disk === disk)),
    data: machine.data.map((data) => (sets.includes(data.id) ? { ...data, original: 'gone' } : data)),
  };
}

/** Once the present system is gone nothing unlocks those disks but their keys. */
const keysBeside = (machine: Machine) =>
  need(
    machine.unlockedByPresent.length === 0 || machine.notes.includes('keys-beside'),
    `the keys of ${machine.unlockedByPresent.join(', ')} are not noted, and the system that unlocks them goes`,
    'note:keys-beside',
  );

export const erase: OperatorRule<'erase'> = {
  needs: (machine, { disk }) => [
    ...installerRuns(machine),
    ...(systemOf(machine, 'present')?.disk === disk ? keysBeside(machine) : []),
    ...mayBeWritten(machine, disk),
    ...copied(machine, setsOn(machine, disk)),
  ],
  does: (machine, { disk }) =>
    withDisk(
      emptied(machine, disk, setsOn(machine, disk), () => false),
      disk,
      { scheme: 'none', room: true },
    ),
  risks: (machine, { disk }) => setsOn(machine, disk),
};

export const formatSystem: OperatorRule<'format-system'> = {
  needs: (machine, { disk }) => [
    ...installerRuns(machine),
    ...keysBeside(machine),
    ...mayBeWritten(machine, disk),
    ...need(
      diskOf(machine, disk)?.partitions.some(({ role }) => role === 'system') === true,
      `disk ${diskOf(machine, disk)?.called ?? disk} has no system partition`,
    ),
    ...shutDownFully(machine),
    ...copied(machine, setsOn(machine, disk, 'system')),
  ],
  does: (machine, { disk }) =>
    emptied(machine, disk, setsOn(machine, disk, 'system'), ({ role }) => role !== 'system'),
  risks: (machine, { disk }) => setsOn(machine, disk, 'system'),
};

export const wipe: OperatorRule<'wipe'> = {
  needs: (machine, { disk }) => {
    const away = machine.data.filter(({ id, back }) => setsOn(machine, disk).includes(id) && !back);
    return [
      ...mayBeWritten(machine, disk),
      ...copied(machine, setsOn(machine, disk)),
      ...keysBeside(machine),
      ...need(away.length === 0, `not on the new device yet: ${namesOf(away)}`, 'move-data'),
    ];
  },
  does: (machine, { disk }) => ({
    ...emptied(machine, disk, setsOn(machine, disk), () => false),
    running: { what: 'off' },
  }),
  risks: (machine, { disk }) => setsOn(machine, disk),
};
