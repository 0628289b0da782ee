import { execFileSync, spawnSync } from 'node:child_process';
import {
  closeSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
  statSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import type { SectorSource, SectorWrite } from '../src/disk';

const environment = {
  ...process.env,
  PATH: `${process.env.PATH ?? ''}:/usr/sbin:/sbin`,
  LC_ALL: 'C',
  MTOOLS_SKIP_CHECK: '1',
};

/** Runs one of Debian's tools and gives what it prints. */
export function tool(command: string, args: readonly string[], input?: string): string {
  return execFileSync(command, [...args], {
    env: environment,
    encoding: 'utf8',
    stdio: ['pipe', 'pipe', 'pipe'],
    ...(input === undefined ? {} : { input }),
  });
}

function bytesOf(command: string, args: readonly string[]): Buffer {
  return execFileSync(command, [...args], {
    env: environment,
    stdio: ['ignore', 'pipe', 'ignore'],
    maxBuffer: 64 << 20,
  });
}

/** An image in a file, read by slices. */
export function imageSource(path: string, sectorSizeBytes: number): SectorSource {
  return {
    sectorSizeBytes,
    sectorCount: Math.floor(statSync(path).size / sectorSizeBytes),
    read: (lba, count) => {
      const file = openSync(path, 'r');
      const bytes = new Uint8Array(count * sectorSizeBytes);
      const got = readSync(file, bytes, 0, bytes.length, lba * sectorSizeBytes);
      closeSync(file);
      return bytes.subarray(0, got);
    },
  };
}

export function writeInto(path: string, writes: readonly SectorWrite[], sectorSizeBytes: number): void {
  const file = openSync(path, 'r+');
  for (const { startLba, bytes } of writes)
    writeSync(file, bytes, 0, bytes.length, startLba * sectorSizeBytes);
  closeSync(file);
}

/** Copies a source over a file, in pieces. */
export function writeWhole(path: string, source: SectorSource): void {
  writeFileSync(path, '');
  const file = openSync(path, 'r+');
  const piece = 4096;
  for (let lba = 0; lba < source.sectorCount; lba += piece) {
    const bytes = source.read(lba, Math.min(piece, source.sectorCount - lba));
    writeSync(file, bytes, 0, bytes.length, lba * source.sectorSizeBytes);
  }
  closeSync(file);
}

export type MadeSystem =
  'fat32' | 'ntfs' | 'ext4' | 'ext3' | 'ext2' | 'exfat' | 'btrfs' | 'xfs' | 'swap' | 'luks';

const makers: Readonly<
  Record<MadeSystem, (path: string, label: string, folder: string, kibibytes: number) => unknown>
> = {
  fat32: (path, label, folder) => {
    tool('mkfs.vfat', ['-F', '32', '-n', label, path]);
    tool('mcopy', ['-s', '-i', path, join(folder, 'note.txt'), join(folder, 'photo.bin'), '::']);
  },
  ntfs: (path, label, folder) => {
    tool('mkfs.ntfs', ['-q', '-F', '-L', label, path]);
    for (const name of ['note.txt', 'photo.bin']) tool('ntfscp', [path, join(folder, name), name]);
  },
  ext4: (path, label, folder, size) =>
    tool('mkfs.ext4', ['-q', '-F', '-L', label, '-d', folder, path, `${size}k`]),
  ext3: (path, label, folder, size) =>
    tool('mkfs.ext3', ['-q', '-F', '-L', label, '-d', folder, path, `${size}k`]),
  ext2: (path, label, folder, size) =>
    tool('mkfs.ext2', ['-q', '-F', '-L', label, '-d', folder, path, `${size}k`]),
  exfat: (path, label) => tool('mkfs.exfat', ['-L', label, path]),
  btrfs: (path, label, folder) => tool('mkfs.btrfs', ['-q', '-L', label, '-r', folder, path]),
  xfs: (path, label) => tool('mkfs.xfs', ['-q', '-L', label, path]),
  swap: (path, label) => tool('mkswap', ['-L', label, path]),
  luks: (path, label) =>
    tool(
      'cryptsetup',
      [
        'luksFormat',
        '--type',
        'luks2',
        '--label',
        label,
        '-q',
        '--pbkdf',
        'pbkdf2',
        '--pbkdf-force-iterations',
        '1000',
        path,
      ],
      'only for a test\n',
    ),
};

/** Makes a file system of a kind in a file of so many bytes, with the files of a folder where it can hold them. */
export function makeSystem(
  kind: MadeSystem,
  path: string,
  label: string,
  folder: string,
  sizeBytes: number,
  systemBytes = sizeBytes,
): void {
  writeFileSync(path, '');
  truncateSync(path, sizeBytes);
  makers[kind](path, label, folder, Math.floor(systemBytes / 1024));
}

/** One file out of a file system in a file, by that system's own reader. */
export function readOut(kind: MadeSystem, path: string, name: string): Buffer {
  if (kind === 'fat32') return bytesOf('mtype', ['-i', path, `::${name}`]);
  if (kind === 'ntfs') return bytesOf('ntfscat', [path, name]);
  return bytesOf('debugfs', ['-R', `cat /${name}`, path]);
}

/** Partitions as the library behind the system's block devices reads them: number, start, sectors. */
export function partitionsByPartx(
  path: string,
  sectorSizeBytes: number,
): readonly (readonly [number, number, number])[] {
  const listed = tool('partx', ['-g', '-o', 'NR,START,SECTORS', '-S', String(sectorSizeBytes), path]);
  // partx counts in 512-byte units whatever the sectors are.
  const per = sectorSizeBytes / 512;
  return listed
    .trim()
    .split('\n')
    .map((line) => line.trim().split(/\s+/).map(Number))
    .map(([number = 0, start = 0, sectors = 0]) => [number, start / per, sectors / per] as const);
}

/** Bytes of a partition, as a file of its own. */
export function sliceOut(source: SectorSource, startLba: number, sectorCount: number, path: string): string {
  writeFileSync(path, source.read(startLba, sectorCount));
  return path;
}

export function put(path: string, from: string, startLba: number, sectorSizeBytes: number): void {
  writeInto(path, [{ startLba, bytes: readFileSync(from), about: from }], sectorSizeBytes);
}

/** The two files that go into every file system and come out of it again, in a folder of their own. */
export function writeFiles(folder: string, photo: Uint8Array): string {
  mkdirSync(folder);
  writeFileSync(join(folder, 'note.txt'), 'Tide tables, pier five\n');
  writeFileSync(join(folder, 'photo.bin'), photo);
  return folder;
}

/** A partition as it is asked of parted: kind, file system, first and last sector. */
export type AskedPartition = readonly [kind: string, fileSystem: string, start: number, end: number];

/** An empty image with a table made by parted. */
export function makeTable(
  path: string,
  sizeBytes: number,
  scheme: 'msdos' | 'gpt',
  partitions: readonly AskedPartition[],
): void {
  writeFileSync(path, '');
  truncateSync(path, sizeBytes);
  tool('parted', [
    '-s',
    '-a',
    'none',
    path,
    'mklabel',
    scheme,
    'unit',
    's',
    ...partitions.flatMap(([kind, fileSystem, start, end]) => [
      'mkpart',
      kind,
      ...(fileSystem === '' ? [] : [fileSystem]),
      `${start}s`,
      `${end}s`,
    ]),
  ]);
}

/** Single bytes of a file, changed by hand. */
export function patchBytes(path: string, offset: number, bytes: readonly number[]): void {
  const file = openSync(path, 'r+');
  writeSync(file, Uint8Array.from(bytes), 0, bytes.length, offset);
  closeSync(file);
}

/** What parted has against a table: a damaged copy, overlaps, a backup in the wrong place. Empty when nothing. */
export function complaintsOf(path: string): readonly string[] {
  const { stderr, stdout } = spawnSync('parted', ['-s', '-m', path, 'unit', 's', 'print'], {
    env: environment,
    encoding: 'utf8',
  });
  // It knew the table at all, or its silence would mean nothing.
  if (!/:(gpt|msdos):/.test(stdout)) return [`parted knows no table in ${path}`];
  return stderr.split('\n').filter((line) => /^(Error|Warning)/.test(line));
}
