import { releaseTitle } from '../../catalogue/find';
import { activationTexts } from '../../route/licence';
import { firmwareSwitches, switchTitle } from '../../firmware/switches';
import { diskBytes, diskMark } from '../../survey/disk';
import { printBytes } from '../../quantity/bytes';
import { isEmptyDevice, valueOf } from '../../survey/facts';
import {
  changesBootOrder,
  devicesWithoutDriver,
  diskIdOf,
  disksBeside,
  hasNetworkDriver,
  unlockedByPresent,
} from '../machineOf';
import { driverSetOf } from '../driverSources';
import { diskToWrite } from '../diskToWrite';
import { startOn } from '../startOn';
import type { StepDraft, StepInput, StepMaker } from '../input';
import { entryToTake } from './entryToTake';

export const recordLicence: StepMaker = ({ release, facts }) => {
  if (!release || release.activation.every((kind) => kind === 'none')) return [];
  const activation = valueOf(facts, 'activation');
  return [
    {
      words: () => ({
        title: 'Write down how the licence is held',
        why: `${releaseTitle(release)} takes a licence that is ${release.activation.join(' or ')}; after the install nobody can look it up on the disk.${activation === undefined ? '' : ` The present one is ${activation}: ${activationTexts[activation].beforeTheWipe}`}`,
        success: 'Kind and place are noted on Prepare. Not the key itself: say where it is kept.',
      }),
      operators: () => [{ op: 'note', note: 'licence' }],
      troubles: ['key-refused'],
    },
  ];
};

export const recordRecoveryKey: StepMaker = (input) => {
  const encryption = valueOf(input.facts, 'diskEncryption');
  const own: readonly StepDraft[] =
    encryption === 'off'
      ? []
      : [
          {
            words: () => ({
              title:
                encryption === 'on'
                  ? 'Make sure of the recovery key'
                  : 'Find out whether the disk is encrypted, and its recovery key',
              why: `Firmware changes make the disk ask for it; without it the files are gone.${keyPlace(input.facts)}`,
              success: 'The key has been seen, and where it is kept is noted on Prepare.',
              caution: 'Do not go on from memory: see the key, compare its number with the one on the disk.',
            }),
            operators: () => [{ op: 'note', note: 'recovery-key' }],
            troubles: ['recovery-key-asked'],
          },
        ];
  const beside = unlockedByPresent(input);
  if (beside.length === 0) return own;
  const marks = beside.map(diskMark).join(', ');
  return [
    ...own,
    {
      id: 'record-recovery-key:beside',
      words: () => ({
        title: `Make sure of the key${beside.length === 1 ? '' : 's'} of ${marks}: encrypted, and unlocked by the system that goes`,
        why: 'The present system opens them by itself; afterwards only their own keys do.',
        success: 'Each key has opened its disk once, and where it is kept is noted on Prepare.',
        caution: 'Not from memory: see the key, and compare its number with the one on the disk.',
      }),
      operators: () => [{ op: 'note', note: 'keys-beside' }],
      troubles: ['recovery-key-asked'],
    },
  ];
};

/** Where the recovery key is kept, as the survey was told. */
function keyPlace(facts: StepInput['facts']): string {
  const place = valueOf(facts, 'recoveryKeyPlace');
  return place === undefined ? '' : ` It is said to be kept: ${place}.`;
}

export const tryLive: StepMaker = ({ release }) =>
  release
    ? [
        {
          words: () => ({
            title: `Try ${releaseTitle(release)} live from the stick, with the owner`,
            why: 'Screen, sound, network, printers and the owner’s habits are seen before anything is erased.',
            success: 'The owner has opened one of their own files and says yes.',
          }),
          operators: () => [{ op: 'start', what: 'live' }],
          troubles: ['stick-not-offered', 'restarts-before-installer', 'black-screen', 'no-network'],
        },
      ]
    : [];

export const carryDrivers: StepMaker = ({ release, facts, model }) => {
  const adapters = valueOf(facts, 'networkAdapters');
  const bundled = hasNetworkDriver({ facts, release });
  const attached = devicesWithoutDriver(facts);
  const set = driverSetOf({ release, model });
  if (bundled && attached.length === 0) return [];
  const network = () =>
    bundled
      ? []
      : [
          adapters === undefined
            ? 'The network adapter is not known, so its driver may not come with the release.'
            : 'No driver for its network adapter comes with the release.',
        ];
  return [
    {
      words: () => ({
        title: bundled
          ? `Put the drivers for ${attached.join(', ')} on a second stick`
          : `Put the network driver${attached.length === 0 ? '' : ` and those for ${attached.join(', ')}`} on a second stick`,
        why: [
          ...network(),
          ...(set?.serves.includes('network') && !bundled
            ? [`The maker’s set for the ${model?.model ?? ''} has it: ${set.from}.`]
            : []),
          ...attached.map((name) => `${name} needs its maker’s driver.`),
        ].join(' '),
        success: 'The drivers’ files are on a stick that is not the installer.',
      }),
      operators: () => [{ op: 'note', note: 'driver-at-hand' }],
      troubles: ['no-network'],
    },
  ];
};

export const fastStartOff: StepMaker = ({ facts, route }) =>
  valueOf(facts, 'fastStart') === 'off'
    ? []
    : [
        {
          words: () => ({
            title: 'Switch fast start off and shut down fully',
            why: `Else the partitions stay locked by a sleeping kernel.${route.id === 'beside-same-disk' ? ' It stays off for good: two systems share this disk, and the other one would write to partitions that this one only put to sleep.' : ''}`,
            success: 'The next start shows the maker’s logo for more than five seconds.',
          }),
          operators: () => [{ op: 'shut-down-fully' }],
        },
      ];

