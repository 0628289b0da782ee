import { sourceMedium } from '../../backup/copies/copyTime';
import { forgottenThings } from '../../backup/scope/forgotten';
import { learntCopyTime } from '../../backup/copies/measuredCopy';
import { printBothUnits } from '../../quantity/bytes';
import { releaseTitle } from '../../catalogue/find';
import { untilWords } from '../fixes';
import { printCount } from '../../quantity/count';
import { systemDisk, type Disk } from '../../survey/disk';
import { isEmptyDevice, valueOf } from '../../survey/facts';
import { isolationIds } from '../isolation';
import type { StepDraft, StepMaker } from '../input';

/** Files of other accounts are among the easiest to forget. */
function otherAccounts(accounts: readonly string[] | undefined): string {
  return accounts === undefined || accounts.length < 2
    ? ''
    : ` ${accounts.length} accounts are on the device: ${accounts.join(', ')}.`;
}

export const forgotten: StepMaker = ({ facts }) =>
  isEmptyDevice(facts)
    ? []
    : [
        {
          words: () => ({
            title: 'Go through what is often forgotten with the owner',
            why: `It is missed weeks later: ${forgottenThings
              .slice(0, 5)
              .map(({ name }) => name.toLowerCase())
              .join(
                ', ',
              )} and ${forgottenThings.length - 5} more, listed on Save.${otherAccounts(valueOf(facts, 'accounts'))}`,
            success: 'Each of them is a data set, or the owner has said that it is not needed.',
            caution: 'Saved passwords only with the owner’s consent and with the owner present.',
          }),
          operators: () => [],
        },
      ];

function usedBytes(disk: Disk | undefined): number {
  return (disk?.partitions ?? []).reduce((sum, partition) => sum + (partition.usedBytes ?? 0), 0);
}

/** For each destination: copy, then compare checksums. */
export const copyAndVerify: StepMaker = ({ dataSets, destinations, facts, houseRules, timedCopies = [] }) =>
  destinations.flatMap((destination): StepDraft[] => {
    const taken = dataSets.filter(({ id }) => destination.takes.includes(id));
    if (taken.length === 0) return [];
    const asImage = houseRules.savedAs === 'image';
    const fileBytes = taken.reduce((sum, dataSet) => sum + dataSet.sizeBytes, 0);
    const fileCount = taken.reduce((sum, dataSet) => sum + dataSet.fileCount, 0);
    const disk = systemDisk(valueOf(facts, 'disks'));
    const source = sourceMedium(disk);
    // An image is one file; it holds at least what the data sets do.
    const sizeBytes = asImage ? Math.max(fileBytes, usedBytes(disk)) : fileBytes;
    const time = learntCopyTime(
      { sizeBytes, fileCount: asImage ? 1 : fileCount },
      source,
      destination,
      timedCopies,
    );
    const amount = () =>
      `${printCount(taken.length, 'data set')}, ${printCount(fileCount, 'file')}, ${printBothUnits(sizeBytes, houseRules.spokenGigabyte)}`;
    return [
      {
        words: () => ({
          title: asImage ? `Image the disk to ${destination.name}` : `Copy to ${destination.name}`,
          why: `${amount()}. The ${time.slowest} sets the pace.`,
          success: 'The copy ends without a list of files that could not be read.',
          caution: 'A drive that clicks, vanishes or gets hot: stop, and take another.',
        }),
        id: `copy:${destination.id}`,
        operators: () => [{ op: 'copy', destination: destination.id, sets: taken.map(({ id }) => id) }],
        extraWaiting: time.minutes,
        troubles: ['backup-drive-fails'],
      },
      {
        words: () => ({
          title: `Verify the ${asImage ? 'image' : 'copy'} on ${destination.name} by checksum`,
          why: `A backup counts when its checksums have been compared. ${amount()}.`,
          success: 'Every checksum is the same on both sides.',
        }),
        id: `verify:${destination.id}`,
        kind: 'verify',
        operators: () => [{ op: 'verify', destination: destination.id, sets: taken.map(({ id }) => id) }],
        extraWaiting: time.minutes,
        effects: [
          { kind: 'verified-copy', destinationId: destination.id, dataSetIds: taken.map(({ id }) => id) },
        ],
        troubles: ['checksum-differs', 'backup-drive-fails'],
      },
    ];
  });

/** Made together with the copy. */
export const verify: StepMaker = () => [];

/** Beside the files, where the house keeps both. */
export const fullImage: StepMaker = ({ houseRules, destinations, facts }) => {
  const [first] = destinations;
  if (houseRules.savedAs !== 'both' || !first || isEmptyDevice(facts)) return [];
  const disk = systemDisk(valueOf(facts, 'disks'));
  return [
    {
      words: () => ({
        title: `Make a full image of the disk on ${first.name}`,
        why: `The house rules keep image and files. ${printBothUnits(usedBytes(disk), houseRules.spokenGigabyte)} are in use.`,
        success: 'The image ends without unread sectors, and opens.',
        caution: 'A disk that fails is read once: the most valuable files first, the image after them.',
      }),
      operators: () => [{ op: 'image-disk' }],
      troubles: ['backup-drive-fails'],
    },
  ];
};

export const isolate: StepMaker = () => [
  {
    words: () => ({
      title: 'Take the device off every network',
      why: `A system without fixes is safe only where nothing reaches it. ${isolationIds.length} things on the list of Prepare.`,
      success: 'Every line of the isolation list is ticked.',
      caution: 'Files reach it on a checked stick only.',
    }),
    operators: () => [{ op: 'isolate', system: 'present', fromMenu: false }],
  },
];

export const lookAgain: StepMaker = ({ present }) => [
  {
    words: () => ({
      title: `Note the day on which the security updates of ${present ? releaseTitle(present) : 'the present system'} end${present ? untilWords(present) : ''}`,
      why: 'Until then nothing has to be done; afterwards the system would be on the network without security updates.',
      success: 'The day is in the move, and is shown on Today.',
    }),
    operators: () => [{ op: 'note', note: 'look-again' }],
  },
];

export const endDate: StepMaker = () => [
  {
    words: () => ({
      title: 'Sign for the hold and its last day',
      why: 'A hold without a date is forgotten; a lead answers for it.',
      success: 'The date is in the move and on the label.',
    }),
    operators: () => [{ op: 'note', note: 'hold-until' }],
    requiresLead: true,
  },
];
