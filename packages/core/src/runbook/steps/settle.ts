import { riskOf } from '../../backup/scope/scope';
import { printBothUnits, printBytes } from '../../quantity/bytes';
import { printCount } from '../../quantity/count';
import { diskBytes, diskMark } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import { diskToWrite } from '../diskToWrite';
import type { StepInput, StepMaker } from '../input';
import {
  changesBootOrder,
  devicesWithoutDriver,
  disksBeside,
  encryptedWhen,
  setsAtRisk,
  workPlace,
} from '../machineOf';
import { habitChanges } from '../../catalogue/habits';
import { upkeepWords } from '../../rules/upkeep';
import { driverSources } from '../driverSources';
import {
  accountAtSetUp,
  accountWords,
  signInCaution,
  signsInForLicence,
  toldToGoWithout,
  waitsForNetwork,
  withoutWords,
} from '../../route/setUp';
import { goalOf } from '../goalOf';
import { restoreSources, sumOf } from './restoreSources';

/** Every fixed disk that is plugged in, by name, and what its encryption page has to say: set-up may have switched it on. */
function encryptionLookedAt(input: StepInput): string {
  const written = diskToWrite(input);
  // An upgrade leaves encryption as it was.
  if (!written || input.route.steps.includes('start-upgrade')) return '';
  const others = input.houseRules.otherDisks === 'unplug' ? [] : disksBeside(input);
  const own = encryptedWhen(input) === 'during-setup' ? 'on' : 'off';
  const beside = others.length === 0 ? '' : `, and as before for ${others.map(diskMark).join(', ')}`;
  return ` The encryption page says ${own} for the new system on ${diskMark(written)}${beside}.`;
}

/** An upgrade leaves the sign-in as it was. */
function desktopSeen({ route, houseRules }: StepInput): string {
  if (route.steps.includes('start-upgrade')) return 'The desktop.';
  return houseRules.automaticSignIn === 'on'
    ? 'The desktop, after a restart at which nobody was asked.'
    : 'The desktop, after a sign-in that was asked for.';
}

/** What set-up is told to go on without, and how; an upgrade sets nothing up. */
function goesOnWithout(input: StepInput): string {
  if (input.route.steps.includes('start-upgrade')) return '';
  return toldToGoWithout(input)
    .map(({ what, how }) => ` Without ${withoutWords[what]}: ${how}`)
    .join('');
}

export const firstStart: StepMaker = (input) => [
  {
    words: () => ({
      title: `First start: region, keyboard, ${accountWords[accountAtSetUp(input)]}`,
      why: `House rule: ${input.houseRules.networkDuringSetup} during set-up, privacy switches off unless wanted${encryptedWhen(input) === 'during-setup' ? ', encryption on now' : ''}.${input.release && waitsForNetwork(input.release) && input.houseRules.networkDuringSetup === 'offline' ? ' This release goes no further without a network: connect it here, and not before.' : ''}${goesOnWithout(input)}`,
      success: `${desktopSeen(input)}${encryptionLookedAt(input)}`,
      caution: [
        'Encryption may switch itself on for every fixed disk during set-up: decide it here, and keep the key.',
        input.route.steps.includes('start-upgrade') ? '' : signInCaution(input.houseRules),
      ]
        .filter((words) => words !== '')
        .join(' '),
    }),
    operators: () => [
      { op: 'set-up', withNetwork: input.release !== undefined && waitsForNetwork(input.release) },
    ],
    troubles: ['loader-prompt', 'set-up-loops', 'black-screen', 'no-network'],
  },
];

/** What was unplugged for the install is part of the device again. */
export const otherDisksBack: StepMaker = (input) => {
  const others = disksBeside(input);
  const unplugged = input.route.steps.includes('other-disks') || input.diskWork !== undefined;
  if (!unplugged || input.houseRules.otherDisks !== 'unplug' || others.length === 0) return [];
  const list = others.map((disk) => `${diskMark(disk)} ${printBytes(diskBytes(disk), 'decimal')}`).join(', ');
  return [
    {
      words: () => ({
        title: `Plug the other disk${others.length === 1 ? '' : 's'} in again: ${list}`,
        why: 'The new system starts by itself now; what lies on them is needed.',
        success: 'The new system starts and shows every partition with its label, and files on it open.',
        caution: 'Mains out, static strap on, as the maker’s manual shows.',
      }),
      operators: () => others.map(({ name }) => ({ op: 'plug', disk: name })),
      troubles: ['does-not-start', 'volume-read-only'],
    },
  ];
};