export const suspendEncryption: StepMaker = ({ facts }) => {
  const encryption = valueOf(facts, 'diskEncryption');
  return encryption === 'off'
    ? []
    : [
        {
          words: () => ({
            title:
              encryption === 'on'
                ? 'Suspend disk encryption'
                : 'Look whether the disk is encrypted, and if so suspend that',
            why: 'The firmware is about to change; a disk that is not suspended locks itself.',
            success:
              encryption === 'on'
                ? 'The encryption page says suspended.'
                : 'The encryption page says suspended, or that it is off.',
          }),
          operators: () => [{ op: 'suspend-encryption' }],
          troubles: ['recovery-key-asked'],
        },
      ];
};

export const charger: StepMaker = ({ facts }) =>
  valueOf(facts, 'chassis') === 'desktop'
    ? []
    : [
        {
          words: () => ({
            title: 'Connect the charger, and look at the battery',
            why: 'Power lost while the disk is written costs the install.',
            success: 'The charging light is on; the case is flat and cool.',
            caution:
              'A battery that is swollen, hot or smells: stop, do not open, call a qualified person. The maker’s manual goes before this page.',
          }),
          operators: () => [{ op: 'connect-mains' }],
          troubles: ['battery-swollen', 'power-lost'],
        },
      ];

export const otherDisks: StepMaker = (input) => {
  const { houseRules } = input;
  const others = disksBeside(input);
  if (others.length === 0) return [];
  const list = others.map((disk) => `${diskMark(disk)} ${printBytes(diskBytes(disk), 'decimal')}`).join(', ');
  return houseRules.otherDisks === 'unplug'
    ? [
        {
          words: () => ({
            title: `Unplug the other disk${others.length === 1 ? '' : 's'}: ${list}`,
            why: 'A disk that is not there cannot be erased.',
            success: 'The firmware’s list shows the one disk only.',
            caution:
              'Mains out, static strap on. If the maker’s manual does not show how, leave it closed and tell the disks apart instead.',
          }),
          operators: () => others.map(({ name }) => ({ op: 'unplug', disk: name })),
        },
      ]
    : [
        {
          words: () => ({
            title: `Label the other disk${others.length === 1 ? '' : 's'} do not touch: ${list}`,
            why: 'Two disks look alike in a list; serial and size do not.',
            success: 'A note with serial number and size of every disk is beside the keyboard.',
          }),
          operators: () => others.map(({ name }) => ({ op: 'label', disk: name })),
        },
      ];
};

export const identifyDisk: StepMaker = (input) => {
  const disk = diskToWrite(input);
  return [
    {
      words: () => ({
        title: disk
          ? `Identify disk ${diskMark(disk)} by serial number and size`
          : 'Identify the disk that is to be written, by serial number and size',
        why: disk
          ? `Serial ${disk.serial ?? 'unknown'}, ${printBytes(diskBytes(disk), 'decimal')}. Never by its number in a list.`
          : 'It could not be told from the survey.',
        success: 'Serial number and size are typed on Prepare and agree with the survey.',
      }),
      operators: () => [{ op: 'identify', disk: diskIdOf(input) }],
    },
  ];
};

export const firmware: StepMaker = (input) => {
  const on = startOn(input);
  if (!on) return [];
  const { diskWork } = input;
  const { keys } = input;
  return (
    firmwareSwitches(on)
      // Turned after the conversion and not before: it is a step of its own then.
      .filter(({ id }) => id !== 'legacy-off' || diskWork?.work.kind !== 'convert')
      .map((entry) => ({
        words: () => ({
          title: switchTitle(entry),
          why: `${entry.why} Set-up key: ${keys.setup}, ${keys.setupSource}.`,
          success: 'After saving, the set-up page shows the new position.',
          ...(entry.caution === undefined ? {} : { caution: entry.caution }),
        }),
        id: `firmware:${entry.id}`,
        operators: () => [
          { op: 'start', what: 'firmware' },
          { op: 'set-switch', to: entry.to },
        ],
        troubles: ['recovery-key-asked'],
      }))
  );
};

export const startFromStick: StepMaker = (input) => {
  const { model, houseRules, keys } = input;
  return [
    {
      words: () => ({
        title:
          houseRules.boot === 'menu-once'
            ? `Start from the stick: ${keys.bootMenu}`
            : `Put the stick first in the boot order: set-up key ${keys.setup}`,
        why: `Boot-menu key ${keys.bootMenu}, ${keys.bootMenuSource}. All other sticks out. ${entryToTake(input)}${isEmptyDevice(input.facts) ? ' The disk is empty: without a key the device may start the stick by itself.' : ''}${(model?.quirks ?? []).map((quirk) => ` ${quirk}`).join('')}`,
        success: 'The installer’s first page, in the language that was planned.',
      }),
      operators: () => [
        ...(changesBootOrder(input)
          ? ([
              { op: 'start', what: 'firmware' },
              { op: 'set-switch', to: { switch: 'first', first: 'medium' } },
            ] as const)
          : []),
        { op: 'start', what: 'installer' },
      ],
      troubles: ['stick-not-offered', 'restarts-before-installer', 'black-screen', 'no-disk-shown'],
    },
  ];
};
