import { systemOf, withDisk, type Machine, type Mode } from '../../machine/state';
import { diskOfWork } from '../target';
import { describeFact } from '../../survey/describe';
import { valueOf } from '../../survey/facts';
import type { Cause, CausesOf, TroubleContext } from '../cause';
import { act, look, modesText, turn } from '../stops';

/** Signs of disks and their tables. */

const keepsSystem = ({ input: { route }, machine }: TroubleContext) =>
  systemOf(machine, 'present') !== undefined &&
  (route.writesOver === 'second-disk' || route.id === 'beside-same-disk' || route.writesOver === 'nothing');

function controllerMode(context: TroubleContext): Cause {
  const kept = keepsSystem(context);
  const mode = valueOf(context.input.facts, 'storageMode');
  const before = mode === undefined ? 'what the note says' : describeFact('storageMode', mode);
  return {
    id: 'controller-mode',
    title: 'The storage controller is in a mode for which the installer has no driver',
    likelihood: mode === 'ahci' ? 0 : kept ? 1 : 3,
    because:
      mode === 'ahci'
        ? 'The survey has it in the plain mode, which every installer knows.'
        : `${mode === undefined ? '' : `The survey has it in the mode ${before}. `}${
            kept
              ? 'The present system stays, and was installed for that mode: the mode is left as it is, and the driver is loaded.'
              : 'Makers deliver devices in a mode for several disks; the installer knows the plain one.'
          }`,
    check: {
      what: `Set-up key ${context.input.keys.setup}, page Storage: read the mode, and note it.`,
      minutes: 3,
    },
    remedy: kept
      ? {
          title: 'Load the controller’s driver',
          stops: [
            act(
              'Put the controller’s driver on a second stick, on the bench computer',
              'From the maker’s page for this model.',
              'The driver’s files are on a stick that is not the installer.',
              8,
            ),
            act(
              'Load it on the installer’s page of disks',
              'The mode is not changed: the present system would not start any more.',
              'The page lists the disk by its size.',
              4,
            ),
          ],
        }
      : {
          title: 'Switch the controller to the plain mode',
          stops: [
            act(
              'Note the controller’s mode, then switch it to the plain one',
              'The note is what brings the old mode back.',
              'The set-up page shows the new mode, the note the old one.',
              4,
              {
                caution:
                  'A system that was installed in the other mode does not start until the mode is put back.',
                undo: `Switch the mode back to ${before}.`,
                operators: [{ op: 'start', what: 'firmware' }],
              },
            ),
          ],
        },
  };
}

function diskUnplugged(context: TroubleContext): Cause {
  const disk = diskOfWork(context);
  const here = disk !== undefined;
  return {
    id: 'disk-not-connected',
    title: `The disk${here ? ` ${disk.called}` : ''} is not connected`,
    likelihood: here && context.machine.disks.length > 1 ? 3 : 1,
    because:
      context.machine.disks.length > 1
        ? 'Disks of this device were unplugged or moved for the work.'
        : 'It is the only disk of the device, and was seen by the survey.',
    check: { what: 'Does the firmware’s own list show it?', minutes: 2 },
    ...(here ? { really: (planned: Machine) => withDisk(planned, disk.id, { plugged: false }) } : {}),
    remedy: {
      title: 'Plug it in again',
      stops: [
        act(
          `Switch off, mains out, and plug disk${here ? ` ${disk.called}` : ''} in again`,
          'Both cables, to the same places.',
          'The firmware’s list shows it by serial number and size.',
          8,
          {
            caution:
              'Mains out, static strap on. If the maker’s manual does not show how, a qualified person does it.',
            operators: here ? [{ op: 'plug', disk: disk.id }] : [],
          },
        ),
      ],
    },
  };
}

export const noDiskShown: CausesOf = (context) => [
  controllerMode(context),
  diskUnplugged(context),
  {
    id: 'disk-failed',
    title: 'The disk has failed',
    likelihood: 1,
    because: 'Then the present system was slow or stopped in the last weeks, or the disk clicks.',
    check: { what: 'Does the firmware’s own list show it, by name and size?', minutes: 2 },
    remedy:
      'Switch off, and write nothing to it. End the detour with that note; the copies are what counts now. Plan again with another disk on Decide.',
  },
];

const other = (mode: Mode): Mode => (mode === 'uefi' ? 'legacy' : 'uefi');

