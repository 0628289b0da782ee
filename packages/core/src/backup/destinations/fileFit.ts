import { fileSystemLimit, type FileSystemId } from '../../catalogue/fileSystems';
import { pathAt, sizeAt, troubleAt, type PackedList } from '../../manifest/packed';
import { printBothUnits } from '../../quantity/bytes';
import { printCount } from '../../quantity/count';
import { fullFolders } from './allocation';
import { lengthIn } from './nameRules';
import { planRenames, renamer, type Rename } from './renames';

type FileRemedy = 'split' | 'rename' | 'archive' | 'other-destination' | 'nothing-to-do';

const fileFaultCodes = [
  'too-large',
  'forbidden-character',
  'forbidden-ending',
  'reserved-name',
  'name-too-long',
  'same-but-for-case',
  'same-but-for-form',
  'folder-too-full',
  'path-too-long',
  'path-long-for-older-programs',
  'link-lost',
  'rights-lost',
  'not-readable',
] as const;
type FileFaultCode = (typeof fileFaultCodes)[number];

/** What a destination's file system does not take, all files of a kind together. */
type FileFault = {
  readonly code: FileFaultCode;
  readonly count: number;
  /** Whether the copy fails without the remedy; otherwise it is good to know. */
  readonly blocks: boolean;
  readonly remedy: FileRemedy;
  readonly sentence: string;
  /** The first of them, in the list's order. */
  readonly examples: readonly string[];
};

const examplesKept = 20;
/** The longest path that many older programs open, in UTF-16 units, drive letter and all. */
const olderProgramsPath = 260;

/** What one name does, and what several do. */
const titles: Readonly<
  Record<Exclude<FileFaultCode, 'too-large' | 'rights-lost'>, readonly [one: string, several: string]>
> = {
  'forbidden-character': ['has a character that it does not take', 'have a character that it does not take'],
  'forbidden-ending': [
    'ends in a full stop or a space, which it drops',
    'end in a full stop or a space, which it drops',
  ],
  'reserved-name': ['is the name of a device of old', 'are names of devices of old'],
  'name-too-long': ['is too long', 'are too long'],
  'same-but-for-case': [
    'differs from another one only in upper and lower case: one would overwrite the other',
    'differ from others only in upper and lower case: one would overwrite the other',
  ],
  'same-but-for-form': [
    'looks like another one and differs only in Unicode form: one would overwrite the other',
    'look like others and differ only in Unicode form: one would overwrite the other',
  ],
  'folder-too-full': [
    'is a folder with more names than it takes in one folder',
    'are folders with more names than it takes in one folder',
  ],
  'path-too-long': ['has a path that is too long', 'have a path that is too long'],
  'path-long-for-older-programs': [
    'has a path over 260 characters, which older programs cannot open',
    'have a path over 260 characters, which older programs cannot open',
  ],
  'link-lost': ['is a link, which it does not keep', 'are links, which it does not keep'],
  'not-readable': [
    'could not be read where it is: it is in no copy',
    'could not be read where they are: they are in no copy',
  ],
};

export type FileFit = { readonly faults: readonly FileFault[]; readonly renames: readonly Rename[] };

/**
 * What a file system refuses of a list of files, before anything is copied, each with a remedy.
 * Renames are proposed for all names at once; with them every name is one that it takes.
 * @param folderLength how long the path of the folder is that the files go into, in UTF-16 units
 */
export function checkFiles(list: PackedList, fileSystem: FileSystemId, folderLength = 20): FileFit {
  const limit = fileSystemLimit(fileSystem);
  const found = new Map<FileFaultCode, { count: number; readonly examples: string[] }>();
  const note = (code: FileFaultCode, path: string) => {
    const entry = found.get(code) ?? { count: 0, examples: [] };
    entry.count += 1;
    if (entry.examples.length < examplesKept) entry.examples.push(path);
    found.set(code, entry);
  };
  const paths = Array.from({ length: list.count }, (_none, row) => pathAt(list, row));
  const renames = planRenames(paths, limit);
  for (const { because, folder, from } of renames) note(because, folder === '' ? from : `${folder}/${from}`);
  const renamed = renamer(renames);
  let largest = 0;
  paths.forEach((path, row) => {
    const sizeBytes = sizeAt(list, row) ?? 0;
    if (limit.largestFileBytes !== null && sizeBytes > limit.largestFileBytes) {
      note('too-large', path);
      largest = Math.max(largest, sizeBytes);
    }
    const there = renamed(path);
    if (lengthIn(limit.longestPath.unit, there) + folderLength > limit.longestPath.count)
      note('path-too-long', path);
    else if (limit.names === 'strict' && there.length + folderLength >= olderProgramsPath)
      note('path-long-for-older-programs', path);
    const trouble = troubleAt(list, row);
    if (trouble === 'link' && !limit.keepsLinks) note('link-lost', path);
    if (trouble === 'unreadable' || trouble === 'changed-while-read') note('not-readable', path);
  });
  if (fileSystem === 'fat32')
    for (const { folder } of fullFolders(paths.map(renamed)))
      note('folder-too-full', folder === '' ? '/' : folder);
  const faults = fileFaultCodes.flatMap((code): FileFault[] => {
    const entry = found.get(code);
    if (!entry) return [];
    const { count, examples } = entry;
    const plain = { code, count, examples };
    if (code === 'too-large') {
      const parts = Math.ceil(largest / (limit.largestFileBytes ?? largest));
      return [
        {
          ...plain,
          blocks: true,
          remedy: 'split',
          sentence: `${printCount(count, 'file')} over ${printBothUnits(limit.largestFileBytes ?? 0)}, the largest ${printBothUnits(largest)}: split each (the largest into ${parts} parts), or use another destination.`,
        },
      ];
    }
    if (code === 'rights-lost') return [];
    const remedy: FileRemedy =
      code === 'path-too-long' || code === 'link-lost' || code === 'folder-too-full'
        ? 'archive'
        : code === 'path-long-for-older-programs' || code === 'not-readable'
          ? 'nothing-to-do'
          : 'rename';
    return [
      {
        ...plain,
        blocks: remedy === 'rename' || code === 'path-too-long' || code === 'folder-too-full',
        remedy,
        sentence: `${printCount(count, 'name')} ${titles[code][count === 1 ? 0 : 1]}.${remedyWords[remedy]}`,
      },
    ];
  });
  if (!limit.keepsRights && list.count > 0)
    faults.push({
      code: 'rights-lost',
      count: list.count,
      blocks: false,
      remedy: 'archive',
      sentence: `${limit.name} keeps no owners and rights. For documents that does not matter; programs and settings go into an archive first.`,
      examples: [],
    });
  return { faults, renames };
}

const remedyWords: Readonly<Record<FileRemedy, string>> = {
  split: '',
  rename: ' Renamed there; the list of names is kept, and undone on the way back.',
  archive: ' Pack the folder into one archive file, or use another destination.',
  'other-destination': ' Use another destination.',
  'nothing-to-do': '',
};
