import { releaseTitle } from '../../catalogue/find';
import { bootKeys } from '../../firmware/bootKey';
import { riskOf } from '../../backup/scope';
import { printCount } from '../../quantity/count';
import type { StepMaker } from '../input';

export const recordConsents: StepMaker = ({ route, waivers, release }) => {
  if (route.consent.length === 0) return [];
  const waived = (release?.requirements ?? []).flatMap((requirement) =>
    waivers.includes(requirement.kind) && 'waiver' in requirement && requirement.waiver
      ? [`${requirement.kind.replaceAll('-', ' ')} (${requirement.waiver})`]
      : [],
  );
  return [
    {
      title: `Have the ${route.consent.join(' and the ')} agree in writing`,
      why:
        waived.length === 0
          ? 'What is lost and not promised any more is on the paper.'
          : `Waived one by one: ${waived.join('; ')}`,
      success: 'Both signers, and where the paper is kept, are noted on Prepare.',
    },
  ];
};

export const writeShim: StepMaker = ({ model, release }) => [
  {
    title: 'Put the boot shim onto the installer stick',
    why: `The ${model?.model ?? 'computer'} refuses ${release ? releaseTitle(release) : 'the release'} without it.`,
    success: 'The stick shows a second entry at the start.',
    caution: 'From the source that the house has checked, with its checksum.',
    troubles: ['stick-not-offered'],
  },
];

export const startByKey: StepMaker = ({ model }) => [
  {
    title: `Start the shim from the stick: ${model?.patch?.startKey ?? bootKeys(model).bootMenu}`,
    why: 'Held from the moment of power-on, at every start, until the shim on the disk is the default.',
    success: 'The shim’s entry is offered, and after it the installer.',
    troubles: ['shim-not-chosen', 'black-screen'],
  },
];

export const installOver: StepMaker = ({ release, model }) =>
  release
    ? [
        {
          title: `Install ${releaseTitle(release)} over the present system`,
          why: `Files and settings stay when all goes well. ${release.restarts} restarts are normal, each with ${model?.patch?.startKey ?? 'the key'}.`,
          success: 'The owner’s own sign-in page.',
          caution: 'Known limits of the model stay: see the reasons on Decide.',
          extraWaiting: release.installMinutes,
          destructive: true,
          troubles: ['shim-not-chosen', 'black-screen', 'power-lost'],
        },
      ]
    : [];

export const shimToDisk: StepMaker = ({ model }) => [
  {
    title: 'Put the boot shim onto the disk’s EFI system partition, and make it the default',
    why: `Until then every start needs the stick and ${model?.patch?.startKey ?? 'the key'}.`,
    success: 'The device starts by itself without the stick.',
    troubles: ['shim-not-chosen'],
  },
];

export const driverPatch: StepMaker = ({ model }) => [
  {
    title: 'Run the driver patch, and restart',
    why:
      (model?.patch?.limits ?? []).map(({ part, sentence }) => `${part}: ${sentence}`).join(' ') ||
      'For graphics and wireless.',
    success: 'The picture is smooth and the network is there, within the model’s known limits.',
    caution: 'Each update can undo it: run it again afterwards.',
    troubles: ['black-screen', 'no-network'],
  },
];

export const pairDevice: StepMaker = ({ preparation: { replacement } }) => [
  {
    title: replacement
      ? `Set up ${replacement.maker} ${replacement.model}, ${replacement.serial}`
      : 'Name the new device and set it up',
    why: 'The pair of old and new is in the record.',
    success: 'The owner’s account signs in; the serial is noted on Prepare.',
  },
];

export const moveData: StepMaker = ({ dataSets, destinations, route }) => {
  const sets = dataSets.filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk');
  return [
    {
      title: `Restore ${printCount(sets.length, 'data set')} onto the new device${destinations[0] ? ` from ${destinations[0].name}` : ''}`,
      why: 'Every file is there and equal by checksum before the old disk is touched.',
      success: 'Counts and checksums agree, and that is stated on Prepare.',
      effects: sets.length === 0 ? [] : [{ kind: 'restored', dataSetIds: sets.map(({ id }) => id) }],
      troubles: ['checksum-differs', 'backup-drive-fails'],
    },
  ];
};

export const disposal: StepMaker = () => [
  {
    title: 'Dispose of the old device by local rules',
    why: 'Batteries, screens and boards do not go into the bin.',
    success: 'Who took it, and how, is noted on Prepare.',
    caution: 'A swollen battery: do not open, do not press; qualified people take it.',
    troubles: ['battery-swollen'],
  },
];
