import type { PackedList } from '@ulvane/core/manifest';
import type { Problem } from '@ulvane/core/outcome';
import { transfer } from 'comlink';
import type { FilesWork } from '../workers/files.worker';
import { buffersOf } from '../workers/buffersOf';
import { withFilesWork } from './filesWork';

export type ListsCompared = ReturnType<FilesWork['compare']>;

class UnfitList extends Error {
  constructor(
    readonly file: File,
    readonly problems: readonly Problem[],
  ) {
    super(`${file.name}: ${problems[0]?.sentence ?? ''}`);
  }
}

async function parsed(file: File): Promise<PackedList> {
  return withFilesWork(async (remote) => {
    const kind = await remote.kindOf(file);
    const outcome = kind.ok ? await remote.parse(file, kind.value) : kind;
    if (!outcome.ok) throw new UnfitList(file, outcome.problems);
    return outcome.value;
  });
}

/** Reads two lists at the same time, each in a worker, and compares them in one. */
export async function compareLists(before: File, after: File): Promise<ListsCompared> {
  const [first, second] = await Promise.all([parsed(before), parsed(after)]);
  return withFilesWork((remote) =>
    remote.compare(transfer(first, buffersOf(first)), transfer(second, buffersOf(second))),
  );
}
