import { nameOf } from './operators/needs';
import type { DiskState, Machine, Running, SystemState } from './state';

const modes = { uefi: 'UEFI', legacy: 'legacy' } as const;
const onOff = (on: boolean) => (on ? 'on' : 'off');

/** What the keyboard speaks to, in words. */
export function runningText(running: Running): string {
  switch (running.what) {
    case 'off':
      return 'The device is off, or restarts.';
    case 'firmware':
      return 'The firmware’s set-up is open.';
    case 'system':
      return `${upper(nameOf(running.system))} runs.`;
    case 'installer':
      return running.inside
        ? 'The installer runs inside the present system.'
        : `The installer runs, in ${modes[running.mode]} mode.`;
    case 'live':
      return `The system is tried live, in ${modes[running.mode]} mode.`;
  }
}

const upper = (text: string) => `${text.slice(0, 1).toUpperCase()}${text.slice(1)}`;

/** What partitions are for, in their order on the disk. */
function namesOf(partitions: DiskState['partitions']): string {
  return partitions
    .map(({ role, number }) => (role === 'efi' ? 'EFI' : (role ?? `partition ${number}`)))
    .join(', ');
}

/** A disk at one moment: its scheme and what stands on it, in order. */
export function diskText({ called, scheme, plugged, partitions }: DiskState): string {
  if (!plugged) return `${called}: unplugged`;
  const table = scheme === 'none' ? 'no table' : scheme.toUpperCase();
  return `${called}: ${table}, ${namesOf(partitions) || 'empty'}`;
}

function diskChanges(before: DiskState, after: DiskState): readonly string[] {
  const { called } = after;
  const names = ({ partitions }: DiskState) => namesOf(partitions);
  return [
    ...(before.plugged === after.plugged
      ? []
      : [`Disk ${called} is ${after.plugged ? 'plugged in' : 'unplugged'}.`]),
    ...(before.identified || !after.identified
      ? []
      : [`Disk ${called} is told from its like by serial number and size.`]),
    ...(before.toldApart || !after.toldApart ? [] : [`Disk ${called} is labelled.`]),
    ...(before.capsule || !after.capsule ? [] : [`The old sectors of disk ${called} are kept.`]),
    ...(before.scheme === after.scheme
      ? []
      : [`Disk ${called} has ${after.scheme === 'none' ? 'no table' : after.scheme.toUpperCase()} now.`]),
    ...(names(before) === names(after) ? [] : [`Disk ${called} holds ${names(after) || 'nothing'}.`]),
    ...(before.room || !after.room || after.partitions.length === 0
      ? []
      : [`Room for what is to come is free on disk ${called}.`]),
  ];
}

function systemChanges(before: SystemState, after: SystemState): readonly string[] {
  const name = upper(nameOf(after.id));
  const turned = (was: boolean, is: boolean, words: string) => (!was && is ? [`${name} ${words}.`] : []);
  return [
    ...(before.mode === after.mode ? [] : [`${name} starts in ${modes[after.mode]} mode.`]),
    ...(before.loader === after.loader
      ? []
      : [after.loader ? `${name} has its loader.` : `${name} has no loader any more.`]),
    ...turned(before.setUp, after.setUp, 'is set up'),
    ...turned(before.shutDownFully, after.shutDownFully, 'is shut down fully from now on'),
    ...turned(before.updated, after.updated, 'has its updates'),
    ...turned(before.driversFitted, after.driversFitted, 'has its drivers'),
    ...turned(before.licence === 'active', after.licence === 'active', 'is activated'),
    ...(before.encryption === after.encryption
      ? []
      : [
          {
            off: `${name} is not encrypted.`,
            locked: `${name} is encrypted and locks itself.`,
            suspended: `The encryption of ${nameOf(after.id)} is suspended.`,
          }[after.encryption],
        ]),
    ...(before.onNetwork && !after.onNetwork ? [`${name} is off the network.`] : []),
  ];
}

