import type { Need, Operator, Supplier } from '../operator';
import { diskOf, isTrusted, systemOf, type Machine, type SystemId } from '../state';

/** A need that is met gives nothing; one that is not gives itself. */
export function need(holds: boolean, missing: string, ...suppliedBy: readonly Supplier[]): readonly Need[] {
  return holds ? [] : [{ missing, suppliedBy }];
}

/** Whether an operator is one of those that would supply what is missing. */
export function supplies(operator: Operator, { suppliedBy }: Need): boolean {
  if (suppliedBy === 'anything') return true;
  const supplier: Supplier = operator.op === 'note' ? `note:${operator.note}` : operator.op;
  return suppliedBy.includes(supplier);
}

const systemNames: Readonly<Record<SystemId, string>> = {
  present: 'the present system',
  target: 'the new system',
};

export function nameOf(id: SystemId): string {
  return systemNames[id];
}

/** What a system needs to come up from its disk, with what is plugged in now. */
export function startable(machine: Machine, id: SystemId): readonly Need[] {
  const system = systemOf(machine, id);
  if (!system)
    return need(
      false,
      `${nameOf(id)} is not there`,
      ...(id === 'target' ? (['install', 'upgrade', 'install-over'] as const) : []),
    );
  const { installer, firmware } = machine;
  return [
    ...need(diskOf(machine, system.disk)?.plugged === true, `the disk of ${nameOf(id)} is unplugged`, 'plug'),
    ...need(system.loader, `${nameOf(id)} has no loader that starts it`, 'write-loader'),
    ...need(
      firmware.starts.includes(system.mode),
      `the firmware does not start ${nameOf(id)}: it is in another mode`,
      'set-switch',
      'convert',
    ),
    ...need(
      isTrusted(machine, system.mode, system.signature),
      `Secure Boot refuses the loader of ${nameOf(id)}`,
      'set-switch',
    ),
    ...need(
      !system.needsShim || machine.shimOnDisk || (installer.shim && installer.plugged),
      `${nameOf(id)} starts by a shim only, and there is none`,
      'write-shim',
    ),
    ...need(
      !(installer.plugged && isOutside(machine) && firmware.first === 'medium'),
      'the installer would start again: it is still plugged in and comes first',
      'take-out',
      'set-switch',
    ),
  ];
}

/** The installer is a medium that the firmware would start from. */
function isOutside({ installer }: Machine): boolean {
  return installer.kind === 'stick' || installer.kind === 'disc';
}

export const inPresent = (): SystemId => 'present';
export const inTarget = (): SystemId => 'target';

/** It went through its first start. */
export function inUse(machine: Machine): readonly Need[] {
  return need(systemOf(machine, 'target')?.setUp === true, 'the new system is not set up yet', 'set-up');
}

/** What every operator asks that writes to a disk: told from its like, there, with the mains on. */
export function mayBeWritten(machine: Machine, id: string): readonly Need[] {
  const disk = diskOf(machine, id);
  const others = machine.disks.filter((other) => other.id !== id && other.plugged && !other.toldApart);
  return [
    ...need(disk !== undefined, `disk ${id} is not there`),
    ...need(disk?.plugged === true, `disk ${disk?.called ?? id} is unplugged`, 'plug'),
    ...need(
      disk?.identified === true,
      `disk ${disk?.called ?? id} is not identified by serial number and size`,
      'identify',
    ),
    ...need(
      others.length === 0,
      `disk ${others.map((other) => other.called).join(', ')} is neither labelled nor unplugged`,
      'label',
      'unplug',
    ),
    ...need(machine.onMains, 'the device is not on its charger', 'connect-mains'),
  ];
}

/** Every data set whose original lies there has a copy that counts. */
export function copied(machine: Machine, sets: readonly string[]): readonly Need[] {
  const bare = machine.data.filter(({ id, good }) => sets.includes(id) && good.length === 0);
  return need(bare.length === 0, `no verified copy of ${namesOf(bare)}`, 'verify');
}

/** The data sets whose original was written over. */
export function goneFrom({ data }: Machine): readonly string[] {
  return data.filter(({ original }) => original === 'gone').map(({ id }) => id);
}

/** Each of these lies where the owner works in the end. */
export function backAgain(machine: Machine, sets: readonly string[]): readonly Need[] {
  const away = machine.data.filter(({ id, back }) => sets.includes(id) && !back);
  return need(away.length === 0, `not back yet: ${namesOf(away)}`, 'restore', 'move-data');
}

export function namesOf(data: readonly { readonly name: string }[]): string {
  return data.map(({ name }) => name).join(', ');
}

/** The installer was started from its medium, and not out of the running system. */
export function installerRuns({ running }: Machine): readonly Need[] {
  return need(
    running.what === 'installer' && !running.inside,
    'the installer is not started from its medium',
    'start',
  );
}

/** The data sets whose original lies on that disk, or on the partition of that role of it. */
export function setsOn(machine: Machine, disk: string, role?: 'system' | 'data'): readonly string[] {
  return machine.data
    .filter(
      ({ original }) =>
        typeof original === 'object' &&
        original.disk === disk &&
        (role === undefined || original.role === role),
    )
    .map(({ id }) => id);
}

/** The present system lies there unlocked, or there is none: nothing asks for a recovery key. */
export function notLocked(machine: Machine): readonly Need[] {
  return need(
    systemOf(machine, 'present')?.encryption !== 'locked',
    'the disk’s encryption is not suspended',
    'suspend-encryption',
  );
}

/** The present system has put a medium aside that brings it back, where it can make one. */
export function recoverable({ recovery }: Machine): readonly Need[] {
  return need(
    recovery !== 'missing',
    'no recovery medium of the present system is at hand',
    'make-recovery-medium',
  );
}

export function shutDownFully(machine: Machine): readonly Need[] {
  const present = systemOf(machine, 'present');
  return need(
    present === undefined || present.shutDownFully,
    'the present system only sleeps when it is shut down',
    'shut-down-fully',
  );
}
