import { wrap, type Remote } from 'comlink';
import type { FilesWork } from '../workers/files.worker';

/** A worker for one piece of work with lists of files; ended with it, so that its memory is free again. */
export async function withFilesWork<T>(work: (remote: Remote<FilesWork>) => Promise<T>): Promise<T> {
  const { remote, end } = startFilesWork();
  try {
    return await work(remote);
  } finally {
    end();
  }
}

export function startFilesWork(): { readonly remote: Remote<FilesWork>; readonly end: () => void } {
  const worker = new Worker(new URL('../workers/files.worker.ts', import.meta.url), { type: 'module' });
  return { remote: wrap<FilesWork>(worker), end: () => worker.terminate() };
}
