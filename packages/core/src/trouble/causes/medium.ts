import type { Mode } from '../../machine/state';
import { releaseTitle } from '../../catalogue/find';
import type { Cause, CausesOf, TroubleContext } from '../cause';
import { act, isLoose, look, mediumName, modesText, turn, writtenAgain } from '../stops';

/** Signs of the medium and of its start. */

const listed = (context: TroubleContext) =>
  look(
    `Open the boot menu, key ${context.input.keys.bootMenu}: the ${mediumName(context)} is listed`,
    'The entry is there, and starts the installer.',
  );

const otherMode = (mode: Mode): Mode => (mode === 'uefi' ? 'legacy' : 'uefi');

function usbStartOff(context: TroubleContext): Cause {
  const { machine, input } = context;
  const isStick = machine.installer.kind === 'stick';
  return {
    id: 'usb-start-off',
    title: 'The firmware does not start from USB',
    likelihood: isStick ? 3 : 0,
    because: isStick
      ? 'Many firmwares have the switch off as delivered, and a reset of the set-up turns it off again.'
      : `The installer is on a ${mediumName(context)}, and not on USB.`,
    check: { what: `Set-up key ${input.keys.setup}, page Start: read the switch for USB.`, minutes: 2 },
    really: (planned) => ({ ...planned, firmware: { ...planned.firmware, usbStart: false } }),
    remedy: {
      title: 'Let the firmware start from USB',
      stops: [
        turn(
          context,
          'Switch starting from USB on',
          { switch: 'usb-start', on: true },
          'Switch it off again.',
        ),
        listed(context),
      ],
    },
  };
}

/** Written for a mode in which this firmware starts nothing. */
function writtenForOtherMode(context: TroubleContext): Cause {
  const { firmware, installer } = context.machine;
  const [only] = firmware.starts;
  const fits = firmware.starts.length > 1 || installer.modes.length > 1 || only === undefined;
  return {
    id: 'written-for-other-mode',
    title: `The ${mediumName(context)} is written for another mode than the firmware starts in`,
    likelihood: fits ? 0 : 3,
    because: fits
      ? `The firmware starts ${modesText(firmware.starts)}, the ${mediumName(context)} is for ${modesText(installer.modes)}: one of them fits.`
      : `The firmware starts in ${modesText(firmware.starts)} mode only.`,
    check: {
      what: `On the bench computer, look at the ${mediumName(context)}: a partition table of the scheme for ${modesText(firmware.starts)} mode?`,
      minutes: 2,
    },
    really: (planned) => ({
      ...planned,
      installer: { ...planned.installer, modes: only ? [otherMode(only)] : [] },
    }),
    remedy: writtenAgain(context, 'Write it again for the right mode', listed(context)),
  };
}

function refusedBySecureBoot(context: TroubleContext): Cause {
  const { firmware, installer } = context.machine;
  const { signature } = installer;
  const base = {
    id: 'refused-by-secure-boot',
    title: 'Secure Boot refuses its loader',
    check: {
      what: `Set-up key ${context.input.keys.setup}, page Security: is Secure Boot on, and are third-party loaders allowed?`,
      minutes: 2,
    },
  };
  if (firmware.secureBoot === 'none')
    return {
      ...base,
      likelihood: 0,
      because: 'This firmware has no Secure Boot.',
      remedy: 'There is nothing to switch.',
    };
  if (signature === 'signed')
    return {
      ...base,
      likelihood: 0,
      because: 'Its loader is signed with a key that every firmware with Secure Boot has.',
      remedy: 'There is nothing to switch.',
    };
  if (!firmware.starts.includes('uefi') || !installer.modes.includes('uefi'))
    return {
      ...base,
      likelihood: 0,
      because: 'It starts in legacy mode here, and Secure Boot is a matter of UEFI mode.',
      remedy: 'There is nothing to switch.',
    };
  if (firmware.starts.includes('legacy'))
    return {
      ...base,
      likelihood: 0,
      because: 'Legacy compatibility is on, and a firmware with Secure Boot on has none.',
      remedy: 'There is nothing to switch.',
    };
  const others = signature === 'third-party' && firmware.secureBoot === 'on';
  return {
    ...base,
    likelihood: 4,
    because: others
      ? 'Its loader is signed by a third party: the firmware starts it only where such loaders are allowed.'
      : 'Its loader is not signed for this firmware: Secure Boot has to be off, and the change has to be saved.',
    really: (planned) => ({
      ...planned,
      firmware: {
        ...planned.firmware,
        ...(others ? { othersLoaders: false } : { secureBoot: 'on' as const, starts: ['uefi' as const] }),
      },
    }),
    remedy: {
      title: others ? 'Allow third-party loaders' : 'Switch Secure Boot off, and save',
      stops: [
        turn(
          context,
          others ? 'Allow third-party loaders' : 'Switch Secure Boot off',
          others ? { switch: 'others-loaders', on: true } : { switch: 'secure-boot', on: false },
          'Put the switch back.',
        ),
        listed(context),
      ],
    },
  };
}

