/**
 * A computer, its disks, media, systems and the owner's data as one plain value: what operators change and goals
 * are read from. Times and words are not in it.
 */

import type { LoaderSignature } from '../catalogue/catalogue';

export type Mode = 'uefi' | 'legacy';
export type Scheme = 'gpt' | 'mbr' | 'none';

export type FirmwareState = {
  /** The modes in which it starts something now. */
  readonly starts: readonly Mode[];
  /** The modes that it can be switched to. */
  readonly can: readonly Mode[];
  /** `none`: the firmware has no such switch. */
  readonly secureBoot: 'none' | 'off' | 'on';
  /** With Secure Boot on, loaders that others signed are started too. */
  readonly othersLoaders: boolean;
  readonly chip: 'none' | 'off' | 'on';
  readonly usbStart: boolean;
  /** What it tries first when nobody holds a key. */
  readonly first: 'disk' | 'medium';
};

type PartitionRole = 'efi' | 'reserved' | 'system' | 'data' | 'recovery' | 'boot' | 'swap' | 'installer';

export type PartitionState = {
  readonly number: number;
  readonly role: PartitionRole | undefined;
};

export type DiskState = {
  /** Its name in the survey. */
  readonly id: string;
  /** As people call it: the end of its serial. */
  readonly called: string;
  readonly scheme: Scheme;
  readonly plugged: boolean;
  /** Told from its like by serial number and size, and noted. */
  readonly identified: boolean;
  /** Labelled, or apart because it is unplugged. */
  readonly toldApart: boolean;
  /** Its old sectors are kept. */
  readonly capsule: boolean;
  /** A free run that is large enough for all that the plan puts there. */
  readonly room: boolean;
  readonly partitions: readonly PartitionState[];
};

/** `present` is what the device came with, `target` what the plan installs. */
export type SystemId = 'present' | 'target';

export type SystemState = {
  readonly id: SystemId;
  readonly disk: string;
  /** The mode it was installed for; its loader starts in no other. */
  readonly mode: Mode;
  /** The firmware's own check refuses its loader: a shim has to stand before it. */
  readonly needsShim: boolean;
  /** What Secure Boot makes of its loader. */
  readonly signature: LoaderSignature;
  /** Its loader stands where the firmware looks for it. */
  readonly loader: boolean;
  /** It went through its first start. */
  readonly setUp: boolean;
  readonly shutDownFully: boolean;
  readonly encryption: 'off' | 'locked' | 'suspended';
  readonly licence: 'none-needed' | 'open' | 'active';
  /** A driver for one of the adapters is there. */
  readonly networkDriver: boolean;
  readonly driversFitted: boolean;
  readonly updated: boolean;
  readonly onNetwork: boolean;
};

export type MediumState = {
  readonly kind: 'stick' | 'disc' | 'partition' | 'image';
  /** Written and compared. */
  readonly written: boolean;
  readonly modes: readonly Mode[];
  /** What Secure Boot makes of its loader. */
  readonly signature: LoaderSignature;
  readonly shim: boolean;
  readonly plugged: boolean;
};

/** Where one is: what the keyboard speaks to. */
export type Running =
  | { readonly what: 'off' }
  | { readonly what: 'firmware' }
  | { readonly what: 'system'; readonly system: SystemId }
  /** Started from the medium, or out of the running system. */
  | { readonly what: 'installer'; readonly mode: Mode; readonly inside: boolean }
  | { readonly what: 'live'; readonly mode: Mode };

/** Where the data lie that the owner works with. */
export type OriginalPlace =
  { readonly disk: string; readonly role: 'system' | 'data' } | 'elsewhere' | 'gone';

export type DataState = {
  readonly id: string;
  readonly name: string;
  readonly original: OriginalPlace;
  /** Destinations with a copy that nobody has compared yet. */
  readonly unproven: readonly string[];
  /** Destinations with a copy that counts. */
  readonly good: readonly string[];
  /** In its place on the target, or on the device that follows. */
  readonly back: boolean;
};

/** What is on paper or said, and needed later. */
export type Note =
  | 'consents'
  | 'licence'
  | 'recovery-key'
  | 'passphrase'
  | 'keys-beside'
  | 'image-of-disk'
  | 'shim-proven'
  | 'drivers-patched'
  | 'updates-by-hand'
  | 'driver-at-hand'
  | 'image'
  | 'new-device'
  | 'hold-until'
  | 'look-again'
  | 'isolation-day'
  | 'accounted'
  | 'handed-over'
  | 'disposed';

export type FittedPart = 'memory' | 'disk' | 'adapter';

export type Machine = {
  readonly firmware: FirmwareState;
  readonly disks: readonly DiskState[];
  readonly systems: readonly SystemState[];
  readonly installer: MediumState;
  readonly running: Running;
  readonly onMains: boolean;
  /** Parts without which the new system does not run. */
  readonly lacking: readonly FittedPart[];
  /** Other disks, as people call them, that only the present system unlocks. */
  readonly unlockedByPresent: readonly string[];
  readonly data: readonly DataState[];
  readonly notes: readonly Note[];
  /** A shim stands on the disk of the system that needs one, and starts it by itself. */
  readonly shimOnDisk: boolean;
  /** The menu at the start lists every system. */
  readonly menu: boolean;
  readonly dataPartition: boolean;
  readonly firewall: boolean;
  readonly encryptedAnew: boolean;
  /** A medium that brings the present system back; `not-offered` where it makes none of itself. */
  readonly recovery: 'not-offered' | 'missing' | 'at-hand';
};

export function systemOf(machine: Machine, id: SystemId): SystemState | undefined {
  return machine.systems.find((system) => system.id === id);
}

export function diskOf(machine: Machine, id: string): DiskState | undefined {
  return machine.disks.find((disk) => disk.id === id);
}

export function isRunning(machine: Machine, id: SystemId): boolean {
  return machine.running.what === 'system' && machine.running.system === id;
}

/** Whether the firmware starts a loader in a mode: Secure Boot is a matter of UEFI mode. */
export function isTrusted(
  { firmware }: Pick<Machine, 'firmware'>,
  mode: Mode,
  signature: LoaderSignature,
): boolean {
  return (
    mode === 'legacy' ||
    firmware.secureBoot !== 'on' ||
    signature === 'signed' ||
    (signature === 'third-party' && firmware.othersLoaders)
  );
}

export function withDisk(machine: Machine, id: string, change: Partial<DiskState>): Machine {
  return {
    ...machine,
    disks: machine.disks.map((disk) => (disk.id === id ? { ...disk, ...change } : disk)),
  };
}

export function withSystem(machine: Machine, id: SystemId, change: Partial<SystemState>): Machine {
  return {
    ...machine,
    systems: machine.systems.map((system) => (system.id === id ? { ...system, ...change } : system)),
  };
}

export function withNote(machine: Machine, note: Note): Machine {
  return machine.notes.includes(note) ? machine : { ...machine, notes: [...machine.notes, note] };
}
