import { segmentsOf, type Fate, type Segment } from '../disk/segment';
import type { PlanDisk } from './planDisks';

/**
 * A disk of a plan after so many steps, as segments with what became of each since the survey; the counts add up to
 * the disk's.
 * @param cut 0 as surveyed, n after the n-th step
 */
export function planDiskSegments({ bands, sectorCount }: PlanDisk, cut: number): readonly Segment[] {
  const partitions = bands.flatMap(({ label, fate, cuts, numberBefore }, index) => {
    const place = cuts[cut];
    const was = cuts[0];
    const became: Fate =
      fate === 'new' ? 'new' : was && place && was.startLba !== place.startLba ? 'moved' : 'kept';
    return place ? [{ ...place, label, number: numberBefore ?? bands.length + index, became }] : [];
  });
  return segmentsOf({ sectorCount, partitions }, ({ became }) => became).map((segment) => {
    // What is yet to be made has no number in the present table.
    const { partitionNumber: _number, ...unnumbered } = segment;
    return segment.fate === 'new' ? unnumbered : segment;
  });
}
