import { installerPartitionBytes } from '../../route/installerMedia';
import { releaseTitle } from '../../catalogue/find';
import { printBothUnits } from '../../quantity/bytes';
import { installerModes, presentDiskId } from '../machineOf';
import { valueOf } from '../../survey/facts';
import type { StepInput, StepMaker } from '../input';
import { entryToTake } from './entryToTake';

const imageChecked = (sha256: string) => `The image’s SHA-256 begins with ${sha256.slice(0, 8)}`;

export const burnDisc: StepMaker = (input) => {
  const { release } = input;
  return release
    ? [
        {
          words: () => ({
            title: `Burn ${releaseTitle(release)} to a disc`,
            why: `The image has ${printBothUnits(release.imageBytes)}${release.imageBytes > 4_700_000_000 ? ': a dual-layer disc' : ''}.`,
            success: `${imageChecked(release.imageSha256)}, and the disc compares equal.`,
          }),
          operators: () => [{ op: 'write-installer', kind: 'disc', modes: installerModes(input) }],
          troubles: ['checksum-differs'],
        },
      ]
    : [];
};

export const startFromDisc: StepMaker = (input) => [
  {
    words: () => ({
      title: `Start from the disc: ${input.keys.bootMenu}`,
      why: `Boot-menu key ${input.keys.bootMenu}, ${input.keys.bootMenuSource}. ${entryToTake(input)}${valueOf(input.facts, 'opticalDrive') === 'external' ? ' The drive on USB is plugged in, with the disc in it, before the device is switched on.' : ''} “Press any key” once, and never again: at later restarts the disk goes on by itself.`,
      success: 'The installer’s first page, in the language that was planned.',
    }),
    operators: () => [{ op: 'start', what: 'installer' }],
    troubles: [
      'stick-not-offered',
      'disc-not-read',
      'restarts-before-installer',
      'black-screen',
      'no-disk-shown',
    ],
  },
];

export const discOut: StepMaker = () => [
  {
    words: () => ({
      title: 'Take the disc out at the first restart',
      why: 'Else set-up starts again from the beginning.',
      success: 'The device goes on from its own disk.',
    }),
    operators: () => [{ op: 'take-out' }],
    troubles: ['set-up-loops', 'loader-prompt', 'black-screen'],
  },
];

export const makeInstallerPartition: StepMaker = (input) => {
  const { release } = input;
  return release
    ? [
        {
          words: () => ({
            title: 'Make a FAT32 partition for the installer and copy the image’s files onto it',
            why: `${printBothUnits(installerPartitionBytes(release))}, at the end of the disk.`,
            success: `${imageChecked(release.imageSha256)}; the loader’s file is in its place.`,
            caution: 'A file over 4 GiB does not fit on FAT32: split it as the release’s recipe says.',
          }),
          operators: () => [
            { op: 'make-installer-partition', disk: presentDiskId(input) },
            { op: 'write-installer', kind: 'partition', modes: installerModes(input) },
          ],
          troubles: ['power-lost'],
        },
      ]
    : [];
};

/** By the firmware's own page, or where it has none, by an entry that the running system adds. */
function startOfFile({ facts, keys }: StepInput): { readonly title: string; readonly how: string } {
  const byFirmware = `Start the loader with the firmware’s “boot from file”: set-up key ${keys.setup}`;
  const byEntry =
    'from the running system add a start entry for the loader’s file on that partition, choose it for the next start only, and restart';
  switch (valueOf(facts, 'bootFromFile')) {
    case 'yes':
      return { title: byFirmware, how: '' };
    case 'no':
      return {
        title: 'Start the loader by an entry that the running system adds',
        how: ` The firmware has no “boot from file”: ${byEntry}.`,
      };
    case undefined:
      return { title: byFirmware, how: ` Where the firmware has no such line: ${byEntry}.` };
  }
}

export const startFromPartition: StepMaker = (input) => [
  {
    words: () => ({
      title: startOfFile(input).title,
      why: `The installer is on the disk; no stick is needed.${startOfFile(input).how}`,
      success: 'The installer’s first page, in the language that was planned.',
    }),
    operators: () => [{ op: 'start', what: 'installer' }],
    troubles: ['stick-not-offered', 'restarts-before-installer', 'black-screen'],
  },
];

export const installerPartitionAway: StepMaker = () => [
  {
    words: () => ({
      title: 'Delete the installer’s partition and give its room back',
      why: 'It is not needed any more, and its entry in the boot menu confuses.',
      success: 'The disk page shows the room with the system partition again.',
      caution: 'By number, label and size: it is the small FAT32 one.',
    }),
    operators: () => [{ op: 'remove-installer' }],
  },
];

export const openImage: StepMaker = ({ release }) =>
  release
    ? [
        {
          words: () => ({
            title: `Open the image of ${releaseTitle(release)} in the running system`,
            why: 'No stick is needed: the installer starts as an application.',
            success: `${imageChecked(release.imageSha256)}, and its files are shown.`,
          }),
          operators: () => [{ op: 'write-installer', kind: 'image', modes: [] }],
        },
      ]
    : [];

export const startInstaller: StepMaker = () => [
  {
    words: () => ({
      title: 'Start the installer from the opened image',
      why: 'From inside the running system.',
      success: 'The installer’s first page, in the language that was planned.',
    }),
    operators: () => [{ op: 'start', what: 'installer-inside' }],
  },
];
