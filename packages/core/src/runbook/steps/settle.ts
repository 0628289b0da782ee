import { copyTime, sourceMedium } from '../../backup/copyTime';
import { riskOf } from '../../backup/scope';
import type { DataSet, Destination } from '../../backup/dataSet';
import { printBothUnits } from '../../quantity/bytes';
import { printCount } from '../../quantity/count';
import { systemDisk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import type { RunbookInput, StepMaker } from '../input';

const accountWords = {
  organisation: 'the organisation’s account',
  online: 'the owner’s online account',
  local: 'a local account',
} as const;

export const firstStart: StepMaker = ({ practice, release }) => [
  {
    title: `First start: region, keyboard, ${accountWords[practice.account]}`,
    why: `House practice: ${practice.networkDuringSetup} during set-up, privacy switches off unless wanted${practice.encryption === 'during-setup' ? ', encryption on now' : ''}.${release?.firstStartNetwork && practice.networkDuringSetup === 'offline' ? ' This release goes no further without a network: connect it here, and not before.' : ''}`,
    success: 'The desktop.',
    caution:
      'Encryption may switch itself on for every fixed disk during set-up: decide it here, and keep the key.',
    troubles: ['set-up-loops', 'black-screen', 'no-network'],
  },
];

export const updates: StepMaker = () => [
  {
    title: 'Install updates, restart, repeat until none is left',
    why: 'The image is older than the last fixes.',
    success: 'The update page finds nothing more.',
    troubles: ['no-network'],
  },
];

export const optionalUpdates: StepMaker = ({ practice }) =>
  practice.optionalUpdates
    ? [
        {
          title: 'Take the optional driver updates',
          why: 'House practice takes them.',
          success: 'None is offered any more, and the device still starts.',
        },
      ]
    : [];

export const drivers: StepMaker = () => [
  {
    title: 'Check that no device lacks a driver',
    why: 'Graphics and sound from the maker where the system’s own are poor.',
    success: 'No device is marked missing or unknown; sound plays, the camera shows.',
    troubles: ['no-network', 'black-screen'],
  },
];

export const activate: StepMaker = ({ release }) =>
  release && release.activation.some((kind) => kind !== 'none')
    ? [
        {
          title: 'Activate',
          why: 'By the licence noted on Prepare; it must fit the edition.',
          success: 'The activation page says activated.',
          troubles: ['key-refused'],
        },
      ]
    : [];

export const firewall: StepMaker = () => [
  {
    title: 'Firewall on, sharing as before',
    why: 'Set-up may have left it open for a private network.',
    success: 'The firewall page shows every network protected.',
  },
];

/** The destination that restores fastest among those that hold all of the data sets, else the first. */
function restoreFrom(
  sets: readonly DataSet[],
  destinations: readonly Destination[],
): Destination | undefined {
  return destinations.find(({ takes }) => sets.every(({ id }) => takes.includes(id))) ?? destinations[0];
}

export const restore: StepMaker = ({ dataSets, destinations, route, facts }: RunbookInput) => {
  const sets = dataSets.filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk');
  const from = restoreFrom(sets, destinations);
  if (sets.length === 0 || !from) return [];
  const sizeBytes = sets.reduce((sum, set) => sum + set.sizeBytes, 0);
  const fileCount = sets.reduce((sum, set) => sum + set.fileCount, 0);
  const time = copyTime({ sizeBytes, fileCount }, sourceMedium(systemDisk(valueOf(facts, 'disks'))), from);
  return [
    {
      title: `Restore ${printCount(sets.length, 'data set')} from ${from.name}`,
      why: `${printCount(fileCount, 'file')}, ${printBothUnits(sizeBytes)}. Leave the second copy in its drawer.`,
      success: 'Counts and checksums agree with the backup.',
      extraWaiting: time.minutes,
      effects: [{ kind: 'restored', dataSetIds: sets.map(({ id }) => id) }],
      troubles: ['backup-drive-fails', 'checksum-differs'],
    },
  ];
};

export const applications: StepMaker = ({ facts, route }) => {
  const count = valueOf(facts, 'applications')?.length;
  return [
    {
      title:
        route.id === 'alternative-system'
          ? 'Install the equivalents and open one file with each'
          : 'Install the applications',
      why: count === undefined ? 'What the owner uses is not known yet: ask.' : `${count} on the list.`,
      success: 'Each opens one of the owner’s own files.',
    },
  ];
};

export const encrypt: StepMaker = ({ practice }) =>
  practice.encryption === 'after'
    ? [
        {
          title: 'Switch device encryption on and record the recovery key',
          why: 'House practice encrypts after the restore.',
          success: 'The page says encrypted, and where the new key is kept is noted.',
          caution: 'Only this disk, unless the others are meant too.',
        },
      ]
    : [];

export const habits: StepMaker = () => [
  {
    title: 'Set up the owner’s habits with the owner',
    why: 'Where things are, how a list looks, one click or two, default applications, printers.',
    success: 'The owner has printed a page and found a file alone.',
  },
];

export const bootOrderBack: StepMaker = ({ practice }) =>
  practice.boot === 'change-order'
    ? [
        {
          title: 'Put the boot order back',
          why: 'Else any stick left in starts first.',
          success: 'The disk stands first on the boot page.',
        },
      ]
    : [];

export const reconcile: StepMaker = ({ dataSets }) =>
  dataSets.length === 0
    ? []
    : [
        {
          title: 'Account for every file',
          why: `${printCount(
            dataSets.reduce((sum, { fileCount }) => sum + fileCount, 0),
            'file',
          )} before: each is there again, or stands on the list with its reason.`,
          success: 'Every data set on Hand over is equal or explained.',
          troubles: ['checksum-differs'],
        },
      ];

export const signOff: StepMaker = ({ practice }) => [
  {
    title: 'Hand over, and have the owner sign',
    why: `The backup is kept ${practice.keepBackupDays} days, then wiped.`,
    success: 'The owner has the sheet, and knows where to call.',
  },
];
