import { printApart, printBytes } from '../../quantity/bytes';
import { diskBytes, diskMark } from '../../survey/disk';
import { ownDisk } from '../../survey/emptyDevice';
import { valueOf } from '../../survey/facts';
import { fixable, meets, type RequirementRule } from '../judgement';
import { unknownFact } from '../unknown';

export const systemDiskSize: RequirementRule<'system-disk'> = {
  kind: 'system-disk',
  reads: ['disks'],
  judge: ({ minimumBytes }, { facts }) => {
    const needs = printBytes(minimumBytes, 'decimal');
    const disks = valueOf(facts, 'disks');
    if (disks === undefined) return unknownFact('disks', `a disk of ${needs} is needed`);
    const disk = ownDisk(facts);
    if (!disk)
      return {
        verdict: 'unknown',
        sentence: `Which disk carries the system cannot be told; a disk of ${needs} is needed.`,
        howToFind: 'Mark the system partition among the disks, by its size and label.',
      };
    const has = diskBytes(disk);
    const sentence = `Disk ${diskMark(disk)} has ${printApart(has, [minimumBytes], 'decimal')}; ${printApart(minimumBytes, [has], 'decimal')} are needed.`;
    if (has >= minimumBytes) return meets(sentence);
    return fixable(sentence, {
      id: `disk-${minimumBytes}`,
      action: `Fit a solid-state disk of at least ${needs}`,
      handsOnMinutes: 30,
      cost: 45,
      part: { kind: 'solid-state disk', sizeBytes: minimumBytes },
    });
  },
  fix: ({ minimumBytes }, { facts }) => {
    const disks = valueOf(facts, 'disks') ?? [];
    const disk = ownDisk(facts);
    return {
      disks: disks.map((one) =>
        one === disk
          ? { ...one, rotational: false, sectorCount: Math.ceil(minimumBytes / one.sectorBytes) }
          : one,
      ),
    };
  },
};