/** The disk that was only suspended locks itself again. */
export const resumeEncryption: StepMaker = ({ facts, route }) => {
  const encryption = valueOf(facts, 'diskEncryption');
  if (encryption === 'off') return [];
  const kept = route.steps.includes('install-beside') || route.steps.includes('fit-second-disk');
  return [
    {
      words: () => ({
        title: `${encryption === 'on' ? 'Resume' : 'Where it was suspended, resume'} the encryption${kept ? ' of the present system' : ''}`,
        why: 'Suspended, the disk can be read by anybody who takes it out.',
        success: 'The encryption page says on, and the next start asks for no recovery key.',
      }),
      operators: () => [{ op: 'resume-encryption', system: kept ? 'present' : 'target' }],
      troubles: ['recovery-key-asked'],
    },
  ];
};

export const updates: StepMaker = () => [
  {
    words: () => ({
      title: 'Install updates, restart, repeat until none is left',
      why: 'The image is older than the last fixes.',
      success: 'The update page finds nothing more.',
    }),
    operators: () => [{ op: 'update' }],
    troubles: ['no-network', 'update-never-ends', 'signatures-refused'],
  },
];

export const optionalUpdates: StepMaker = ({ houseRules }) =>
  houseRules.optionalUpdates
    ? [
        {
          words: () => ({
            title: 'Take the optional driver updates',
            why: 'The house rules take them.',
            success: 'None is offered any more, and the device still starts.',
          }),
          operators: () => [{ op: 'use', where: 'target', withData: false }],
        },
      ]
    : [];

export const drivers: StepMaker = (input) => [
  {
    words: () => {
      const sources = driverSources(input);
      const listed = sources.map(({ device, from }) => `${device}: ${from}`).join('; ');
      return {
        title: 'Check that no device lacks a driver',
        why: `${listed === '' ? '' : `The network first. ${listed}. `}Graphics and sound from the maker where the system’s own are poor.`,
        success: `No device is marked missing or unknown. Tried, one after the other: ${[...new Set([...sources.map(({ tried }) => tried), 'sound plays', 'the camera shows'])].join(', ')}.`,
      };
    },
    operators: () => [{ op: 'fit-drivers', carried: devicesWithoutDriver(input.facts).length > 0 }],
    troubles: ['device-unknown', 'no-network', 'black-screen'],
  },
];

export const activate: StepMaker = (input) => {
  const { release } = input;
  return release && release.activation.some((kind) => kind !== 'none')
    ? [
        {
          words: () => ({
            title: 'Activate',
            why: `By the licence noted on Prepare; it must fit the edition.${signsInForLicence(input) ? ' It is bound to the owner’s account: the owner signs in once here, present and with the phone that confirms it; the account that set-up made stays the one that is worked with.' : ''}`,
            success: 'The activation page says activated.',
          }),
          operators: () => [{ op: 'activate' }],
          troubles: ['key-refused'],
        },
      ]
    : [];
};

export const firewall: StepMaker = () => [
  {
    words: () => ({
      title: 'Firewall on, sharing as before',
      why: 'Set-up may have left it open for a private network.',
      success: 'The firewall page shows every network protected.',
    }),
    operators: () => [{ op: 'firewall' }],
  },
];

export const restore: StepMaker = ({ dataSets, destinations, route, facts, timedCopies = [] }) => {
  const atRisk = dataSets.filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk');
  const sources = restoreSources(atRisk, destinations, facts, timedCopies);
  return sources.map(({ from, sets, time }) => {
    const named = () => (sources.length > 1 ? `: ${sets.map(({ name }) => name).join(', ')}` : '');
    const amount = () => {
      const { fileCount, sizeBytes } = sumOf(sets);
      return `${printCount(fileCount, 'file')}, ${printBothUnits(sizeBytes)}`;
    };
    return {
      words: () => ({
        title: `Restore ${printCount(sets.length, 'data set')} from ${from.name}${named()}`,
        why: `${amount()}. Leave the second copy in its drawer.`,
        success: 'Counts and checksums agree with the backup.',
      }),
      ...(sources.length > 1 ? { id: `restore:${from.id}` } : {}),
      operators: () => [{ op: 'restore' as const, destination: from.id, sets: sets.map(({ id }) => id) }],
      extraWaiting: time.minutes,
      effects: [{ kind: 'restored' as const, dataSetIds: sets.map(({ id }) => id) }],
      troubles: ['backup-drive-fails' as const, 'checksum-differs' as const],
    };
  });
};

