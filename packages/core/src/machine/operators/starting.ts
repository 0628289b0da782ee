import { diskOf, isTrusted, systemOf, withNote, withSystem, type Machine, type Mode } from '../state';
import type { Need, OperatorRule, Position } from '../operator';
import { inTarget, inUse, nameOf, need, notLocked, startable } from './needs';

/** The mode in which the medium starts here: UEFI where both have it. */
function modeOfMedium({ installer, firmware }: Machine): Mode | undefined {
  return (['uefi', 'legacy'] as const).find(
    (mode) => installer.modes.includes(mode) && firmware.starts.includes(mode),
  );
}

function startMedium(machine: Machine): readonly Need[] {
  const { installer, firmware } = machine;
  const target = systemOf(machine, 'target');
  return [
    ...need(installer.kind !== 'image', 'an image is opened in a running system, not started from'),
    ...need(installer.written, 'the installer is not written yet', 'write-installer'),
    ...need(installer.plugged, 'the installer is not plugged in', 'write-installer'),
    ...need(
      installer.kind !== 'stick' || firmware.usbStart,
      'the firmware does not start from USB',
      'set-switch',
    ),
    ...need(
      modeOfMedium(machine) !== undefined,
      'the installer is not written for the mode that the firmware starts in',
      'set-switch',
      'write-installer',
    ),
    ...need(
      isTrusted(machine, modeOfMedium(machine) ?? 'legacy', installer.signature),
      'Secure Boot refuses the installer’s loader',
      'set-switch',
    ),
    ...need(target === undefined, 'the new system is installed already'),
    // Measured start-up changes with what is started: an encrypted disk that is not suspended asks for its key.
    ...notLocked(machine),
  ];
}

export const start: OperatorRule<'start'> = {
  inside: (_machine, { what }) => (what === 'installer-inside' ? 'present' : undefined),
  needs: (machine, { what, shim = false }) => {
    switch (what) {
      case 'firmware':
        return [];
      case 'present':
      case 'target':
        return [
          ...startable(machine, what),
          ...need(!shim || machine.shimOnDisk, 'no shim is on the disk', 'write-shim'),
        ];
      case 'live':
      case 'installer':
        return [
          ...startMedium(machine),
          ...need(
            !shim || machine.installer.shim || machine.shimOnDisk,
            'the firmware refuses this installer without a shim',
            'write-shim',
          ),
        ];
      case 'installer-inside':
        return [...need(machine.installer.written, 'the installer is not at hand', 'write-installer')];
    }
  },
  does: (machine, { what, shim = false }) => {
    switch (what) {
      case 'firmware':
        return { ...machine, running: { what: 'firmware' } };
      case 'present':
      case 'target': {
        const running = { ...machine, running: { what: 'system' as const, system: what } };
        return shim ? withNote(running, 'shim-proven') : running;
      }
      case 'live':
        return { ...machine, running: { what: 'live', mode: modeOfMedium(machine) ?? 'uefi' } };
      case 'installer':
        return {
          ...machine,
          running: { what: 'installer', mode: modeOfMedium(machine) ?? 'uefi', inside: false },
        };
      case 'installer-inside':
        return {
          ...machine,
          running: { what: 'installer', mode: systemOf(machine, 'present')?.mode ?? 'uefi', inside: true },
        };
    }
  },
};

/** Whether the switch stands there already. */
function stands({ firmware }: Machine, to: Position): boolean {
  switch (to.switch) {
    case 'secure-boot':
      return firmware.secureBoot === (to.on ? 'on' : 'off');
    case 'others-loaders':
      return firmware.othersLoaders === to.on;
    case 'chip':
      return firmware.chip === (to.on ? 'on' : 'off');
    case 'usb-start':
      return firmware.usbStart === to.on;
    case 'mode':
      return firmware.starts.length === 1 && firmware.starts[0] === to.only;
    case 'first':
      return firmware.first === to.first;
  }
}

function switchable({ firmware }: Machine, to: Position): readonly Need[] {
  switch (to.switch) {
    case 'secure-boot':
      return [
        ...need(firmware.secureBoot !== 'none', 'the firmware has no Secure Boot'),
        ...need(
          !to.on || (firmware.starts.length === 1 && firmware.starts[0] === 'uefi'),
          'Secure Boot can be on in UEFI mode only',
          'set-switch',
        ),
      ];
    case 'others-loaders':
      return need(firmware.secureBoot !== 'none', 'the firmware has no Secure Boot');
    case 'chip':
      return need(firmware.chip !== 'none', 'the device has no security chip');
    case 'mode':
      return need(
        firmware.can.includes(to.only),
        `the firmware has no ${to.only === 'uefi' ? 'UEFI' : 'legacy'} mode`,
      );
    case 'usb-start':
    case 'first':
      return [];
  }
}

export const setSwitch: OperatorRule<'set-switch'> = {
  needs: (machine, { to }) =>
    // One that stands there already is looked at, and nothing is turned.
    stands(machine, to)
      ? []
      : [
          ...need(machine.running.what === 'firmware', 'the firmware’s set-up is not open', 'start'),
          ...switchable(machine, to),
          ...(to.switch === 'usb-start' || to.switch === 'first' ? [] : notLocked(machine)),
        ],
  does: (machine, { to }) => {
    const { firmware } = machine;
    const turned = (change: Partial<Machine['firmware']>) => ({
      ...machine,
      firmware: { ...firmware, ...change },
    });
    switch (to.switch) {
      case 'secure-boot':
        return firmware.secureBoot === 'none' ? machine : turned({ secureBoot: to.on ? 'on' : 'off' });
      case 'others-loaders':
        return firmware.secureBoot === 'none' ? machine : turned({ othersLoaders: to.on });
      case 'chip':
        return firmware.chip === 'none' ? machine : turned({ chip: to.on ? 'on' : 'off' });
      case 'usb-start':
        return turned({ usbStart: to.on });
      case 'mode':
        return turned({ starts: [to.only] });
      case 'first':
        return turned({ first: to.first });
    }
  },
};

export const setUp: OperatorRule<'set-up'> = {
  inside: inTarget,
  needs: (machine, { withNetwork }) => [
    ...need(
      !withNetwork ||
        systemOf(machine, 'target')?.networkDriver === true ||
        machine.notes.includes('driver-at-hand'),
      'the first start asks for a network, and no driver for an adapter is at hand',
      'note:driver-at-hand',
    ),
  ],
  does: (machine) => withSystem(machine, 'target', { setUp: true }),
};

export const listSystems: OperatorRule<'list-systems'> = {
  inside: inTarget,
  needs: (machine) => [
    ...inUse(machine),
    ...machine.systems.flatMap(({ id, disk }) =>
      need(diskOf(machine, disk)?.plugged === true, `the disk of ${nameOf(id)} is unplugged`, 'plug'),
    ),
  ],
  does: (machine) => ({ ...machine, menu: true }),
};
