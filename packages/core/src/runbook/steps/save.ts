import { copyTime, sourceMedium } from '../../backup/copyTime';
import { forgottenThings } from '../../backup/forgotten';
import { printBothUnits } from '../../quantity/bytes';
import { printCount } from '../../quantity/count';
import { systemDisk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import type { StepDraft, StepMaker } from '../input';

export const forgotten: StepMaker = () => [
  {
    title: 'Go through the easily forgotten with the owner',
    why: `It is missed weeks later: ${forgottenThings
      .slice(0, 5)
      .map(({ name }) => name.toLowerCase())
      .join(', ')} and ${forgottenThings.length - 5} more, listed on Save.`,
    success: 'Each of them is a data set, or the owner has said that it is not needed.',
    caution: 'Saved passwords only with the owner’s consent and with the owner present.',
  },
];

/** For each destination: copy, then compare checksums. */
export const copyAndVerify: StepMaker = ({ dataSets, destinations, facts }) =>
  destinations.flatMap((destination): StepDraft[] => {
    const taken = dataSets.filter(({ id }) => destination.takes.includes(id));
    if (taken.length === 0) return [];
    const sizeBytes = taken.reduce((sum, dataSet) => sum + dataSet.sizeBytes, 0);
    const fileCount = taken.reduce((sum, dataSet) => sum + dataSet.fileCount, 0);
    const source = sourceMedium(systemDisk(valueOf(facts, 'disks')));
    const time = copyTime({ sizeBytes, fileCount }, source, destination);
    const amount = `${printCount(taken.length, 'data set')}, ${printCount(fileCount, 'file')}, ${printBothUnits(sizeBytes)}`;
    return [
      {
        id: `copy:${destination.id}`,
        title: `Copy to ${destination.name}`,
        why: `${amount}. The ${time.slowest} sets the pace.`,
        success: 'The copy ends without a list of files that could not be read.',
        caution: 'A drive that clicks, vanishes or gets hot: stop, and take another.',
        extraWaiting: time.minutes,
        troubles: ['backup-drive-fails'],
      },
      {
        id: `verify:${destination.id}`,
        kind: 'verify',
        title: `Verify the copy on ${destination.name} by checksum`,
        why: `A backup counts when its checksums have been compared. ${amount}.`,
        success: 'Every checksum is the same on both sides.',
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

export const isolate: StepMaker = () => [
  {
    title: 'Take the device off every network',
    why: 'A system without fixes is safe only where nothing reaches it.',
    success: 'Cable out, wireless off, a label on the lid that says so.',
    caution: 'Files reach it on a checked stick only.',
  },
];

export const endDate: StepMaker = () => [
  {
    title: 'Sign for the hold and its last day',
    why: 'A hold without a date is forgotten; a lead answers for it.',
    success: 'The date stands in the move and on the label.',
    requiresLead: true,
  },
];
