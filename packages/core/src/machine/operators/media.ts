import { diskOf, systemOf, withDisk } from '../state';
import type { OperatorRule } from '../operator';
import {
  copied,
  inPresent,
  inTarget,
  inUse,
  mayBeWritten,
  need,
  notLocked,
  setsOn,
  shutDownFully,
} from './needs';

export const writeInstaller: OperatorRule<'write-installer'> = {
  inside: (_machine, { kind }) => (kind === 'partition' || kind === 'image' ? 'present' : undefined),
  needs: (machine, { kind }) => {
    // A stick or a disc is written anywhere; what lies on the device is written by the system that runs on it.
    const image = need(machine.notes.includes('image'), 'the image is not at hand', 'note:image');
    if (kind !== 'partition') return image;
    const disk = machine.disks.find(({ partitions }) => partitions.some(({ role }) => role === 'installer'));
    return [
      ...image,
      ...need(disk !== undefined, 'no partition for the installer is made', 'make-installer-partition'),
    ];
  },
  does: (machine, { kind, modes }) => ({
    ...machine,
    installer: { ...machine.installer, kind, modes, written: true, plugged: true },
  }),
};

export const makeInstallerPartition: OperatorRule<'make-installer-partition'> = {
  inside: inPresent,
  needs: (machine, { disk }) => [
    ...need(diskOf(machine, disk)?.room === true, 'there is no free run for the installer', 'shrink'),
    ...mayBeWritten(machine, disk),
    ...shutDownFully(machine),
    ...notLocked(machine),
    ...copied(machine, setsOn(machine, disk, 'system')),
  ],
  does: (machine, { disk }) =>
    withDisk(machine, disk, {
      partitions: [
        ...(diskOf(machine, disk)?.partitions ?? []),
        {
          number: Math.max(0, ...(diskOf(machine, disk)?.partitions ?? []).map(({ number }) => number)) + 1,
          role: 'installer',
        },
      ],
    }),
  risks: (machine, { disk }) => setsOn(machine, disk, 'system'),
};

export const removeInstaller: OperatorRule<'remove-installer'> = {
  inside: inTarget,
  needs: (machine) => [...inUse(machine)],
  does: (machine) => ({
    ...machine,
    installer: { ...machine.installer, written: false, plugged: false },
    disks: machine.disks.map((disk) => ({
      ...disk,
      partitions: disk.partitions.filter(({ role }) => role !== 'installer'),
    })),
  }),
};

export const writeShim: OperatorRule<'write-shim'> = {
  inside: (machine, { onto }) =>
    onto === 'installer' ? undefined : systemOf(machine, 'target') ? 'target' : 'present',
  needs: (machine, { onto }) =>
    onto === 'installer'
      ? need(machine.installer.written, 'the installer stick is not written', 'write-installer')
      : [
          ...(systemOf(machine, 'target') ? inUse(machine) : []),
          ...need(
            machine.installer.shim,
            'no shim is on the stick: there would be no way in if the one on the disk does not start',
            'write-shim',
          ),
        ],
  does: (machine, { onto }) =>
    onto === 'installer'
      ? { ...machine, installer: { ...machine.installer, shim: true } }
      : { ...machine, shimOnDisk: true },
};

/** At a restart of the installer: from then on the device starts from its own disk. */
export const takeOut: OperatorRule<'take-out'> = {
  needs: (machine) => {
    const target = systemOf(machine, 'target');
    return [
      ...need(
        machine.installer.kind === 'stick' || machine.installer.kind === 'disc',
        'nothing is plugged in that could be taken out',
      ),
      ...need(
        target?.loader === true,
        'nothing on the disk starts yet',
        'upgrade',
        'install',
        'install-over',
        'write-loader',
      ),
      ...need(
        !target?.needsShim || machine.shimOnDisk,
        'the only shim is on the stick: without it the new system does not start',
        'write-shim',
      ),
    ];
  },
  does: (machine) => ({
    ...machine,
    installer: { ...machine.installer, plugged: false },
    running: { what: 'off' },
  }),
};

/** A medium that was taken out is plugged in again. */
export const putIn: OperatorRule<'put-in'> = {
  needs: ({ installer: { kind, written } }) => [
    ...need(kind === 'stick' || kind === 'disc', 'the installer is not on a medium that is plugged in'),
    ...need(written, 'the installer is not written', 'write-installer'),
  ],
  does: (machine) => ({ ...machine, installer: { ...machine.installer, plugged: true } }),
};
