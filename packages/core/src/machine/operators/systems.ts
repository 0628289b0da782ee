import {
  diskOf,
  systemOf,
  withDisk,
  withNote,
  withSystem,
  type Machine,
  type Mode,
  type Scheme,
  type SystemState,
} from '../state';
import type { OperatorOf, OperatorRule } from '../operator';
import {
  backAgain,
  copied,
  goneFrom,
  inPresent,
  inTarget,
  inUse,
  installerRuns,
  mayBeWritten,
  need,
  notLocked,
  recoverable,
  setsOn,
  shutDownFully,
} from './needs';

/** What the papers must say before a system is put on a device, and what the device must have. */
const papers = (machine: Machine, { consents }: { readonly consents: boolean }) => [
  ...need(
    !consents || machine.notes.includes('consents'),
    'owner and organisation have not agreed in writing',
    'note:consents',
  ),
  ...need(
    machine.lacking.length === 0,
    `the new system needs what is not fitted: ${machine.lacking.join(', ')}`,
    'fit-part',
  ),
];

function newSystem(
  machine: Machine,
  { disk, after }: OperatorOf<'install' | 'upgrade' | 'install-over'>,
): SystemState {
  const present = systemOf(machine, 'present');
  const mode =
    machine.running.what === 'installer'
      ? machine.running.mode
      : (present?.mode ?? machine.firmware.starts[0] ?? 'uefi');
  return {
    id: 'target',
    disk,
    mode,
    needsShim: after.needsShim,
    signature: after.signature,
    loader: true,
    setUp: false,
    shutDownFully: true,
    encryption: 'off',
    licence: after.licence ? 'open' : 'none-needed',
    networkDriver: after.networkDriver,
    driversFitted: false,
    updated: false,
    onNetwork: true,
  };
}

export const install: OperatorRule<'install'> = {
  needs: (machine, operator) => {
    const { disk, into } = operator;
    const place = diskOf(machine, disk);
    const mode = machine.running.what === 'installer' ? machine.running.mode : undefined;
    return [
      ...installerOrInside(machine, into),
      ...papers(machine, operator),
      ...mayBeWritten(machine, disk),
      ...need(
        into !== 'empty-disk' || place?.partitions.length === 0,
        `disk ${place?.called ?? disk} is not emptied`,
        'erase',
      ),
      ...need(
        into !== 'system-partition' || !place?.partitions.some(({ role }) => role === 'system'),
        'the system partition is not formatted',
        'format-system',
      ),
      ...need(into !== 'free-run' || place?.room === true, 'there is no free run for it', 'shrink'),
      ...(into === 'free-run'
        ? [
            ...shutDownFully(machine),
            // Another loader comes first now: a locked disk would ask for its key.
            ...notLocked(machine),
            ...copied(machine, setsOn(machine, disk)),
          ]
        : []),
      ...need(
        suits(place?.scheme, mode),
        `disk ${place?.called ?? disk} has ${place?.scheme.toUpperCase() ?? ''}, and the installer was started in ${mode === 'uefi' ? 'UEFI' : 'legacy'} mode`,
        'convert',
      ),
    ];
  },
  does: (machine, operator) => {
    const { disk } = operator;
    const place = diskOf(machine, disk);
    const made = newSystem(machine, operator);
    return {
      ...withDisk(machine, disk, {
        scheme: place?.scheme === 'none' ? (made.mode === 'uefi' ? 'gpt' : 'mbr') : (place?.scheme ?? 'none'),
        room: false,
        partitions: [
          ...(place?.partitions ?? []),
          {
            number: Math.max(0, ...(place?.partitions ?? []).map(({ number }) => number)) + 1,
            role: 'system',
          },
        ],
      }),
      dataPartition: machine.dataPartition || operator.dataApart === true,
      systems: [...machine.systems.filter(({ id }) => id !== 'target'), made],
      running: { what: 'off' },
    };
  },
  risks: (machine, { disk, into }) => (into === 'free-run' ? setsOn(machine, disk) : []),
};

/** Into a free run an installer may also be started out of the running system. */
function installerOrInside(machine: Machine, into: OperatorOf<'install'>['into']) {
  return into === 'free-run'
    ? need(machine.running.what === 'installer', 'the installer is not started', 'start')
    : installerRuns(machine);
}

/** The present system becomes the new one; what the owner keeps there stays. */
function replaced(machine: Machine, operator: OperatorOf<'upgrade' | 'install-over'>): Machine {
  const made = newSystem(machine, operator);
  // The disk stays as encrypted as it was.
  const encryption = systemOf(machine, 'present')?.encryption ?? 'off';
  return {
    ...machine,
    systems: [{ ...made, encryption }],
    running: { what: 'off' },
  };
}

/** GPT starts in UEFI mode, MBR in legacy mode; a disk without a table takes either. */
const suits = (scheme: Scheme | undefined, mode: Mode | undefined) =>
  scheme === undefined || scheme === 'none' || mode === undefined || (scheme === 'gpt') === (mode === 'uefi');

const inPlace = (machine: Machine, operator: OperatorOf<'upgrade' | 'install-over'>) => [
  ...need(
    operator.mode === undefined || systemOf(machine, 'present')?.mode === operator.mode,
    `the present system does not start in ${operator.mode === 'uefi' ? 'UEFI' : 'legacy'} mode, and the new one takes its place`,
    'convert',
  ),
  ...need(
    suits(diskOf(machine, operator.disk)?.scheme, operator.mode),
    'the new system does not start from the scheme of the disk',
    'convert',
  ),
  ...need(
    systemOf(machine, 'present')?.updated === true,
    'the present system is not up to date, as the maker of the new one asks',
    'update',
  ),
  ...recoverable(machine),
  ...papers(machine, operator),
  ...need(machine.onMains, 'the device is not on its charger', 'connect-mains'),
  ...notLocked(machine),
  ...copied(machine, setsOn(machine, operator.disk)),
];

