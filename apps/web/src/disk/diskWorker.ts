import type { ConversionOutcome, Resolution } from '@ulvane/core';
import { wrap, type Remote } from 'comlink';
import type { DiskWorker } from '../workers/disk.worker';

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
