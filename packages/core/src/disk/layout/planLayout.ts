import type { Outcome, Problem } from '../../outcome/outcome';
import { printBothUnits } from '../../quantity/bytes';
import { whyNotClosed } from '../leftState';
import { spanningVolumes } from '../spanningVolumes';
import { tableBytes, type PartitionTable } from '../table/partitionTable';
import type { LayoutOptions, LayoutPlanGoal } from './goal';
import { layOutNew } from './layOutNew';
import { finishPlan, refusePlan, type LayoutPlan } from './layoutPlan';
import { planGrowBack } from './planGrowBack';
import { planRoom } from './planRoom';
import { planSplit } from './planSplit';

/**
 * Plans the operations that bring a disk to a goal, with the least risk and then the fewest bytes moved
 * (decision 0016 says how, and why it is right).
 * @returns the plan, or what is in the way and what would change that
 */
export function planLayout(
  table: PartitionTable,
  goal: LayoutPlanGoal,
  options: LayoutOptions = {},
): Outcome<LayoutPlan> {
  const damage = table.findings.filter(({ weight }) => weight === 'damage');
  if (damage.length > 0 && goal.kind !== 'wipe')
    return { ok: false, problems: damage.map(({ code, path, sentence }) => ({ code, path, sentence })) };
  if (table.scheme === 'none' && goal.kind !== 'wipe')
    return refusePlan(
      'no-table',
      '',
      'There is no partition table on this disk: choose to lay the whole disk out, after the data on it, if any, are saved.',
    );
  const asleep = goal.kind === 'wipe' ? [] : asleepPartitions(table);
  if (asleep.length > 0) return { ok: false, problems: asleep };
  if (table.gpt && goal.kind !== 'wipe' && (table.gpt.hybrid || table.gpt.entrySizeBytes !== 128))
    return refusePlan(
      table.gpt.hybrid ? 'hybrid' : 'entry-size',
      '/lba/1',
      table.gpt.hybrid
        ? 'The disk carries both schemes at once (a hybrid), and a layout would only change one of them: have the first sector made protective by whoever made the hybrid, or lay the whole disk out.'
        : `The table has entries of ${table.gpt.entrySizeBytes} bytes, and what is in the rest of each is not known here: change it with what made it, or lay the whole disk out.`,
    );
  const spanning = spanningVolumes(table);
  if (spanning.length > 0 && goal.kind !== 'wipe') return { ok: false, problems: spanning };
  const wrong = wrongNumber(table, goal);
  if (wrong) return { ok: false, problems: [wrong] };
  switch (goal.kind) {
    case 'wipe':
    case 'standard': {
      const laid = layOutNew(table, goal, options);
      return laid.ok ? finishPlan(table, goal, options, laid.value) : laid;
    }
    case 'split':
      return planSplit(table, goal, options);
    case 'grow-back':
      return planGrowBack(table, goal, options);
    case 'room':
    case 'installer-partition':
      return planRoom(table, goal, options);
  }
}

/** A system that is asleep would write over whatever was changed: it is woken first. */
function asleepPartitions({ partitions }: PartitionTable): readonly Problem[] {
  return partitions.flatMap((partition) => {
    const why = partition.content?.left === 'hibernated' ? whyNotClosed(partition) : undefined;
    return why === undefined
      ? []
      : [{ code: 'left-hibernated', path: `/partitions/${partition.number}`, sentence: why }];
  });
}

/** Sizes are whole bytes, 1 MiB or more; partitions that are named are there. */
function wrongNumber(table: PartitionTable, goal: LayoutPlanGoal): Problem | undefined {
  const bytes = goal.kind === 'split' ? goal.systemBytes : 'sizeBytes' in goal ? goal.sizeBytes : undefined;
  if (bytes !== undefined && (!Number.isSafeInteger(bytes) || bytes < 1024 ** 2))
    return { code: 'size-too-small', path: '/goal', sentence: 'Give a size of 1 MiB or more.' };
  if (bytes !== undefined && bytes > tableBytes(table))
    return {
      code: 'larger-than-disk',
      path: '/goal',
      sentence: `${printBothUnits(bytes)} are asked for, and the whole disk has ${printBothUnits(tableBytes(table))}.`,
    };
  const named = goal.kind === 'grow-back' ? [goal.partition, ...goal.remove] : [];
  const missing = named.find((number) => !table.partitions.some((partition) => partition.number === number));
  return missing === undefined
    ? undefined
    : {
        code: 'no-such-partition',
        path: `/partitions/${missing}`,
        sentence: `There is no partition ${missing} on this disk.`,
      };
}