export const applications: StepMaker = (input) => {
  const { facts, route } = input;
  const count = valueOf(facts, 'applications')?.length;
  return [
    {
      words: () => ({
        title:
          route.id === 'alternative-system'
            ? 'Install the equivalents and open one file with each'
            : 'Install the applications',
        why: count === undefined ? 'What the owner uses is not known yet: ask.' : `${count} on the list.`,
        success: 'Each opens one of the owner’s own files.',
      }),
      operators: () => [{ op: 'use', where: workPlace(input), withData: true }],
    },
  ];
};

export const encrypt: StepMaker = (input) =>
  encryptedWhen(input) === 'after'
    ? [
        {
          words: () => ({
            title: 'Switch device encryption on and record the recovery key',
            why: 'The house rules encrypt after the restore. The passphrase is in the vault before it is switched on, and the new key right after.',
            success: 'The page says encrypted, and where the new key is kept is noted.',
            caution: 'Only this disk, unless the others are meant too.',
          }),
          operators: () => [{ op: 'note', note: 'passphrase' }, { op: 'encrypt' }],
          troubles: ['another-disk-encrypted'],
        },
      ]
    : [];

/** What is done in another way now, where the catalogue says so of both families; else what is usually asked. */
function habitWords({ families = [], present, release }: StepInput): string {
  const changes = habitChanges(families, present, release);
  return changes.length === 0
    ? 'Where things are, how a list looks, one click or two, default applications, printers.'
    : `Shown once, each: ${changes.map(({ what, before, now }) => `${what}: ${now} (before: ${before})`).join('; ')}. Then default applications and printers.`;
}

export const habits: StepMaker = (input) => [
  {
    words: () => ({
      title: 'Set up the owner’s habits with the owner',
      why: [
        habitWords(input),
        ...(input.release ? [upkeepWords(input.release.upkeep, input.houseRules.looksAfter)] : []),
      ].join(' '),
      success: 'The owner has printed a page and found a file alone.',
    }),
    operators: () => [{ op: 'use', where: workPlace(input), withData: true }],
  },
];

export const bootOrderBack: StepMaker = (input) =>
  changesBootOrder(input)
    ? [
        {
          words: () => ({
            title: 'Put the boot order back',
            why: 'Else any stick left in starts first.',
            success: 'The disk is first on the boot page.',
          }),
          operators: () => [
            { op: 'start', what: 'firmware' },
            { op: 'set-switch', to: { switch: 'first', first: 'disk' } },
          ],
        },
      ]
    : [];

export const reconcile: StepMaker = (input) => {
  const { dataSets } = input;
  return dataSets.length === 0
    ? []
    : [
        {
          words: () => ({
            title: 'Account for every file',
            why: `${printCount(
              dataSets.reduce((sum, { fileCount }) => sum + fileCount, 0),
              'file',
            )} before: each is there again, or is on the list with its reason.`,
            success: 'Every data set on Hand over is equal or explained.',
          }),
          operators: () => [{ op: 'account', sets: setsAtRisk(input), where: workPlace(input) }],
          troubles: ['checksum-differs'],
        },
      ];
};

export const signOff: StepMaker = (input) => [
  {
    words: () => ({
      title: 'Hand over, and have the owner sign',
      why:
        input.dataSets.length === 0
          ? 'Nothing was saved, so no backup is kept.'
          : `The backup is kept ${input.houseRules.keepBackupDays} days, then wiped.`,
      success: 'The owner has the sheet, and knows where to call.',
    }),
    operators: () => [{ op: 'hand-over', goal: goalOf(input) }],
  },
];
