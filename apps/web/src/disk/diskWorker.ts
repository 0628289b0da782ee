import type { ConversionOutcome, LayoutOptions, PartitionTable, Resolution } from '@ulvane/core/disk';
import { wrap, type Remote } from 'comlink';
import type { DiskWorker } from '../workers/disk.worker';
import type { LayoutPlanner } from './Layout';

let remote: Remote<DiskWorker> | undefined;

/** One worker for the page; it keeps the image that is open. */
export function diskWorker(): Remote<DiskWorker> {
  remote ??= wrap<DiskWorker>(
    new Worker(new URL('../workers/disk.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}

/** Plans the conversion of the image that is open. */
export async function convertOpen(
  target: 'gpt' | 'mbr',
  resolutions: readonly Resolution[],
): Promise<ConversionOutcome> {
  return await diskWorker().convert(target, resolutions, null);
}

/** Plans layouts of a table in the worker. */
export function plannerFor(table: PartitionTable, options: LayoutOptions): LayoutPlanner {
  return {
    plan: async (goal) => await diskWorker().layout(table, goal, options),
    range: async (kind, partition) => await diskWorker().range(table, kind, partition, options),
  };
}
