import { copyTime, sourceMedium, type CopyTime } from '../../backup/copies/copyTime';
import { learntCopyTime, type MeasuredCopy } from '../../backup/copies/measuredCopy';
import type { DataSet, Destination } from '../../backup/scope/dataSet';
import { systemDisk } from '../../survey/disk';
import { valueOf } from '../../survey/facts';
import type { RunbookInput } from '../input';

type Source = { readonly from: Destination; readonly sets: readonly DataSet[]; readonly time: CopyTime };

/**
 * From where each data set comes back: the drive that holds most of what is left, the fastest of those by its class
 * alone, so that a copy that was timed elsewhere changes no plan; several drives where no one holds all.
 */
export function restoreSources(
  sets: readonly DataSet[],
  destinations: readonly Destination[],
  facts: RunbookInput['facts'],
  timed: readonly MeasuredCopy[],
): readonly Source[] {
  const back = sourceMedium(systemDisk(valueOf(facts, 'disks')));
  const sources: Source[] = [];
  let left = sets;
  while (left.length > 0) {
    const held = destinations.map((from): Source => {
      const here = left.filter(({ id }) => from.takes.includes(id));
      return { from, sets: here, time: learntCopyTime(sumOf(here), back, from, timed) };
    });
    const byClass = ({ from, sets: here }: Source) => copyTime(sumOf(here), back, from).minutes.likely;
    const [best] = held
      .filter((one) => one.sets.length > 0)
      .sort((a, b) => b.sets.length - a.sets.length || byClass(a) - byClass(b));
    if (!best) break;
    sources.push(best);
    left = left.filter((set) => !best.sets.includes(set));
  }
  return sources;
}

export function sumOf(sets: readonly DataSet[]): { readonly sizeBytes: number; readonly fileCount: number } {
  return {
    sizeBytes: sets.reduce((sum, set) => sum + set.sizeBytes, 0),
    fileCount: sets.reduce((sum, set) => sum + set.fileCount, 0),
  };
}
