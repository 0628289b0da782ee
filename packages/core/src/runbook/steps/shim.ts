import { restartsSentence } from './restarts';
import { releaseTitle } from '../../catalogue/find';
import { installWait } from '../installWait';
import type { StepMaker } from '../input';
import { newSystem } from '../machineOf';

export const writeShim: StepMaker = ({ model, release }) => [
  {
    words: () => ({
      title: 'Put the boot shim onto the installer stick',
      why: `The ${model?.model ?? 'computer'} refuses ${release ? releaseTitle(release) : 'the release'} without it.`,
      success: 'The stick shows a second entry at the start.',
      caution: 'From the source that the house has checked, with its checksum.',
    }),
    operators: () => [{ op: 'write-shim', onto: 'installer' }],
  },
];

export const startByKey: StepMaker = ({ model, keys }) => [
  {
    words: () => ({
      title: `Start the shim from the stick: ${model?.patch?.startKey ?? keys.bootMenu}`,
      why: 'Held from the moment of power-on, at every start, until the shim on the disk is the default.',
      success: 'The shim’s entry is offered, and after it the installer.',
    }),
    operators: () => [{ op: 'start', what: 'installer', shim: true }],
    troubles: ['shim-not-chosen', 'restarts-before-installer', 'black-screen'],
  },
];

export const installOver: StepMaker = (input) => {
  const { release, model } = input;
  return release
    ? [
        {
          words: () => ({
            title: `Install ${releaseTitle(release)} over the present system`,
            why: `Files and settings stay when all goes well. ${restartsSentence(release.restarts)}, each with ${model?.patch?.startKey ?? 'the key'}.`,
            success: 'The owner’s own sign-in page.',
            caution: 'Known limits of the model stay: see the reasons on Decide.',
          }),
          operators: () => [{ op: 'install-over', ...newSystem(input) }],
          extraWaiting: installWait(input, release),
          destructive: true,
          troubles: ['shim-not-chosen', 'black-screen', 'power-lost'],
        },
      ]
    : [];
};

export const shimToDisk: StepMaker = ({ model }) => [
  {
    words: () => ({
      title:
        'Put the boot shim onto the disk’s EFI system partition, and start the present system through it',
      why: `The install restarts from the disk, and refuses without it; once it is the default no start needs the stick and ${model?.patch?.startKey ?? 'the key'}.`,
      success: 'The present system comes up through the shim, without the stick.',
      caution: 'The stick stays plugged in until the new system has started by itself.',
    }),
    operators: () => [
      { op: 'write-shim', onto: 'disk' },
      { op: 'start', what: 'present', shim: true },
    ],
    troubles: ['shim-not-chosen'],
  },
];

export const updatesByHand: StepMaker = ({ model }) => [
  {
    words: () => ({
      title: 'Switch automatic updates off, and note who updates by hand',
      why: `An update can undo the driver patch of the ${model?.model ?? 'computer'}: after each one it is run again.`,
      success: 'The update page says that updates wait for somebody; name and day are with the owner.',
      caution: 'Without updates the system grows unsafe: a month is long.',
    }),
    operators: () => [{ op: 'note', note: 'updates-by-hand' }],
  },
];

export const driverPatch: StepMaker = ({ model }) => [
  {
    words: () => ({
      title: 'Run the driver patch, and restart',
      why:
        (model?.patch?.limits ?? []).map(({ part, sentence }) => `${part}: ${sentence}`).join(' ') ||
        'For graphics and wireless.',
      success: 'The picture is smooth and the network is there, within the model’s known limits.',
      caution: 'Each update can undo it: run it again afterwards.',
    }),
    operators: () => [{ op: 'patch-drivers' }],
    troubles: ['patch-undone', 'black-screen', 'no-network'],
  },
];
