import { systemOf, type Machine, type SystemId, type SystemState } from '../../machine/state';
import type { CausesOf, TroubleContext } from '../cause';
import { act, look, mediumIn, modesText, presentDiskIn, tellApart } from '../stops';

/** Signs of systems that are installed: loaders, menus, shims. */

const withSystem = (machine: Machine, id: SystemId, change: Partial<SystemState>): Machine => ({
  ...machine,
  systems: machine.systems.map((system) => (system.id === id ? { ...system, ...change } : system)),
});

/** The loader of the new system is written once more, from the medium that it was installed from. */
function loaderAgain(context: TroubleContext) {
  const { machine, input } = context;
  const target = systemOf(machine, 'target');
  const disk = target && machine.disks.find(({ id }) => id === target.disk);
  return {
    title: 'Write the loader again',
    stops: [
      ...mediumIn(context),
      act(
        `Start from the medium of the install, key ${input.keys.bootMenu}, entry “Repair”`,
        'It reads the disk without starting from it.',
        'A prompt or a page of the repair is shown.',
        3,
        { waiting: 2 },
      ),
      act(
        `Keep the small partition with the loader of disk ${disk?.called ?? ''} as a file`,
        'The way back, should the new loader not start.',
        'The file has as many bytes as the partition.',
        2,
        { waiting: 1 },
      ),
      ...(target ? tellApart(context, target.disk) : []),
      act(
        `Write the loader again to disk ${disk?.called ?? 'with the new system'}`,
        'To the disk that was identified, by serial number and size.',
        'The tool says that no error occurred.',
        3,
        {
          waiting: 1,
          caution:
            'Power lost meanwhile: start from the medium again, and repeat this stop. No data set is touched.',
          undo: 'Write the kept file back to the small partition.',
          ...(target ? { operators: [{ op: 'write-loader', of: 'target' }] as const } : {}),
        },
      ),
      act(
        'Take the medium out, and restart',
        'Else it starts again.',
        'The menu, or the new system, appears.',
        1,
        target && (machine.installer.kind === 'stick' || machine.installer.kind === 'disc')
          ? { operators: [{ op: 'take-out' }] as const, waiting: 1 }
          : { waiting: 1 },
      ),
    ],
  };
}

export const loaderPrompt: CausesOf = (context) => {
  const { machine, input } = context;
  const target = systemOf(machine, 'target');
  const loose = machine.installer.kind === 'stick' || machine.installer.kind === 'disc';
  const converted = input.diskPlan?.ok === true;
  return [
    {
      id: 'loader-looks-elsewhere',
      title: 'The loader looks for its menu on a wrong partition',
      likelihood: target ? (converted ? 4 : 3) : 0,
      because: !target
        ? 'The new system is not installed yet.'
        : converted
          ? 'Partitions were made anew on this disk: their identifiers are new.'
          : 'A partition that is deleted and made again has a new identifier.',
      check: { what: 'At the prompt, list the partitions: on which one is the menu?', minutes: 2 },
      ...(target ? { really: (planned: Machine) => withSystem(planned, 'target', { loader: false }) } : {}),
      remedy: loaderAgain(context),
    },
    {
      id: 'another-entry-starts',
      title: 'The firmware starts another entry',
      likelihood: 2,
      because:
        machine.firmware.first === 'medium'
          ? 'The medium is first in its order.'
          : 'A new system adds its entry, and firmwares differ in where.',
      check: { what: `Set-up key ${input.keys.setup}, page Start: read the first line.`, minutes: 2 },
      remedy: {
        title: 'Put the new system’s entry first',
        stops: [
          act(
            `Put the new system’s entry first: set-up key ${input.keys.setup}`,
            'Note the order before it is changed.',
            'The first line is the new system.',
            4,
            {
              undo: 'Put the old order back.',
              operators: [
                { op: 'start', what: 'firmware' },
                { op: 'set-switch', to: { switch: 'first', first: 'disk' } },
              ],
            },
          ),
        ],
      },
    },
    {
      id: 'loader-on-medium',
      title: 'The loader was written to the medium, and not to the disk',
      likelihood: target && loose ? 1 : 0,
      because: loose
        ? 'Installers offer the first disk, and that may be the medium.'
        : 'The installer was on the disk itself.',
      check: { what: 'Take the medium out and start: is the prompt gone, and nothing starts?', minutes: 2 },
      ...(target ? { really: (planned: Machine) => withSystem(planned, 'target', { loader: false }) } : {}),
      remedy: loaderAgain(context),
    },
  ];
};

