import { needsOf } from '../../machine/operatorRules';
import { systemOf, type Machine } from '../../machine/state';
import type { CausesOf } from '../cause';
import { act, look } from '../stops';

/** Signs of partitions and what is in them. */

export const cannotShrink: CausesOf = () => [
  {
    id: 'immovable-block',
    title: 'A file that cannot be moved is near the end of the partition',
    likelihood: 4,
    because: 'Page file, hibernation and restore points sit where they were made.',
    check: { what: 'What does the system’s own disk page offer as the most that can be given?', minutes: 2 },
    remedy: {
      title: 'Switch page file and hibernation off, shrink, and on again',
      stops: [
        act(
          'Switch page file, hibernation and restore points off, and restart',
          'They are made anew afterwards.',
          'The disk page offers more than before.',
          6,
          { waiting: 3, undo: 'Switch all three on again.' },
        ),
        act(
          'Write “page file and hibernation on again after shrinking” on the bench note',
          'The step that follows shrinks; without them the system is slow, and cannot sleep.',
          'The note is beside the keyboard.',
          1,
        ),
      ],
    },
  },
  {
    id: 'file-system-errors',
    title: 'The file system has errors, and is not shrunk before they are repaired',
    likelihood: 2,
    because: 'A system that was switched off hard leaves such marks.',
    check: { what: 'Run the file-system check in its mode that only looks.', minutes: 5 },
    remedy: {
      title: 'Check and repair the file system',
      stops: [
        act(
          'Run the file-system check with repair, at the next start',
          'Only after the copies are compared: a repair may drop damaged files.',
          'A second check finds nothing.',
          3,
          { waiting: 20, caution: 'On the charger, and not interrupted.' },
        ),
      ],
    },
  },
  {
    id: 'too-full',
    title: 'The partition is fuller than the survey says',
    likelihood: 1,
    because: 'Then files have come since the survey.',
    check: { what: 'Compare the used bytes with Disk of this move.', minutes: 1 },
    remedy:
      'Nothing shrinks a partition below what is in it. End the detour with that note, run the survey again, and give the system less room or take another disk on Decide.',
  },
];

export const volumeReadOnly: CausesOf = (context) => {
  const present = systemOf(context.machine, 'present');
  return [
    {
      id: 'only-asleep',
      title: 'The system that it belongs to was put to sleep, and not shut down',
      likelihood: present ? 4 : 0,
      because: present
        ? 'With fast start on, its partitions stay in use until it is shut down fully.'
        : 'No other system is left on the device.',
      check: { what: 'Is fast start on in the present system?', minutes: 3 },
      remedy: {
        title: 'Shut the present system down fully',
        stops: [
          act(
            'Start the present system, switch fast start off, and shut down fully',
            'Else whatever is written from the other system is lost at its next start.',
            'The volume opens for reading and writing.',
            6,
            canStartPresent(context.machine) ? { operators: [{ op: 'shut-down-fully' }] } : {},
          ),
        ],
      },
    },
    {
      id: 'volume-marked-dirty',
      title: 'Its file system has errors',
      likelihood: 2,
      because: 'A volume with errors is opened for reading only, so that nothing more is lost.',
      check: { what: 'Run the file-system check in its mode that only looks.', minutes: 5 },
      remedy: {
        title: 'Check it in the system that it belongs to',
        stops: [
          act(
            'Run the file-system check with repair, in the system that it belongs to',
            'A check by another system repairs less.',
            'The volume opens for reading and writing.',
            3,
            { waiting: 20 },
          ),
        ],
      },
    },
    {
      id: 'rights',
      title: 'Its files belong to another account',
      likelihood: 1,
      because: 'Accounts of two systems are not the same, even with the same name.',
      check: { what: 'Does an administrator see and write the files?', minutes: 1 },
      remedy: {
        title: 'Give the account the rights',
        stops: [
          look(
            'Give the owner’s account the rights on the folder, and try one file',
            'One file was changed and saved.',
            5,
          ),
        ],
      },
    },
  ];
};

const canStartPresent = (machine: Machine) => needsOf(machine, { op: 'shut-down-fully' }).length === 0;
