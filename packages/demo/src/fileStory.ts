import { listOf, type FileListHead } from '@ulvane/core/backup';
import {
  differencesOf,
  folderOfDifference,
  packList,
  reconcile,
  summarise,
  type Difference,
  type FileEntry,
} from '@ulvane/core/manifest';
import { recordFileList, recordReconciled } from '@ulvane/core/record';
import { between, pick, seededRandom, uuidFrom, type Random } from './random';
import type { Recorder } from './recorder';

const folders = ['', 'Season', 'Season/Posters', 'To print', 'Crew/Photos', 'Crew/Rotas', 'Old'] as const;
const words = [
  'rota',
  'tide table',
  'poster',
  'invoice',
  'harbour list',
  'notice',
  'letter',
  'fare sheet',
] as const;
const endings = ['lpd', 'lpm', 'png', 'txt', 'pbj'] as const;

/** A source of its own: the lists must not change what the rest of the demo draws. */
function randomFor(recorder: Recorder, turn: number): Random {
  return seededRandom(Number(recorder.current.reference.slice(3)) * 7919 + turn);
}

function digest(random: Random): string {
  return Array.from({ length: 64 }, () => between(random, 0, 15).toString(16)).join('');
}

/** So many files with so many bytes in all. */
function filesOf(random: Random, fileCount: number, sizeBytes: number): FileEntry[] {
  const even = Math.floor(sizeBytes / fileCount);
  let left = sizeBytes;
  return Array.from({ length: fileCount }, (_none, index) => {
    const size = index === fileCount - 1 ? left : Math.floor(even * (0.3 + random() * 0.7));
    left -= size;
    const folder = pick(random, folders);
    const name = `${pick(random, words)} ${index + 1}.${pick(random, endings)}`;
    return {
      path: folder === '' ? name : `${folder}/${name}`,
      sizeBytes: size,
      sha256: digest(random),
      modifiedMs: Date.UTC(2025, between(random, 0, 11), between(random, 1, 28), between(random, 7, 18)),
      trouble: null,
    };
  }).sort((a, b) => (a.path < b.path ? -1 : 1));
}

function record(
  recorder: Recorder,
  technician: string,
  random: Random,
  head: Pick<FileListHead, 'dataSetId' | 'role'>,
  entries: readonly FileEntry[],
): string {
  const id = uuidFrom(random);
  recorder.play(technician, (move, context) =>
    recordFileList(
      move,
      {
        ...head,
        id,
        destinationId: null,
        source: 'hashed',
        sampledFrom: null,
        ...summarise(packList(entries)),
      },
      context,
    ),
  );
  recorder.keepList({ id, entries });
  return id;
}

/** Longer lists than this would only make the first start slow. */
const maxFilesListed = 3000;

/** Reads every file of the smaller data sets, as they are on the device. */
export function readFiles(recorder: Recorder, technician: string): void {
  recorder.current.dataSets.forEach((dataSet, index) => {
    if (dataSet.fileCount > maxFilesListed) return;
    const random = randomFor(recorder, 10 * index + 1);
    const entries = filesOf(random, dataSet.fileCount, dataSet.sizeBytes);
    record(recorder, technician, random, { dataSetId: dataSet.id, role: 'before' }, entries);
  });
}

/** What came back of one data set: of the desktop, three files left out, one renamed, a cache; of the others all. */
function afterRestore(
  isDesktop: boolean,
  before: readonly FileEntry[],
  random: Random,
): readonly FileEntry[] {
  if (!isDesktop || before.length < 20) return before;
  const back = before
    .slice(3)
    .map((entry, index) =>
      index === 4 ? { ...entry, path: entry.path.replace(/(\.\w+)$/, ' (final)$1') } : entry,
    );
  const cache: FileEntry = {
    path: '.cache/preview.bin',
    sizeBytes: 4096,
    sha256: digest(random),
    modifiedMs: null,
    trouble: null,
  };
  return [...back, cache];
}

const reasons: Partial<Record<Difference['kind'], string>> = {
  missing: 'Shortcuts to programs that are gone; the owner does not want them.',
  renamed: 'Renamed by the owner on the day.',
};

/** Compares what came back with every list that was made before; all differences are explained. */
export function compareFiles(recorder: Recorder, technician: string): void {
  recorder.current.dataSets.forEach((dataSet, index) => {
    const head = listOf(recorder.current.fileLists, dataSet, 'before');
    const before = recorder.lists.find(({ id }) => id === head?.id)?.entries;
    if (!head || !before) return;
    const random = randomFor(recorder, 10 * index + 2);
    const after = afterRestore(dataSet.name.startsWith('Desktop'), before, random);
    const afterId = record(recorder, technician, random, { dataSetId: dataSet.id, role: 'after' }, after);
    const lists = [packList(before), packList(after)] as const;
    const found = reconcile(...lists);
    const rows = [...differencesOf(found, ...lists)].map((difference) => ({
      ...difference,
      folder: folderOfDifference(difference),
      reason: difference.noise === null ? (reasons[difference.kind] ?? 'As the owner wants it.') : null,
    }));
    const id = uuidFrom(random);
    recorder.play(technician, (move, context) =>
      recordReconciled(
        move,
        {
          id,
          dataSetId: dataSet.id,
          beforeId: head.id,
          afterId,
          counts: found.counts,
          noise: rows.filter(({ noise }) => noise !== null).length,
          explained: rows.filter(({ noise }) => noise === null).length,
          open: 0,
        },
        context,
      ),
    );
    recorder.keepDifferences({ id, by: technician, rows });
  });
}
