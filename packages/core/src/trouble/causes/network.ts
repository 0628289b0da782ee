import { systemOf } from '../../machine/state';
import { hasNetworkDriver } from '../../runbook/machineOf';
import { valueOf } from '../../survey/facts';
import type { CausesOf } from '../cause';
import { act, look } from '../stops';

/** Signs of the network, downloads and clocks. */

export const noNetwork: CausesOf = (context) => {
  const { input, machine } = context;
  const target = systemOf(machine, 'target');
  const adapters = valueOf(input.facts, 'networkAdapters');
  const bundled = hasNetworkDriver(input);
  const carried = machine.notes.includes('driver-at-hand');
  return [
    {
      id: 'driver-missing',
      title: 'No driver for the adapter is there',
      likelihood: bundled ? 1 : 4,
      because: bundled
        ? 'A driver for one of its adapters comes with the release.'
        : adapters === undefined
          ? 'Its adapters are not known, so no driver can be promised.'
          : 'No driver for its adapters comes with the release.',
      check: { what: 'Does the list of adapters show one with its own name?', minutes: 2 },
      ...(target?.setUp === true
        ? {
            really: (planned) => ({
              ...planned,
              systems: planned.systems.map((system) =>
                system.id === 'target' ? { ...system, networkDriver: false } : system,
              ),
            }),
          }
        : {}),
      remedy: {
        title: carried
          ? 'Take the driver from the second stick'
          : 'Fetch the driver on another computer, and carry it over',
        stops: [
          ...(carried
            ? []
            : [
                act(
                  'Fetch the adapter’s driver on the bench computer',
                  'From the maker’s page for this model and the new system; its name is in the list of adapters.',
                  'Its files are on a stick that is not the installer.',
                  8,
                  { operators: [{ op: 'note', note: 'driver-at-hand' }] },
                ),
              ]),
          act(
            'Install the driver from the stick',
            'Network first: the other drivers come over it.',
            'The list shows the adapter by its name, and a page loads.',
            5,
            target?.setUp === true ? { operators: [{ op: 'fit-drivers', carried: true }] } : {},
          ),
        ],
      },
    },
    {
      id: 'radio-off',
      title: 'The radio is switched off',
      likelihood: valueOf(input.facts, 'chassis') === 'desktop' ? 1 : 2,
      because: 'A key or a slide on the case switches it, and a new system starts with the last position.',
      check: { what: 'Is there a light or a key for the radio, and what does it show?', minutes: 1 },
      remedy: {
        title: 'Switch the radio on',
        stops: [look('Switch the radio on by its key, and connect', 'A page loads.', 2)],
      },
    },
    {
      id: 'cable-or-socket',
      title: 'Cable, socket or access point',
      likelihood: 2,
      because: 'Nothing of this device is needed to rule it out.',
      check: { what: 'Does another computer get a page by the same cable or network?', minutes: 2 },
      remedy: {
        title: 'Take another cable, or another network',
        stops: [look('Connect by another cable, or by a phone’s network', 'A page loads.', 3)],
      },
    },
    {
      id: 'clock-wrong',
      title: 'Its clock is wrong, and no certificate is valid',
      likelihood: 1,
      because: 'After a long time without mains, or between two systems, the clock is hours or years off.',
      check: { what: 'Which day does the device show?', minutes: 1 },
      remedy: {
        title: 'Set day and time',
        stops: [
          look('Set day, time and zone, and load the page again', 'The page loads without a warning.', 2),
        ],
      },
    },
  ];
};

export const pageDoesNotLoad: CausesOf = ({ input }) => {
  const [, second] = input.release?.imageSources ?? [];
  return [
    {
      id: 'browser-too-old',
      title: 'The page asks for a newer browser than this computer has',
      likelihood: 3,
      because: 'Pages of makers often refuse the browser of a system without updates.',
      check: { what: 'Does the page load on the bench computer?', minutes: 2 },
      remedy: {
        title: 'Fetch it on the bench computer',
        stops: [
          act(
            'Open the page on the bench computer, and fetch the image there',
            'Its checksum shows that it is the same image.',
            'The download runs.',
            3,
          ),
        ],
      },
    },
    {
      id: 'source-down',
      title: 'The source does not answer',
      likelihood: 2,
      because: second ? 'The catalogue knows a second source.' : 'The catalogue knows no second source.',
      check: { what: 'Does another page load?', minutes: 1 },
      remedy: second
        ? {
            title: 'Take the second source',
            stops: [
              act(
                `Fetch the image from ${second}`,
                'Its checksum shows that it is the same image.',
                'The download runs.',
                3,
              ),
            ],
          }
        : 'End this detour with that note, and come back later; or note a second source in the catalogue, whose checksum has to be the same.',
    },
  ];
};

export const downloadBrokenOff: CausesOf = ({ input }) => {
  const [, second] = input.release?.imageSources ?? [];
  const bytes = input.release?.imageBytes ?? 0;
  return [
    {
      id: 'line-broken-off',
      title: 'The line was interrupted',
      likelihood: 3,
      because: 'The file is shorter than the image; a file that is too short is never written.',
      check: { what: `Compare its bytes with ${bytes.toLocaleString('en')}.`, minutes: 1 },
      remedy: {
        title: 'Go on where it stopped',
        stops: [
          act(
            'Go on with the download where it stopped, or begin again',
            'Bytes first, then the checksum.',
            'The file has all bytes, and its SHA-256 is the published one.',
            2,
            { waiting: 10 },
          ),
        ],
      },
    },
    {
      id: 'no-room-for-image',
      title: 'The disk of the computer that fetches it is full',
      likelihood: 2,
      because: `The image takes ${(bytes / 1e9).toFixed(1)} GB, and while it is fetched nothing else may grow.`,
      check: { what: 'How much is free there?', minutes: 1 },
      remedy: {
        title: 'Fetch it to a drive with room',
        stops: [
          act('Fetch it to another drive', 'With twice its bytes free.', 'The download is complete.', 2, {
            waiting: 10,
          }),
        ],
      },
    },
    {
      id: 'source-breaks-off',
      title: 'The source ends the connection each time',
      likelihood: 1,
      because: second ? 'The catalogue knows a second source.' : 'The catalogue knows no second source.',
      check: { what: 'Does it end at the same place each time?', minutes: 3 },
      remedy: second
        ? {
            title: 'Take the second source',
            stops: [
              act(
                `Fetch the image from ${second}`,
                'Its checksum shows that it is the same image.',
                'The download is complete.',
                2,
                { waiting: 10 },
              ),
            ],
          }
        : 'End this detour with that note, and come back later.',
    },
  ];
};

export const signaturesRefused: CausesOf = () => [
  {
    id: 'clock-before-signature',
    title: 'The clock is earlier than the day on which the packages were signed',
    likelihood: 4,
    because: 'Signatures of packages have days; a clock of years ago refuses them all.',
    check: { what: 'Which day does the device show?', minutes: 1 },
    remedy: {
      title: 'Set day and time',
      stops: [
        look('Set day, time and zone, and try again', 'The list of packages is read without an error.', 3),
      ],
    },
  },
  {
    id: 'keyring-old',
    title: 'The medium is older than the present signing keys',
    likelihood: 3,
    because: 'A build-it-yourself system takes its keys from the medium; an old medium has old keys.',
    check: { what: 'How many months old is the image?', minutes: 1 },
    remedy: {
      title: 'Fetch the signing keys first',
      stops: [
        act(
          'Install the package with the signing keys by itself, then all others',
          'It is signed by the old keys as well.',
          'The list of packages is read without an error.',
          4,
          { waiting: 2 },
        ),
      ],
    },
  },
];
