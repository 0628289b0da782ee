import { fail, type Outcome } from '../outcome/outcome';
import { planTableConversion } from '../disk/convert/planTableConversion';
import { describedConversion } from '../disk/convert/conversionOperations';
import { tableFromSurvey } from '../disk/fromSurvey';
import { whatBefore } from '../disk/leftState';
import { guardDisk } from '../disk/guards';
import type { PlannedOperation } from '../disk/layout/operation';
import { planLayout } from '../disk/layout/planLayout';
import type { DiskMarks } from '../disk/marks';
import type { PartitionTable } from '../disk/table/partitionTable';
import type { RouteDefinition } from '../route/definition';
import type { Disk } from '../survey/disk';
import { valueOf, type Facts } from '../survey/facts';
import type { DiskPlan, DiskWork } from './diskPlan';

/** Disk work as it would be done: the tables before and after, and every operation in its order. */
export type DiskWorkPlan = {
  readonly disk: Disk;
  readonly work: DiskWork;
  readonly before: PartitionTable;
  readonly after: PartitionTable;
  readonly operations: readonly PlannedOperation[];
  readonly minutes: number;
  /** What is done inside the systems before the first operation. */
  readonly first: readonly string[];
  /** The free run that was asked for. */
  readonly room?: { readonly startLba: number; readonly sectorCount: number };
};

/** Bytes a second that a disk reads and writes at once, by what it is. */
export function diskBytesPerSecond({ rotational, bus }: Disk): number {
  if (bus === 'nvme') return 600_000_000;
  return rotational === false ? 250_000_000 : 60_000_000;
}

/** GUIDs do not matter where only places and times are asked for. */
const noRandom = (byteCount: number) => new Uint8Array(byteCount);

/** Plans disk work on a surveyed disk; refused with every obstacle when it cannot be done. */
function planDiskWork(
  disk: Disk,
  work: DiskWork,
  promised: ReadonlySet<number> = new Set(),
): Outcome<DiskWorkPlan> {
  const table = tableFromSurvey(disk);
  const bytesPerSecond = diskBytesPerSecond(disk);
  if (work.kind === 'layout') {
    const planned = planLayout(table, work.goal, { promised, bytesPerSecond });
    if (!planned.ok) return planned;
    const { before, after, operations, minutes, first, room } = planned.value;
    return {
      ok: true,
      value: { disk, work, before, after, operations, minutes, first, ...(room ? { room } : {}) },
    };
  }
  const planned = planTableConversion(table, work.target, {
    random: noRandom,
    resolutions: work.resolutions,
  });
  if (!planned.ok) return planned;
  const { before, after } = planned.value;
  const operations = describedConversion(planned.value, work.resolutions, bytesPerSecond);
  return {
    ok: true,
    value: {
      disk,
      work,
      before,
      after,
      operations,
      first: before.partitions.flatMap((partition) => whatBefore(partition) ?? []),
      minutes: operations.reduce((sum, { minutes }) => sum + minutes, 0),
    },
  };
}

/** The partitions that a route promised to keep on the disk that it writes to. */
export function promisedPartitions(
  disk: Disk,
  route: Pick<RouteDefinition, 'writesOver'> | undefined,
): ReadonlySet<number> {
  if (route?.writesOver === 'whole-disk' || route?.writesOver === 'second-disk') return new Set();
  return new Set(
    disk.partitions
      .filter(({ role }) => route?.writesOver !== 'system-partition' || role !== 'system')
      .map(({ number }) => number),
  );
}

export type WorkContext = {
  readonly route: Pick<RouteDefinition, 'writesOver'> | undefined;
  readonly target: Disk | undefined;
  readonly marks: DiskMarks | null;
  readonly short: readonly { readonly name: string; readonly planned: number; readonly needed: number }[];
};

/** Disk work past its guards: the disk is the route's and identified by serial number and size, nothing promised goes, data are copied. */
export function guardedDiskWork(disk: Disk, work: DiskWork, context: WorkContext): Outcome<DiskWorkPlan> {
  const promised = promisedPartitions(disk, context.route);
  const planned = planDiskWork(disk, work, promised);
  // Entries that a conversion drops are the schemes' own; their sectors stay as they are.
  const erasing = planned.ok && work.kind === 'layout' ? planned.value.operations : [];
  const guards = guardDisk({
    disk,
    target: context.target,
    marks: context.marks,
    partitions: planned.ok ? planned.value.before.partitions : [],
    operations: erasing,
    promised,
    short: context.short,
  });
  const problems = [...guards, ...(planned.ok ? [] : planned.problems)];
  return problems.length > 0 ? { ok: false, problems } : planned;
}

/** The disk work that was planned as it would be done now: the disk found by its name, the work planned anew. */
export function diskWorkOf(
  facts: Facts,
  plan: DiskPlan,
  route: Pick<RouteDefinition, 'writesOver'> | undefined,
): Outcome<DiskWorkPlan> {
  const disk = valueOf(facts, 'disks')?.find(({ name }) => name === plan.disk);
  return disk
    ? planDiskWork(disk, plan.work, promisedPartitions(disk, route))
    : fail(
        'no-such-disk',
        '',
        `Disk ${plan.disk}, for which work is planned, is no longer in the survey: plan it again, or take the plan out.`,
      );
}