export const wrongScheme: CausesOf = (context) => {
  const { machine, input } = context;
  const { running } = machine;
  const mode = running.what === 'installer' ? running.mode : undefined;
  const wipes = input.route.writesOver === 'whole-disk';
  // Only where both have the other mode can it have been started that way.
  const both = mode !== undefined && machine.firmware.starts.length > 1 && machine.installer.modes.length > 1;
  return [
    {
      id: 'started-in-other-mode',
      title: 'The installer was started in the other mode',
      likelihood: both ? 4 : 0,
      because: both
        ? 'The boot menu lists the medium twice, once for each mode.'
        : `Firmware and medium have ${modesText(machine.firmware.starts)} mode in common, and no other.`,
      check: { what: 'Did the entry that was chosen name the mode that the step names?', minutes: 1 },
      ...(mode === undefined
        ? {}
        : {
            really: (planned: Machine) => ({
              ...planned,
              running: { what: 'installer' as const, mode: other(mode), inside: false },
            }),
          }),
      remedy: {
        title: 'Start it by the other entry',
        stops: [
          act(
            `Restart, key ${input.keys.bootMenu}, and take the entry for ${mode ? modesText([mode]) : 'the planned'} mode`,
            'The scheme of the disk and the mode of the installer go together.',
            'The installer’s first page is shown.',
            4,
            mode && running.what === 'installer' && !running.inside
              ? {
                  operators: [
                    { op: 'start', what: 'installer', ...(machine.installer.shim ? { shim: true } : {}) },
                  ],
                }
              : {},
          ),
        ],
      },
    },
    {
      id: 'partitions-left',
      title: 'Partitions are left on the disk, and with them its old table',
      likelihood: wipes ? 3 : 0,
      because: wipes
        ? 'The installer makes a new table only on a disk without any partition.'
        : 'On this route partitions stay, and the table with them.',
      check: { what: 'Does the installer’s page still list partitions of this disk?', minutes: 1 },
      remedy: {
        title: 'Delete every partition of this disk',
        stops: [
          act(
            'On the installer’s page, delete every partition of the disk that was identified',
            'Its copies are compared, and it was identified by serial number and size.',
            'The page shows unallocated space only.',
            3,
            { caution: 'Serial number and size once more, before the first one is deleted.' },
          ),
        ],
      },
    },
    {
      id: 'table-differs-from-survey',
      title: 'The disk has another scheme than the survey says',
      likelihood: 1,
      because: 'Then somebody has changed the disk since.',
      check: { what: 'Compare the installer’s list of partitions with Disk of this move.', minutes: 3 },
      remedy:
        'Do not erase to get past it. End the detour with that note, run the survey again, and plan the conversion on Prepare, under Disk.',
    },
  ];
};

export const diskAsksPassword: CausesOf = (context) => [
  {
    id: 'firmware-disk-password',
    title: 'A disk password was set in the firmware',
    likelihood: 3,
    because: 'The disk itself asks, before anything is read from it.',
    check: { what: 'Does the question come before the maker’s logo is gone?', minutes: 1 },
    remedy: {
      title: 'Have the owner type it, and remove it in the set-up',
      stops: [
        act(
          `Have the owner type the password, then remove it: set-up key ${context.input.keys.setup}`,
          'Only the owner or the house knows it; nothing is tried out.',
          'The next start asks for none.',
          6,
          {
            caution:
              'After a few wrong tries many disks lock themselves until they are switched off. No tool gets around it.',
            undo: 'Set the password again, as the owner wants it.',
          },
        ),
      ],
    },
  },
  {
    id: 'asks-for-encryption',
    title: 'It is the encryption that asks, and not the disk',
    likelihood: 2,
    because: 'Its page has the system’s name and a key number on it.',
    check: { what: 'Does the page show a key number?', minutes: 1 },
    remedy: 'It is another sign: end this detour and take “The recovery key is demanded”.',
  },
];

/** After a conversion: what is missing of scheme, boot files and mode. */
export const doesNotStart: CausesOf = (context) => {
  const { machine, step } = context;
  const present = systemOf(machine, 'target') ?? systemOf(machine, 'present');
  const converted = step.kind === 'switch-firmware' && present?.id === 'present';
  const mode = present?.mode ?? 'uefi';
  return [
    {
      id: 'mode-not-saved',
      title: 'The firmware is still in the old mode',
      likelihood: step.kind === 'switch-firmware' ? 4 : 0,
      because:
        step.kind === 'switch-firmware'
          ? 'This step switches the mode; a set-up that was left without saving keeps the old one.'
          : 'No mode was switched since it last started.',
      check: { what: `Set-up key ${context.input.keys.setup}, page Start: which mode?`, minutes: 2 },
      remedy: {
        title: `Switch to ${modesText([mode])} mode, and save`,
        stops: [
          ...(machine.firmware.can.includes(mode)
            ? [
                turn(
                  context,
                  `Switch to ${modesText([mode])} mode`,
                  { switch: 'mode', only: mode },
                  'Switch the mode back.',
                ),
              ]
            : []),
          look('Restart: the system comes up', 'It shows its sign-in page.', 3),
        ],
      },
    },
    {
      id: 'boot-files-missing',
      title: 'The boot files for the new scheme are missing',
      likelihood: converted ? 3 : 0,
      because: converted
        ? 'The conversion changes the table only; the boot files are made by a step of their own.'
        : 'This plan converts nothing.',
      check: { what: 'Start the rescue stick: are the boot files in their place?', minutes: 5 },
      ...(converted && present
        ? {
            really: (planned: Machine) => ({
              ...planned,
              systems: planned.systems.map((system) =>
                system.id === 'present' ? { ...system, loader: false } : system,
              ),
            }),
          }
        : {}),
      remedy: {
        title: 'Make the boot files again',
        stops: [
          act(
            'Start the rescue stick in the mode of the new scheme, and make the boot files again',
            'From the system’s own files on its partition.',
            'The tool says that they were made.',
            8,
            converted && present ? { operators: [{ op: 'write-loader' }] } : {},
          ),
        ],
      },
    },
    {
      id: 'another-disk-first',
      title: 'The firmware starts another disk',
      likelihood: machine.disks.filter(({ plugged }) => plugged).length > 1 ? 3 : 0,
      because:
        machine.disks.filter(({ plugged }) => plugged).length > 1
          ? 'Several disks are connected, and the first in its order need not be the one with the system.'
          : 'One disk is connected.',
      check: {
        what: `Open the boot menu, key ${context.input.keys.bootMenu}: which entry is first?`,
        minutes: 2,
      },
      remedy: {
        title: 'Put the disk with the system first',
        stops: [
          act(
            `Put the disk with the system first: set-up key ${context.input.keys.setup}`,
            'By its name and size in the list.',
            'The device starts its system without a key.',
            4,
            { undo: 'Put the old order back.', operators: [{ op: 'start', what: 'firmware' }] },
          ),
        ],
      },
    },
  ];
};
