import { copyTime, sourceMedium, type CopyTime } from '../../backup/copies/copyTime';
import { learntCopyTime, type MeasuredCopy } from '../../backup/copies/measuredCopy';
import { riskOf } from '../../backup/scope/scope';
import type { DataSet, Destination } from '../../backup/scope/dataSet';
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

export const firstStart: StepMaker = ({ houseRules, release }) => [
  {
    title: `First start: region, keyboard, ${accountWords[houseRules.account]}`,
    why: `House rule: ${houseRules.networkDuringSetup} during set-up, privacy switches off unless wanted${houseRules.encryption === 'during-setup' ? ', encryption on now' : ''}.${release?.firstStartNetwork && houseRules.networkDuringSetup === 'offline' ? ' This release goes no further without a network: connect it here, and not before.' : ''}`,
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

export const optionalUpdates: StepMaker = ({ houseRules }) =>
  houseRules.optionalUpdates
    ? [
        {
          title: 'Take the optional driver updates',
          why: 'The house rules take them.',
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

type Source = { readonly from: Destination; readonly sets: readonly DataSet[]; readonly time: CopyTime };

/**
 * From where each data set comes back: the drive that holds most of what is left, the fastest of those by its class
 * alone, so that a copy that was timed elsewhere changes no plan; several drives where no one holds all.
 */
function restoreSources(
  sets: readonly DataSet[],
  destinations: readonly Destination[],
  facts: RunbookInput['facts'],
  timed: readonly MeasuredCopy[],
): readonly Source[] {
  const back = sourceMedium(systemDisk(valueOf(facts, 'disks')));
  const sources: Source[] = [];
  let left = sets;
  while (left.length > 0) {
    const held = destinations.map((from): Source => {
      const here = left.filter(({ id }) => from.takes.includes(id));
      return { from, sets: here, time: learntCopyTime(sumOf(here), back, from, timed) };
    });
    const byClass = ({ from, sets: here }: Source) => copyTime(sumOf(here), back, from).minutes.likely;
    const [best] = held
      .filter((one) => one.sets.length > 0)
      .sort((a, b) => b.sets.length - a.sets.length || byClass(a) - byClass(b));
    if (!best) break;
    sources.push(best);
    left = left.filter((set) => !best.sets.includes(set));
  }
  return sources;
}

function sumOf(sets: readonly DataSet[]): { readonly sizeBytes: number; readonly fileCount: number } {
  return {
    sizeBytes: sets.reduce((sum, set) => sum + set.sizeBytes, 0),
    fileCount: sets.reduce((sum, set) => sum + set.fileCount, 0),
  };
}

export const restore: StepMaker = ({
  dataSets,
  destinations,
  route,
  facts,
  timedCopies = [],
}: RunbookInput) => {
  const atRisk = dataSets.filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk');
  const sources = restoreSources(atRisk, destinations, facts, timedCopies);
  return sources.map(({ from, sets, time }) => {
    const { fileCount, sizeBytes } = sumOf(sets);
    const named = sources.length > 1 ? `: ${sets.map(({ name }) => name).join(', ')}` : '';
    return {
      ...(sources.length > 1 ? { id: `restore:${from.id}` } : {}),
      title: `Restore ${printCount(sets.length, 'data set')} from ${from.name}${named}`,
      why: `${printCount(fileCount, 'file')}, ${printBothUnits(sizeBytes)}. Leave the second copy in its drawer.`,
      success: 'Counts and checksums agree with the backup.',
      extraWaiting: time.minutes,
      effects: [{ kind: 'restored' as const, dataSetIds: sets.map(({ id }) => id) }],
      troubles: ['backup-drive-fails' as const, 'checksum-differs' as const],
    };
  });
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

export const encrypt: StepMaker = ({ houseRules }) =>
  houseRules.encryption === 'after'
    ? [
        {
          title: 'Switch device encryption on and record the recovery key',
          why: 'The house rules encrypt after the restore.',
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

export const bootOrderBack: StepMaker = ({ houseRules }) =>
  houseRules.boot === 'change-order'
    ? [
        {
          title: 'Put the boot order back',
          why: 'Else any stick left in starts first.',
          success: 'The disk is first on the boot page.',
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
          )} before: each is there again, or is on the list with its reason.`,
          success: 'Every data set on Hand over is equal or explained.',
          troubles: ['checksum-differs'],
        },
      ];

export const signOff: StepMaker = ({ houseRules }) => [
  {
    title: 'Hand over, and have the owner sign',
    why: `The backup is kept ${houseRules.keepBackupDays} days, then wiped.`,
    success: 'The owner has the sheet, and knows where to call.',
  },
];
