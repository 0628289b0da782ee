import { riskOf } from '../../backup/scope/scope';
import { printCount } from '../../quantity/count';
import type { StepMaker } from '../input';
import { diskMark } from '../../survey/disk';
import { diskToWrite } from '../diskToWrite';
import { diskIdOf } from '../machineOf';
import { erased } from './cross';
import { restoreSources } from './restoreSources';

export const pairDevice: StepMaker = ({ preparation: { replacement } }) => [
  {
    words: () => ({
      title: replacement
        ? `Set up ${replacement.maker} ${replacement.model}, ${replacement.serial}`
        : 'Name the new device and set it up',
      why: 'The pair of old and new is in the record.',
      success: 'The owner’s account signs in; the serial is noted on Prepare.',
    }),
    operators: () => [{ op: 'note', note: 'new-device' }],
  },
];

export const moveData: StepMaker = ({ dataSets, destinations, route, facts, timedCopies = [] }) => {
  const atRisk = dataSets.filter((dataSet) => riskOf(dataSet, route.writesOver) === 'at-risk');
  const sources = restoreSources(atRisk, destinations, facts, timedCopies);
  return sources.map(({ from, sets, time }) => ({
    words: () => ({
      title: `Restore ${printCount(sets.length, 'data set')} onto the new device from ${from.name}`,
      why: 'Every file is there and equal by checksum before the old disk is touched.',
      success: 'Counts and checksums agree, and that is stated on Prepare.',
    }),
    ...(sources.length > 1 ? { id: `move-data:${from.id}` } : {}),
    extraWaiting: time.minutes,
    operators: () => [{ op: 'move-data', destination: from.id, sets: sets.map(({ id }) => id) }],
    effects: [{ kind: 'restored', dataSetIds: sets.map(({ id }) => id) }],
    troubles: ['checksum-differs', 'backup-drive-fails'],
  }));
};

export const disposal: StepMaker = () => [
  {
    words: () => ({
      title: 'Dispose of the old device by local rules',
      why: 'Batteries, screens and boards do not go into the bin.',
      success: 'Who took it, and how, is noted on Prepare.',
      caution: 'A swollen battery: do not open, do not press; qualified people take it.',
    }),
    operators: () => [{ op: 'note', note: 'disposed' }],
    troubles: ['battery-swollen'],
  },
];
export const wipeOldDisk: StepMaker = (input) => {
  const disk = diskToWrite(input);
  return [
    {
      words: () => ({
        title: `Wipe the old disk${disk ? ` ${diskMark(disk)}` : ''}`,
        why: 'Personal data must not leave with the device.',
        success: 'The wipe has run to its end, and its method is noted on Prepare.',
        caution:
          'Not before the owner has worked on the new device and misses nothing. Serial number and size again.',
      }),
      operators: () => [{ op: 'wipe', disk: diskIdOf(input) }],
      destructive: true,
      // Where the data went is stated at the gate; this takes away the original.
      effects: erased(input),
      troubles: ['power-lost'],
    },
  ];
};
