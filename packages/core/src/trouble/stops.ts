import type { Position } from '../machine/operator';
import { diskOf, systemOf, type Machine, type Mode } from '../machine/state';
import { valueOf } from '../survey/facts';
import { startable } from '../machine/operators/needs';
import type { Remedy, StopDraft, TroubleContext } from './cause';

/** Stops that several remedies have. */

const modeNames = { uefi: 'UEFI', legacy: 'legacy' } as const;

export const modesText = (modes: readonly Mode[]) => modes.map((mode) => modeNames[mode]).join(' and ');

/** What the installer is on, as people call it. */
export function mediumName({ machine }: Pick<TroubleContext, 'machine'>): string {
  return { stick: 'stick', disc: 'disc', partition: 'installer partition', image: 'opened image' }[
    machine.installer.kind
  ];
}

/** Whether the installer is on something that is plugged in. */
export const isLoose = ({ installer }: Machine) => installer.kind === 'stick' || installer.kind === 'disc';

/** A switch of the firmware's set-up, turned and saved. */
export function turn(
  { input: { keys } }: TroubleContext,
  title: string,
  to: Position,
  undo?: string,
): StopDraft {
  return {
    title: `${title}: set-up key ${keys.setup}`,
    why: `Set-up key ${keys.setup}, ${keys.setupSource}. Note the position before it is changed.`,
    success: 'After saving, the set-up page shows the new position.',
    minutes: 4,
    operators: [
      { op: 'start', what: 'firmware' },
      { op: 'set-switch', to },
    ],
    ...(undo === undefined ? {} : { undo }),
  };
}

/** The installer medium is written anew, on the bench. */
function writeAgain({ input: { release }, machine }: TroubleContext): StopDraft {
  const { kind } = machine.installer;
  const modes = machine.installer.modes.length > 0 ? machine.installer.modes : machine.firmware.starts;
  return {
    title: `Write the ${mediumName({ machine })} again, for ${modesText(modes)} mode, and compare it`,
    why: `From the same image${release ? `, whose SHA-256 begins with ${release.imageSha256.slice(0, 8)}` : ''}.`,
    success: 'The comparison after writing finds no difference.',
    minutes: 4,
    waiting: release ? Math.max(1, Math.round(release.imageBytes / 20_000_000 / 60)) : 5,
    operators: [{ op: 'write-installer', kind, modes }],
  };
}

/**
 * The medium written anew and what is done afterwards. What lies on the device is written by the system that runs
 * there: where that does not start as the firmware is set, nothing here can do it.
 */
export function writtenAgain(
  context: TroubleContext,
  title: string,
  ...then: readonly StopDraft[]
): Remedy | string {
  const { machine, input } = context;
  return isLoose(machine) || startable(machine, 'present').length === 0
    ? { title, stops: [writeAgain(context), ...then] }
    : `The ${mediumName(context)} is written by the present system, which does not start as the firmware is set now: end the detour, take the switches back in the firmware (set-up key ${input.keys.setup}), or choose another installer medium on Decide.`;
}

/** Nothing is changed: somebody looks. */
export function look(title: string, success: string, minutes = 2): StopDraft {
  return {
    title,
    why: 'To see that it is over before the runbook goes on.',
    success,
    minutes,
    operators: [],
  };
}

/** Something that is done, and changes nothing that the plan depends on. */
export function act(
  title: string,
  why: string,
  success: string,
  minutes: number,
  more: Partial<Pick<StopDraft, 'waiting' | 'caution' | 'undo' | 'operators'>> = {},
): StopDraft {
  return { title, why, success, minutes, operators: [], ...more };
}

/** The medium of the install is plugged in once more, where it is loose and was taken out. */
export function mediumIn({ machine }: TroubleContext): readonly StopDraft[] {
  const { kind, plugged } = machine.installer;
  if (plugged || (kind !== 'stick' && kind !== 'disc')) return [];
  return [
    act(
      `Plug the ${kind} of the install in again`,
      'It can start the device when the disk does not.',
      'The firmware’s list shows it.',
      1,
      { operators: [{ op: 'put-in' }] },
    ),
  ];
}

/** A disk is identified, and the others are told apart from it, before it is written. */
export function tellApart({ machine }: TroubleContext, written: string): readonly StopDraft[] {
  const disk = diskOf(machine, written);
  const others = machine.disks.filter((other) => other.id !== written && other.plugged && !other.toldApart);
  const identify = act(
    `Identify disk ${disk?.called ?? written} by serial number and size`,
    'It is written in this detour; never by its number in a list.',
    'Serial number and size agree with the survey.',
    2,
    { operators: [{ op: 'identify', disk: written }] },
  );
  const own = disk && !disk.identified ? [identify] : [];
  if (others.length === 0) return own;
  return [
    ...own,
    act(
      `Label the other disk${others.length === 1 ? '' : 's'} do not touch: ${others.map(({ called }) => called).join(', ')}`,
      'The next stops write to one disk only.',
      'A note with serial number and size of every disk is beside the keyboard.',
      2,
      { operators: others.map(({ id }) => ({ op: 'label', disk: id })) },
    ),
  ];
}

/** The disk of the present system is plugged in again, where it was unplugged for the work. */
export function presentDiskIn({ machine }: TroubleContext): readonly StopDraft[] {
  const present = systemOf(machine, 'present');
  const disk = present && diskOf(machine, present.disk);
  if (!disk || disk.plugged) return [];
  return [
    act(
      `Switch off, mains out, and plug disk ${disk.called} in again`,
      'The present system is on it.',
      'The firmware’s list shows it by serial number and size.',
      5,
      {
        caution:
          'Mains out, static strap on. If the maker’s manual does not show how, a qualified person does it.',
        operators: [{ op: 'plug', disk: disk.id }],
      },
    ),
  ];
}

/** Where the device was before the detour: the installer or the present system is started again. */
export function backToWork(before: Machine, after: Machine): readonly StopDraft[] {
  const { running } = before;
  if (running.what === 'installer' && !running.inside) {
    if (after.running.what === 'installer' && after.running.mode === running.mode) return [];
    return [
      act(
        'Start the installer again, as far as the page where the sign was seen',
        'Its earlier pages are answered as before: the answer sheet has them.',
        'The installer shows the page of the step.',
        4,
        {
          waiting: 2,
          operators: [{ op: 'start', what: 'installer', ...(before.installer.shim ? { shim: true } : {}) }],
        },
      ),
    ];
  }
  if (running.what === 'installer') {
    if (after.running.what === 'installer') return [];
    return [
      act(
        'Start the installer again from inside the running system',
        'It begins anew; nothing was written yet.',
        'The installer shows the page of the step.',
        4,
        { operators: [{ op: 'start', what: 'installer-inside' }] },
      ),
    ];
  }
  if (running.what === 'firmware' && after.running.what !== 'firmware')
    return [
      act('Open the firmware’s set-up again', 'The step is done there.', 'The set-up page is shown.', 2, {
        operators: [{ op: 'start', what: 'firmware' }],
      }),
    ];
  return [];
}

/** The chassis is one that has no battery. */
export const isDesktop = ({ input: { facts } }: TroubleContext) => valueOf(facts, 'chassis') === 'desktop';
