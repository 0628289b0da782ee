import { needsOf } from '../../machine/operatorRules';
import { systemOf, type Machine } from '../../machine/state';
import { releaseTitle } from '../../catalogue/find';
import type { CausesOf } from '../cause';
import { act, look, turn } from '../stops';

/** Signs of licences and of encryption. */

export const keyRefused: CausesOf = ({ input }) => {
  const { release } = input;
  const name = release ? releaseTitle(release) : 'the release';
  return [
    {
      id: 'other-edition',
      title: 'The key is for another edition',
      likelihood: 4,
      because: `A key of one edition is refused by any other; ${name} is what is being installed.`,
      check: { what: 'Compare the edition on the key’s paper with that of the installer.', minutes: 2 },
      remedy: {
        title: 'Go on without a key, and activate afterwards',
        stops: [
          look(
            'Choose “I have no key” on the page, and the edition that the licence is for',
            'The next page is shown; the edition is that of the licence.',
            3,
          ),
        ],
      },
    },
    {
      id: 'mistyped',
      title: 'It was mistyped',
      likelihood: 2,
      because: 'B and 8, O and 0 look alike on a label.',
      check: { what: 'Read it out to a second person.', minutes: 2 },
      remedy: {
        title: 'Enter the key once more',
        stops: [look('Type the key while a second person reads it out', 'The page takes it.', 3)],
      },
    },
    {
      id: 'licence-elsewhere',
      title: 'The licence is used on another device, or bound to the old board',
      likelihood: 1,
      because: `${name} takes a licence that is ${release?.activation.join(' or ') ?? 'unknown'}.`,
      check: { what: 'Does the owner’s account or paper name another device?', minutes: 5 },
      remedy:
        'No key is typed at random. End this detour with that note, and settle the licence with its seller; the system runs meanwhile, and is activated by its own step.',
    },
  ];
};

export const recoveryKeyAsked: CausesOf = (context) => {
  const { machine } = context;
  const present = systemOf(machine, 'present');
  const startable = needsOf(machine, { op: 'start', what: 'present' }).length === 0;
  const encrypted = startable && present !== undefined && present.encryption !== 'off';
  const chip = machine.firmware.chip;
  const typeKey = [
    act(
      'Compare the key’s number with that on the page, and type the recorded recovery key',
      'From where Prepare says that it is kept; not from memory.',
      'The present system comes up.',
      5,
      {
        caution: 'Without the right key nothing of this disk can be read. Do not try others.',
        ...(machine.notes.includes('recovery-key')
          ? {}
          : { operators: [{ op: 'note', note: 'recovery-key' }] as const }),
      },
    ),
    ...(encrypted
      ? [
          act(
            'Suspend the encryption before the next change',
            'Until the runbook resumes it.',
            'The encryption page says suspended.',
            3,
            { operators: [{ op: 'suspend-encryption' }] as const, undo: 'Resume the encryption.' },
          ),
        ]
      : []),
  ];
  return [
    {
      id: 'not-suspended',
      title: 'The encryption was not suspended before something changed',
      likelihood: encrypted ? (present.encryption === 'suspended' ? 3 : 4) : 1,
      because: encrypted
        ? 'The start is measured; any change of firmware or boot order makes the disk ask.'
        : startable
          ? 'As the plan knows it, the disk is not encrypted: the survey may be wrong.'
          : 'As the plan knows it, the present system does not start by now: another disk asks.',
      check: { what: 'What was changed since the last start without a question?', minutes: 1 },
      ...(encrypted
        ? {
            really: (planned: Machine) => ({
              ...planned,
              systems: planned.systems.map((system) =>
                system.id === 'present' ? { ...system, encryption: 'locked' as const } : system,
              ),
            }),
          }
        : {}),
      remedy: { title: 'Type the recorded key, then suspend the encryption', stops: typeKey },
    },
    {
      id: 'chip-switched',
      title: 'The security chip was switched off or cleared',
      likelihood: chip === 'none' || !encrypted ? 0 : 2,
      because:
        chip === 'none'
          ? 'This device has no security chip.'
          : encrypted
            ? 'The chip keeps what the disk is unlocked with.'
            : 'As the plan knows it, the disk is not encrypted.',
      check: { what: `Set-up key ${context.input.keys.setup}, page Security: is the chip on?`, minutes: 2 },
      remedy: {
        title: 'Switch the chip on again, without clearing it',
        stops: [
          ...typeKey,
          ...(chip === 'none' || chip === 'off'
            ? []
            : [
                turn(context, 'Switch the security chip on, and do not clear it', {
                  switch: 'chip',
                  on: true,
                }),
              ]),
          look('Restart: no key is asked for', 'The present system comes up by itself.', 3),
        ],
      },
    },
  ];
};

export const anotherDiskEncrypted: CausesOf = ({ machine }) => [
  {
    id: 'encrypts-by-itself',
    title: 'The new system encrypts every disk that it finds',
    likelihood: 3,
    because:
      machine.disks.length > 1
        ? 'Further disks are in this device.'
        : 'Also a disk that is plugged in later is taken for one of its own.',
    check: { what: 'Look at every fixed disk by name on the encryption page.', minutes: 2 },
    remedy: {
      title: 'Record its key, then decrypt it',
      stops: [
        act(
          'Put the disk’s recovery key into the vault of this move, before anything else',
          'Until it is decrypted the key is the only other way in.',
          'The key has been seen again, and its number compared.',
          5,
        ),
        act(
          'Decrypt that disk, and switch automatic encryption off',
          'As it was decided for this device.',
          'The encryption page says off for that disk.',
          3,
          { waiting: 60, caution: 'On the charger; it goes on after a restart.' },
        ),
      ],
    },
  },
  {
    id: 'was-encrypted-before',
    title: 'It was encrypted before',
    likelihood: machine.unlockedByPresent.length > 0 ? 4 : 1,
    because:
      machine.unlockedByPresent.length > 0
        ? `The survey says so of ${machine.unlockedByPresent.join(', ')}.`
        : 'The survey knows of no other encrypted disk.',
    check: { what: 'Is it among the disks whose keys were recorded on Prepare?', minutes: 1 },
    remedy: {
      title: 'Unlock it with its own key',
      stops: [
        look(
          'Unlock the disk with its recorded key, and let the new system unlock it from now on',
          'One file of it opens.',
          4,
        ),
      ],
    },
  },
];