const rebuildMenu = (context: TroubleContext) => ({
  title: 'Rebuild the menu',
  stops: [
    ...presentDiskIn(context),
    act(
      'In the new system, let its menu tool look for other systems, and write the menu again',
      'The tool lists what it finds on every disk.',
      'It names both systems.',
      5,
      systemOf(context.machine, 'target')?.setUp === true
        ? { operators: [{ op: 'list-systems' }] as const }
        : {},
    ),
    look('Restart: the menu lists both systems', 'Both entries are shown.', 2),
  ],
});

export const secondMissing: CausesOf = (context) => {
  const { machine, input } = context;
  return [
    {
      id: 'present-loader-first',
      title: 'The firmware starts the present system’s loader, and that knows no other',
      likelihood: 3,
      because: 'A big update of the present system puts its own entry first again.',
      check: {
        what: `Open the boot menu, key ${input.keys.bootMenu}: is the new system’s entry there?`,
        minutes: 1,
      },
      remedy: {
        title: 'Put the new system’s entry first',
        stops: [
          act(
            `Put the new system’s entry first: set-up key ${input.keys.setup}`,
            'Its menu starts both.',
            'The menu appears at the next start.',
            4,
            {
              undo: 'Put the old order back.',
              operators: [{ op: 'start', what: 'firmware' }],
            },
          ),
        ],
      },
    },
    {
      id: 'menu-not-written',
      title: 'The menu was written before both systems were there',
      likelihood: machine.menu ? 1 : 3,
      because: machine.menu
        ? 'The plan has written the menu already.'
        : 'The plan writes the menu in this step.',
      check: { what: 'Does the menu show one system only?', minutes: 1 },
      remedy: rebuildMenu(context),
    },
  ];
};

export const firstMissing: CausesOf = (context) => {
  const present = systemOf(context.machine, 'present');
  const target = systemOf(context.machine, 'target');
  const differ = present && target && present.mode !== target.mode;
  return [
    {
      id: 'others-not-looked-for',
      title: 'The menu tool does not look for other systems',
      likelihood: 4,
      because: 'Many systems have that look switched off as delivered.',
      check: { what: 'Does its setting say that other systems are looked for?', minutes: 2 },
      remedy: rebuildMenu(context),
    },
    {
      id: 'modes-differ',
      title: 'The two systems start in different modes',
      likelihood: differ ? 4 : 0,
      because: differ
        ? `One starts in ${modesText([present.mode])} mode, the other in ${modesText([target.mode])} mode: no menu starts both.`
        : 'Both start in the same mode.',
      check: { what: 'Read the mode of each on its information page.', minutes: 3 },
      remedy:
        'No menu can list both. End this detour with that note: each is started from the firmware’s own list, and the owner is shown how.',
    },
  ];
};

export const shimNotChosen: CausesOf = (context) => {
  const { machine, input } = context;
  const onDisk = machine.shimOnDisk;
  const target = systemOf(machine, 'target');
  return [
    {
      id: 'key-too-late',
      title: 'The key was pressed too late',
      likelihood: onDisk ? 2 : 4,
      because: onDisk
        ? 'The shim is on the disk, and is chosen once as what starts.'
        : 'Until the shim is on the disk the key is held from the moment of power-on, at every start.',
      check: { what: 'Does the prohibitory symbol appear? Then the plain loader started.', minutes: 2 },
      remedy: {
        title: 'Hold the key from power-on',
        stops: [
          look(
            `Switch off, hold ${input.model?.patch?.startKey ?? input.keys.bootMenu}, switch on, and choose the shim’s entry`,
            'The system’s page appears, and no symbol.',
            3,
          ),
        ],
      },
    },
    {
      id: 'shim-overwritten',
      title: 'An update wrote its own loader over the shim',
      likelihood: onDisk ? 3 : 0,
      because: onDisk ? 'The system’s updates write the plain loader again.' : 'No shim is on the disk yet.',
      check: { what: 'Start by the shim of the stick: is the one on the disk still there?', minutes: 3 },
      ...(onDisk ? { really: (planned: Machine) => ({ ...planned, shimOnDisk: false }) } : {}),
      remedy: {
        title: 'Write the shim to the disk again',
        stops: [
          ...mediumIn(context),
          act(
            'Start by the shim of the stick, and write the shim to the disk again',
            'As in the step that wrote it first.',
            'The system starts by it without a key.',
            8,
            (target === undefined || target.setUp) && onDisk
              ? { operators: [{ op: 'write-shim', onto: 'disk' }] as const }
              : {},
          ),
        ],
      },
    },
  ];
};