export const upgrade: OperatorRule<'upgrade'> = {
  inside: inPresent,
  needs: (machine, operator) => [
    ...need(machine.installer.written, 'the installer is not at hand', 'write-installer'),
    ...inPlace(machine, operator),
  ],
  does: replaced,
  risks: (machine, { disk }) => setsOn(machine, disk, 'system'),
};

export const installOver: OperatorRule<'install-over'> = {
  needs: (machine, operator) => [
    ...installerRuns(machine),
    // It restarts several times, from the disk: the shim has to stand there, and to have worked.
    ...need(
      !operator.after.needsShim || machine.notes.includes('shim-proven'),
      'the install restarts from the disk, and no shim that was tried is on it',
      'start',
      'write-shim',
    ),
    ...mayBeWritten(machine, operator.disk),
    ...inPlace(machine, operator),
  ],
  does: replaced,
  risks: (machine, { disk }) => setsOn(machine, disk, 'system'),
};

const network = (machine: Machine) =>
  need(
    systemOf(machine, 'target')?.networkDriver === true,
    'no network: the new system has no driver for an adapter',
    'fit-drivers',
  );

export const update: OperatorRule<'update'> = {
  inside: (_machine, { of = 'target' }) => of,
  needs: (machine, { of = 'target' }) => (of === 'present' ? [] : [...inUse(machine), ...network(machine)]),
  // An update may undo a driver patch.
  does: (machine, { of = 'target' }) => withSystem(machine, of, { updated: true }),
};

export const makeRecoveryMedium: OperatorRule<'make-recovery-medium'> = {
  inside: inPresent,
  needs: () => [],
  does: (machine) => ({ ...machine, recovery: 'at-hand' }),
};

export const fitDrivers: OperatorRule<'fit-drivers'> = {
  inside: inTarget,
  needs: (machine, { carried }) => [
    ...inUse(machine),
    ...need(
      (systemOf(machine, 'target')?.networkDriver === true && !carried) ||
        machine.notes.includes('driver-at-hand'),
      'the drivers that do not come with it are not at hand',
      'note:driver-at-hand',
    ),
  ],
  does: (machine) => withSystem(machine, 'target', { driversFitted: true, networkDriver: true }),
};

export const patchDrivers: OperatorRule<'patch-drivers'> = {
  inside: inTarget,
  needs: (machine) => [
    ...inUse(machine),
    ...need(
      systemOf(machine, 'target')?.updated === true,
      'updates come first: they undo the patch',
      'update',
    ),
  ],
  does: (machine) => withNote(machine, 'drivers-patched'),
};

export const activate: OperatorRule<'activate'> = {
  inside: inTarget,
  needs: (machine) => [
    ...inUse(machine),
    ...network(machine),
    ...need(machine.notes.includes('licence'), 'how the licence is held is not noted', 'note:licence'),
  ],
  does: (machine) => withSystem(machine, 'target', { licence: 'active' }),
};

export const firewall: OperatorRule<'firewall'> = {
  inside: inTarget,
  needs: inUse,
  does: (machine) => ({ ...machine, firewall: true }),
};

export const encrypt: OperatorRule<'encrypt'> = {
  inside: inTarget,
  needs: (machine) => [
    ...inUse(machine),
    ...backAgain(machine, goneFrom(machine)),
    ...need(
      machine.notes.includes('passphrase'),
      'where the passphrase is kept is not noted',
      'note:passphrase',
    ),
  ],
  does: (machine) => ({ ...machine, encryptedAnew: true }),
  // Broken off, it goes on by itself; without the passphrase everything is gone.
  risks: () => [],
};

export const makeDataPartition: OperatorRule<'make-data-partition'> = {
  inside: inTarget,
  needs: (machine) => [
    ...inUse(machine),
    ...need(
      !machine.data.some(({ original, back }) => original === 'gone' && back),
      'the data are on the system partition already',
    ),
  ],
  does: (machine) => ({ ...machine, dataPartition: true }),
};

export const suspendEncryption: OperatorRule<'suspend-encryption'> = {
  inside: inPresent,
  needs: (machine) => [
    ...need(
      machine.notes.includes('recovery-key'),
      'where the recovery key is kept is not noted',
      'note:recovery-key',
    ),
  ],
  does: (machine) =>
    systemOf(machine, 'present')?.encryption === 'locked'
      ? withSystem(machine, 'present', { encryption: 'suspended' })
      : machine,
};

export const resumeEncryption: OperatorRule<'resume-encryption'> = {
  inside: (_machine, { system }) => system,
  needs: (machine) => [
    // While the installer or the firmware is still to be started, it would lock the disk again.
    ...need(systemOf(machine, 'target')?.setUp === true, 'the new system is not set up yet', 'set-up'),
  ],
  does: (machine, { system }) =>
    systemOf(machine, system)?.encryption === 'suspended'
      ? withSystem(machine, system, { encryption: 'locked' })
      : machine,
};

export const shutDown: OperatorRule<'shut-down-fully'> = {
  inside: inPresent,
  needs: () => [],
  does: (machine) => withSystem(machine, 'present', { shutDownFully: true }),
};

export const isolate: OperatorRule<'isolate'> = {
  inside: (_machine, { system }) => system,
  needs: (machine, { fromMenu }) =>
    need(!fromMenu || machine.menu, 'the menu at the start does not list both systems yet', 'list-systems'),
  does: (machine, { system }) => withSystem(machine, system, { onNetwork: false }),
};