/** Names and what is so of all of them: three of them, and how many more. */
function all(names: readonly string[], one: string, several: string): readonly string[] {
  if (names.length === 0) return [];
  if (names.length === 1) return [`${names[0] ?? ''} ${one}.`];
  const list =
    names.length > 4
      ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`
      : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;
  return [`${list} ${several}.`];
}

function dataChanges(
  before: Machine,
  after: Machine,
  destination: (id: string) => string,
): readonly string[] {
  const was = (id: string) => before.data.find((one) => one.id === id);
  const named = (
    isSo: (now: Machine['data'][number], then: Machine['data'][number] | undefined) => boolean,
  ) => after.data.filter((data) => isSo(data, was(data.id))).map(({ name }) => name);
  const places = [...new Set(after.data.flatMap(({ unproven, good }) => [...unproven, ...good]))];
  return [
    ...places.flatMap((place) => [
      ...all(
        named((now, then) => now.unproven.includes(place) && then?.unproven.includes(place) !== true),
        `is copied to ${destination(place)}`,
        `are copied to ${destination(place)}`,
      ),
      ...all(
        named((now, then) => now.good.includes(place) && then?.good.includes(place) !== true),
        `has a copy that counts on ${destination(place)}`,
        `have copies that count on ${destination(place)}`,
      ),
    ]),
    ...all(
      named((now, then) => now.original === 'gone' && then?.original !== 'gone'),
      'is gone from the device',
      'are gone from the device',
    ),
    ...all(
      named((now, then) => now.back && then?.back !== true),
      'is in its place again',
      'are in their place again',
    ),
  ];
}

/**
 * What a step changed, a sentence for each thing, made from the two states and nothing else; empty for a courtesy.
 * @param destination the name of a destination by its id
 */
export function machineChanges(
  before: Machine,
  after: Machine,
  destination: (id: string) => string,
): readonly string[] {
  const old = <T extends { readonly id: string }>(list: readonly T[], { id }: T) =>
    list.find((one) => one.id === id);
  const { firmware } = after;
  const was = before.firmware;
  return [
    ...dataChanges(before, after, destination),
    ...after.disks.flatMap((disk) => {
      const one = old(before.disks, disk);
      return one ? diskChanges(one, disk) : [];
    }),
    ...before.systems
      .filter((system) => !old(after.systems, system))
      .map(({ id }) => `${upper(nameOf(id))} is gone.`),
    ...after.systems.flatMap((system) => {
      const one = old(before.systems, system);
      return one ? systemChanges(one, system) : [`${upper(nameOf(system.id))} is installed.`];
    }),
    ...(was.starts.join() === firmware.starts.join()
      ? []
      : [`The firmware starts in ${firmware.starts.map((one) => modes[one]).join(' and ')} mode.`]),
    ...(was.secureBoot === firmware.secureBoot ? [] : [`Secure Boot is ${firmware.secureBoot}.`]),
    ...(!was.othersLoaders && firmware.othersLoaders
      ? ['The firmware starts loaders that others signed, too.']
      : []),
    ...(was.chip === firmware.chip ? [] : [`The security chip (TPM) is ${firmware.chip}.`]),
    ...(was.usbStart === firmware.usbStart ? [] : [`Starting from USB is ${onOff(firmware.usbStart)}.`]),
    ...(was.first === firmware.first
      ? []
      : [`The firmware tries the ${firmware.first === 'disk' ? 'disk' : 'stick'} first.`]),
    ...before.lacking.filter((part) => !after.lacking.includes(part)).map((part) => `The ${part} is fitted.`),
    ...(!before.installer.written && after.installer.written
      ? ['The installer is written and compared.']
      : []),
    ...(!before.installer.shim && after.installer.shim ? ['The boot shim is on the installer.'] : []),
    ...(!before.shimOnDisk && after.shimOnDisk ? ['The boot shim is on the disk.'] : []),
    ...(before.installer.plugged && !after.installer.plugged ? ['The installer is out.'] : []),
    ...(!before.onMains && after.onMains ? ['The mains are on.'] : []),
    ...(!before.menu && after.menu ? ['The menu at the start lists every system.'] : []),
    ...(!before.dataPartition && after.dataPartition ? ['Data have a partition of their own.'] : []),
    ...(!before.firewall && after.firewall ? ['The firewall is on.'] : []),
    ...(before.recovery === 'missing' && after.recovery === 'at-hand'
      ? ['A recovery medium of the present system is at hand.']
      : []),
    ...(!before.encryptedAnew && after.encryptedAnew ? ['The new system’s disk is encrypted.'] : []),
  ];
}
