import { valueOf } from '../../survey/facts';
import type { CausesOf, TroubleContext } from '../cause';
import { act, isDesktop, look, modesText, writtenAgain } from '../stops';

/** Signs of the screen, and restarts that come by themselves. */

/** Names of the graphics chips where the survey has them. */
const chipsOf = ({ input }: TroubleContext) => valueOf(input.facts, 'graphicsChips')?.map(({ name }) => name);

const safeGraphics = (context: TroubleContext) => ({
  title: 'Start with safe graphics, here and once more at the first start',
  stops: [
    act(
      'Restart, and edit the start line of the installer’s menu: safe graphics',
      'The installer draws with what every graphics chip has; nothing is written by it.',
      'The first page is shown without stripes.',
      5,
      { undo: 'Restart without the change: it holds for one start only.' },
    ),
    ...(context.machine.systems.some(({ id }) => id === 'target')
      ? []
      : [
          act(
            'Write “safe graphics again at the first start” on the bench note',
            'The installed system starts with its usual graphics once, until its driver is there.',
            'The note is beside the keyboard.',
            1,
          ),
        ]),
  ],
});

/** @example 'This device has two: A and B. ' */
function severalChips(context: TroubleContext): string {
  const chips = chipsOf(context) ?? [];
  return chips.length < 2 ? '' : `This device has ${chips.length}: ${chips.join(' and ')}. `;
}

export const blackScreen: CausesOf = (context) => {
  const desktop = isDesktop(context);
  return [
    {
      id: 'graphics-driver',
      title: 'The graphics chip is driven in a way that it does not take',
      likelihood: 3,
      because: `${severalChips(context)}Black or torn from a certain page on, while keys still answer.`,
      check: { what: 'Press the key for capitals: does its light change?', minutes: 1 },
      remedy: safeGraphics(context),
    },
    {
      id: 'other-output',
      title: 'The picture goes to another output',
      likelihood: desktop ? 2 : 1,
      because: desktop
        ? 'A desktop has outputs on its board and on a card; only one of them shows the start.'
        : 'A laptop with a screen or a dock plugged in may show the start there.',
      check: {
        what: desktop ? 'Plug the screen into the other output.' : 'Unplug screens and docks.',
        minutes: 1,
      },
      remedy: {
        title: 'Use the output that shows the start',
        stops: [
          act(
            desktop
              ? 'Plug the screen into the other output, and restart'
              : 'Unplug screens and docks, and restart',
            'The firmware chooses the output when it starts.',
            'The maker’s logo is shown.',
            2,
          ),
        ],
      },
    },
    {
      id: 'still-working',
      title: 'It is at work, and shows nothing meanwhile',
      likelihood: 2,
      because:
        'Between two restarts the screen may stay black for some minutes while the disk’s light blinks.',
      check: { what: 'Does the disk’s light blink? Wait for ten minutes.', minutes: 10 },
      remedy: {
        title: 'Wait',
        stops: [
          act(
            'Wait, and do not switch off',
            'An interrupted start begins anew, or leaves the disk half written.',
            'The next page is shown.',
            1,
            {
              waiting: 15,
              caution: 'Do not switch off while the disk’s light blinks.',
            },
          ),
        ],
      },
    },
  ];
};

export const restartsBeforeInstaller: CausesOf = (context) => {
  const { machine, input } = context;
  const memory = valueOf(input.facts, 'memoryBytes');
  return [
    {
      id: 'graphics-before-installer',
      title: 'The installer’s kernel stops at the graphics chip',
      likelihood: chipsOf(context)?.length === 1 ? 2 : 3,
      because:
        chipsOf(context)?.length === 1
          ? `It has one graphics chip, ${chipsOf(context)?.join('') ?? ''}: that is rarer than with two, and happens.`
          : `${severalChips(context)}A device with two graphics chips often restarts there, before anything is shown.`,
      check: { what: 'Is the menu of the medium shown first, and does the restart follow it?', minutes: 2 },
      remedy: safeGraphics(context),
    },
    {
      id: 'medium-breaks-off',
      title: 'The medium breaks off while it is read',
      likelihood: 2,
      because: 'The restart comes each time at another place.',
      check: { what: 'Start three times: is it the same place each time?', minutes: 6 },
      really: (planned) => ({ ...planned, installer: { ...planned.installer, written: false } }),
      remedy: writtenAgain(context, 'Write the medium again, on another one'),
    },
    {
      id: 'memory-fault',
      title: 'A memory module is at fault',
      likelihood: 1,
      because:
        memory === undefined
          ? 'How much memory it has is not known; a fault there shows as restarts at any place.'
          : 'A fault there shows as restarts at any place, also in the present system.',
      check: { what: 'Run the firmware’s own memory test.', minutes: 12 },
      remedy:
        'Do not install on this device: end the detour with that note, have the maker or a qualified person change the module, and go on then.',
    },
    {
      id: 'wrong-entry',
      title: 'The medium was started by its other entry',
      likelihood: machine.firmware.starts.length > 1 ? 2 : 0,
      because:
        machine.firmware.starts.length > 1
          ? 'The boot menu lists the medium twice, once for each mode.'
          : `The firmware starts in ${modesText(machine.firmware.starts)} mode only: there is one entry.`,
      check: {
        what: `Open the boot menu, key ${input.keys.bootMenu}: how many entries has the medium?`,
        minutes: 2,
      },
      remedy: {
        title: 'Take the entry that the step names',
        stops: [
          look('Restart, and take the entry that the step names', 'The installer’s first page is shown.', 3),
        ],
      },
    },
  ];
};