function portOrReader(context: TroubleContext): Cause {
  const { kind } = context.machine.installer;
  const isOnDisk = kind === 'partition' || kind === 'image';
  return {
    id: 'port-or-reader',
    title: kind === 'disc' ? 'The reader is not seen by the firmware' : 'The port is not read at the start',
    likelihood: isOnDisk ? 0 : 2,
    because: isOnDisk
      ? 'Nothing is plugged in: the installer is on the disk.'
      : 'Ports behind a hub, a dock or a front panel are often read only once a system runs.',
    check: { what: 'Unplug it, plug it straight into the device, list again.', minutes: 1 },
    remedy: {
      title: 'Take a port of the device itself',
      stops: [
        act(
          `Plug the ${mediumName(context)} into another port, straight on the device`,
          'An older port first: every firmware reads that one.',
          'The light of the medium goes on at the start.',
          1,
        ),
        listed(context),
      ],
    },
  };
}

function writtenBadly(context: TroubleContext): Cause {
  const isOpened = context.machine.installer.kind === 'image';
  return {
    id: 'written-badly',
    title: `The ${mediumName(context)} is not written as it should be`,
    likelihood: isOpened ? 0 : 2,
    because: isOpened
      ? 'The image is opened in the running system; nothing was written.'
      : context.input.release
        ? `${releaseTitle(context.input.release)} starts only with every one of its loader’s files in place.`
        : 'A medium starts only with every one of its loader’s files in place.',
    check: { what: `Compare the ${mediumName(context)} with the image on the bench computer.`, minutes: 4 },
    really: (planned) => ({ ...planned, installer: { ...planned.installer, written: false } }),
    remedy: writtenAgain(context, 'Write it again', listed(context)),
  };
}

export const stickNotOffered: CausesOf = (context) => [
  usbStartOff(context),
  writtenForOtherMode(context),
  refusedBySecureBoot(context),
  portOrReader(context),
  writtenBadly(context),
];

export const discNotRead: CausesOf = (context) => [
  {
    id: 'disc-speed',
    title: 'The disc was burnt too fast for this reader',
    likelihood: 3,
    because: 'Old readers give up on discs that were burnt at full speed.',
    check: { what: 'Read the whole disc on the bench computer: does it compare equal there?', minutes: 8 },
    really: (planned) => ({ ...planned, installer: { ...planned.installer, written: false } }),
    remedy: writtenAgain(context, 'Burn it again, slowly', listed(context)),
  },
  {
    id: 'reader-not-seen',
    title: 'The reader gets too little power, or is not seen',
    likelihood: 2,
    because: 'An outside reader on one port often needs the second plug of its cable.',
    check: { what: 'Does the tray open, and does the disc spin up?', minutes: 1 },
    remedy: {
      title: 'Give the reader both plugs',
      stops: [
        act(
          'Connect both plugs of the reader, straight to the device',
          'It draws more than one port gives.',
          'The disc spins up.',
          2,
        ),
        listed(context),
      ],
    },
  },
];

export const setUpLoops: CausesOf = (context) => {
  const { machine } = context;
  const loose = isLoose(machine);
  const first = machine.firmware.first === 'medium';
  return [
    {
      id: 'medium-still-in',
      title: `The ${mediumName(context)} is still in, and starts again`,
      likelihood: loose && machine.installer.plugged ? 4 : 0,
      because: !loose
        ? 'Nothing is plugged in: the installer was on the disk.'
        : machine.installer.plugged
          ? first
            ? 'The firmware tries it before the disk.'
            : 'It is plugged in, and its entry may have been chosen again.'
          : 'It was taken out before this step.',
      check: { what: 'Is it still plugged in?', minutes: 1 },
      remedy: {
        title: 'Unplug the medium, and start again',
        stops: [
          act(
            `Take the ${mediumName(context)} out and restart`,
            'The installed system goes on where it stopped.',
            'The device goes on from its own disk.',
            2,
            { operators: [{ op: 'take-out' }], undo: 'Plug it in again.' },
          ),
        ],
      },
    },
    {
      id: 'key-pressed-again',
      title: '“Press any key” was answered a second time',
      likelihood: loose ? 2 : 0,
      because: loose
        ? 'The question comes at every restart while the medium is in, and is answered once only.'
        : 'The installer on the disk does not ask.',
      check: { what: 'Restart, and touch no key: does the installed system go on?', minutes: 3 },
      remedy: {
        title: 'Restart without touching a key',
        stops: [look('Restart, hands off the keyboard', 'The installed system goes on where it stopped.', 3)],
      },
    },
    {
      id: 'set-up-rolled-back',
      title: 'Set-up stopped on an error and began anew',
      likelihood: 1,
      because: 'Then its last page had a number and a sentence before the restart.',
      check: { what: 'Did its last page show an error?', minutes: 1 },
      remedy:
        'Write the number and the sentence into the note, and end this detour. Where the disk is full or does not read, plan again with another disk on Decide; every data set has its copy.',
    },
  ];
};
