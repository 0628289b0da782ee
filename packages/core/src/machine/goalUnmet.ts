import type { Goal } from './goal';
import { nameOf, startable } from './operators/needs';
import { diskOf, systemOf, type Machine, type Note, type SystemId } from './state';

/** What is said where something is not on paper. */
const noteMissing: Readonly<Record<Note, string>> = {
  consents: 'owner and organisation have not agreed in writing',
  licence: 'how the licence is held is not noted',
  'recovery-key': 'where the recovery key is kept is not noted',
  passphrase: 'where the passphrase is kept is not noted',
  'keys-beside': 'where the keys of the other disks are kept is not noted',
  'image-of-disk': 'there is no image of the disk',
  'shim-proven': 'nobody has started the present system through the shim on the disk',
  'drivers-patched': 'the drivers are not patched',
  'updates-by-hand': 'automatic updates are still on, and would undo the patch',
  'driver-at-hand': 'the drivers that do not come with it are not at hand',
  image: 'the image is not at hand',
  'new-device': 'the new device is not named',
  'hold-until': 'the hold has no last day',
  'look-again': 'the day on which its security updates end is not noted',
  'isolation-day': 'the day from which it stays off the network is not noted',
  accounted: 'not every file is accounted for',
  'handed-over': 'it is not handed over',
  disposed: 'who took the old device is not noted',
};

const startsAlone = (machine: Machine, id: SystemId) =>
  // With nothing plugged in and no key held.
  startable({ ...machine, installer: { ...machine.installer, plugged: false, shim: false } }, id).length ===
  0;

function targetUnmet(
  machine: Machine,
  { target, encrypted, dataPartition, firmware }: Goal,
): readonly string[] {
  if (!target) return [];
  const system = systemOf(machine, 'target');
  if (!system) return ['the new system is not installed'];
  const wants = (holds: boolean, sentence: string) => (holds ? [] : [sentence]);
  return [
    ...wants(system.disk === target.disk, 'the new system is on another disk'),
    ...wants(startsAlone(machine, 'target'), 'the new system does not start by itself'),
    ...wants(
      !(machine.installer.plugged && machine.installer.kind !== 'image'),
      'the installer is still plugged in',
    ),
    ...wants(system.setUp, 'the new system is not set up'),
    ...wants(system.updated, 'the new system has no updates'),
    ...wants(system.driversFitted, 'devices lack their drivers'),
    ...wants(!target.patched || machine.notes.includes('drivers-patched'), noteMissing['drivers-patched']),
    ...wants(system.licence !== 'open', 'the licence is not active'),
    ...wants(machine.firewall, 'the firewall is not looked at'),
    ...wants(!encrypted || machine.encryptedAnew, 'the disk is not encrypted'),
    ...wants(!dataPartition || machine.dataPartition, 'the data have no partition of their own'),
    ...wants(!firmware.secureBoot || machine.firmware.secureBoot === 'on', 'Secure Boot is not on'),
    ...wants(!firmware.chip || machine.firmware.chip === 'on', 'the security chip is not on'),
    ...wants(
      !firmware.uefi || !machine.firmware.starts.includes('legacy'),
      'the firmware still starts in legacy mode',
    ),
    ...wants(!firmware.firstDisk || machine.firmware.first === 'disk', 'a stick would start before the disk'),
    ...wants(
      !machine.disks.some(({ partitions }) => partitions.some(({ role }) => role === 'installer')),
      'the installer’s room is not given back',
    ),
  ];
}

/** What the last state of a plan lacks, a sentence each; empty where the goal is reached. */
export function goalUnmet(machine: Machine, goal: Goal): readonly string[] {
  const wants = (holds: boolean, sentence: string) => (holds ? [] : [sentence]);
  return [
    ...targetUnmet(machine, goal),
    ...goal.kept.flatMap((id) => [
      ...wants(startsAlone(machine, id), 'the kept system does not start any more'),
      ...wants(goal.target === null || machine.menu, 'nobody has seen both systems start from the menu'),
    ]),
    ...machine.data.flatMap(({ id, name, original, back, good }) => [
      ...wants(!goal.back.includes(id) || back || original !== 'gone', `${name} is not back`),
      ...wants(
        goal.copies.every(({ dataSet, destination }) => dataSet !== id || good.includes(destination)),
        `${name} lacks a verified copy that is planned`,
      ),
    ]),
    ...goal.notes.flatMap((note) => wants(machine.notes.includes(note), noteMissing[note])),
    ...wants(
      goal.isolated === null || systemOf(machine, goal.isolated)?.onNetwork === false,
      'a system without fixes is on the network',
    ),
    ...wants(
      goal.emptied === null || diskOf(machine, goal.emptied)?.partitions.length === 0,
      'the old disk is not wiped',
    ),
    ...machine.disks.flatMap(({ called, plugged }) =>
      wants(plugged || goal.emptied !== null, `disk ${called} is still unplugged`),
    ),
    ...machine.systems.flatMap(({ id, encryption }) =>
      wants(encryption !== 'suspended', `the encryption of ${nameOf(id)} is not resumed`),
    ),
  ];
}
