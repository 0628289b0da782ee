import { restartsSentence } from './restarts';
import { releaseTitle } from '../../catalogue/find';
import { mebibyteBytes, printBothUnits } from '../../quantity/bytes';
import { diskMark, systemDisk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import { diskToWrite } from '../diskToWrite';
import { presentFixes } from '../fixes';
import { installWait } from '../installWait';
import type { StepInput, StepMaker } from '../input';
import { newSystem, presentDiskId } from '../machineOf';
import { roomToMake } from '../roomToMake';

export const shrinkSystem: StepMaker = (input) => {
  const { houseRules, installerMedium, route } = input;
  const room = roomToMake(input);
  if (!room) return [];
  const { bytes, partition: giver } = room;
  const partition = systemDisk(valueOf(input.facts, 'disks'))?.partitions.find(
    ({ number }) => number === giver,
  );
  const named =
    partition === undefined || partition.role === 'system' ? 'the system partition' : calledBy(partition);
  const mebibytes = Math.ceil(bytes / mebibyteBytes);
  const forWhat = [
    ...(installerMedium === 'disk-partition' ? ['the installer’s partition'] : []),
    ...(route.id === 'beside-same-disk' ? ['the second system'] : []),
  ];
  return [
    {
      words: () => ({
        title: `Shrink ${named} by ${printBothUnits(bytes, houseRules.spokenGigabyte)}, from inside the running system`,
        why: `Room for ${forWhat.join(' and ')}. In the shrink dialog type ${mebibytes}: it asks for the amount to remove, in MiB.`,
        success: `One run of free space of that size is behind ${named}.`,
        caution: 'Verified copies first. Power lost in the middle can cost the partition.',
      }),
      operators: () => [{ op: 'shrink', disk: presentDiskId(input), partition: giver ?? unmarked }],
      troubles: ['cannot-shrink', 'power-lost'],
    },
  ];
};

/** No partition has this number: what nobody has marked is not shrunk. */
const unmarked = 0;

/** @example calledBy({ number: 4, label: 'DATA' }) // 'partition 4 (DATA)' */
function calledBy({ number, label }: { readonly number: number; readonly label?: string }): string {
  return `partition ${number}${label === undefined ? '' : ` (${label})`}`;
}

const efiWords = {
  share: 'share the EFI system partition that is there',
  own: 'make an EFI system partition of its own',
} as const;

/** Only where the new system starts in UEFI mode there is such a partition; a table with MBR has none. */
function efiSentence(input: StepInput): string {
  return newSystem(input).mode === 'legacy' ? '' : ` House rule: ${efiWords[input.houseRules.efiPartition]}.`;
}

export const installBeside: StepMaker = (input) => {
  const { release } = input;
  return release
    ? [
        {
          words: () => ({
            title: `Install ${releaseTitle(release)} into the free space`,
            why: `Only the free run is taken.${efiSentence(input)} ${restartsSentence(release.restarts)}.`,
            success: 'The installer names the free space and no partition that is there.',
            caution: 'Never “use the whole disk”: number, size and place of the free run must agree.',
          }),
          operators: () => [{ op: 'install', into: 'free-run', ...newSystem(input) }],
          extraWaiting: installWait(input, release),
          destructive: true,
          troubles: ['wrong-scheme', 'no-disk-shown', 'no-network', 'power-lost'],
        },
      ]
    : [];
};

export const fitSecondDisk: StepMaker = (input) => {
  const disk = diskToWrite(input);
  return [
    {
      words: () => ({
        title: disk
          ? `Look at the second disk ${diskMark(disk)}, and unplug the present one`
          : 'Fit the second disk, or swap the present one for a spare',
        why: 'A disk that is unplugged cannot be erased: the present system stays as it is.',
        success: 'The firmware’s list shows the one disk that is to be written.',
        caution:
          'Mains out, battery out where it can be, static strap on, as the maker’s manual shows; otherwise a qualified person opens the case.',
      }),
      operators: () => [{ op: 'unplug', disk: presentDiskId(input) }],
    },
  ];
};

export const bootMenu: StepMaker = (input) => [
  {
    words: () => ({
      title:
        input.route.id === 'beside-second-disk'
          ? 'Plug the first disk in again, and let the boot menu list both systems'
          : 'Let the boot menu list both systems, and set the default and its seconds',
      why: `The owner chooses at the start; without a choice the new system comes up. In the firmware’s list of entries the new system’s loader is first: set-up key ${input.keys.setup}. The present system’s first big update may put its own first again: look at the list once more after it.`,
      success: 'Both systems have been started once from the menu, and the owner knows where that list is.',
    }),
    operators: () => [
      ...(input.route.id === 'beside-second-disk'
        ? ([{ op: 'plug', disk: presentDiskId(input) }] as const)
        : []),
      { op: 'list-systems' },
    ],
    troubles: ['second-missing', 'first-missing'],
  },
];

export const isolateOldSystem: StepMaker = (input) => {
  const { present } = input;
  const fixes = presentFixes(input);
  if (fixes === 'no-end') return [];
  const named = present ? ` (${releaseTitle(present)})` : '';
  if (fixes !== 'over')
    return [
      {
        words: () => ({
          title: `Note that the old system${named} stays off the network after ${fixes.until}`,
          why: 'Until then it gets security updates. Afterwards it is there for what cannot be done otherwise.',
          success: 'A note on its desktop says the day; the owner knows the day, and it is shown on Today.',
        }),
        operators: () => [{ op: 'note', note: 'isolation-day' }],
      },
    ];
  return [
    {
      words: () => ({
        title: `Isolate the old system${named}: no network when it is started`,
        why: `${present ? 'It has no security updates any more' : 'Whether it gets security updates is not known'}: it is there for what cannot be done otherwise.`,
        success: 'Started once, it reaches no network; a note on its desktop says why.',
        caution: 'A system without fixes on a network endangers the others.',
      }),
      operators: () => [{ op: 'isolate', system: 'present', fromMenu: true }],
    },
  ];
};
