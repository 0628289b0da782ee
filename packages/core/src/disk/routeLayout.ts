import type { Release } from '../catalogue/catalogue';
import type { Disk } from '../survey/disk';
import { tableFromSurvey } from './fromSurvey';
import { planLayout } from './layout/planLayout';
import { segmentsOfPlan, type DrawnPlan } from './planSegments';

/**
 * How a surveyed disk looks before and after an install: for `whole-disk` everything is laid out anew, for
 * `system-partition` only the system's place is, and all other partitions stay to the sector.
 * @returns both bars, or undefined when it cannot be told: no system partition, an unknown scheme
 */
export function routeLayout(
  disk: Disk,
  writes: 'whole-disk' | 'system-partition',
  release: Pick<Release, 'installerPartitions' | 'firmwareModes'>,
): DrawnPlan | undefined {
  const installer = release.installerPartitions;
  const plan = planLayout(
    tableFromSurvey(disk),
    writes === 'whole-disk'
      ? { kind: 'wipe', scheme: release.firmwareModes.includes('uefi') ? 'gpt' : 'mbr', installer }
      : { kind: 'standard', installer },
  );
  return plan.ok ? segmentsOfPlan(plan.value) : undefined;
}
