import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Failure } from './fail';

const postgresHome = '/usr/lib/postgresql';
const isRoot = process.getuid?.() === 0;

function postgresBin(): string | undefined {
  if (!existsSync(postgresHome)) return undefined;
  const versions = readdirSync(postgresHome).filter(
    (name) => /^\d+$/.test(name) && existsSync(join(postgresHome, name, 'bin', 'initdb')),
  );
  const newest = versions.map(Number).sort((a, b) => b - a)[0];
  return newest === undefined ? undefined : join(postgresHome, String(newest), 'bin');
}

const chromiumPath = '/usr/bin/chromium';

function install(packages: readonly string[], what: string): void {
  const command = `apt-get install -y ${packages.join(' ')}`;
  if (!isRoot)
    throw new Failure(`${what} is missing. Install it with: sudo apt-get update && sudo ${command}`);
  console.log(`Installing Debian's ${packages.join(', ')} …`);
  const options = {
    stdio: ['ignore', 'ignore', 'inherit'] as const,
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  };
  spawnSync('apt-get', ['update', '-qq'], { ...options, stdio: [...options.stdio] });
  const done = spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], {
    ...options,
    stdio: [...options.stdio],
  });
  if (done.status !== 0)
    throw new Failure(`${what} could not be installed. Run by hand, as root: apt-get update && ${command}`);
}

/** The folder of PostgreSQL's programs; installs Debian's package when it is missing and this is root. */
export function ensurePostgres(): string {
  const found = postgresBin();
  if (found) return found;
  install(['postgresql'], 'PostgreSQL');
  const bin = postgresBin();
  if (!bin)
    throw new Failure(
      `PostgreSQL was installed but is not below ${postgresHome}: install Debian's package postgresql.`,
    );
  return bin;
}

/** The path of Debian's Chromium, for the browser journeys. */
export function ensureChromium(): string {
  const own = process.env.ULVANE_CHROMIUM;
  if (own) return own;
  if (!existsSync(chromiumPath)) install(['chromium'], 'Chromium');
  return chromiumPath;
}

/** The shell of rescue sticks, for the collector's tests. */
export function ensureBusybox(): void {
  if (!['/bin/busybox', '/usr/bin/busybox'].some((path) => existsSync(path))) install(['busybox'], 'busybox');
}

/** Tools of Debian that make and read file systems and partition tables, by the package that has them. */
const diskTools: Readonly<Record<string, string>> = {
  'mkfs.vfat': 'dosfstools',
  mcopy: 'mtools',
  'mkfs.ntfs': 'ntfs-3g',
  'mkfs.exfat': 'exfatprogs',
  'mkfs.btrfs': 'btrfs-progs',
  'mkfs.xfs': 'xfsprogs',
  cryptsetup: 'cryptsetup-bin',
  parted: 'parted',
  debugfs: 'e2fsprogs',
  partx: 'util-linux',
};

/** What the tests of disks make images with, and read them back by: never our own code alone. */
export function ensureDiskTools(): void {
  const missing = Object.entries(diskTools)
    .filter(
      ([tool]) =>
        !['/usr/sbin', '/sbin', '/usr/bin', '/bin'].some((folder) => existsSync(join(folder, tool))),
    )
    .map(([, name]) => name);
  if (missing.length > 0) install([...new Set(missing)], 'What makes and reads the disk images of the tests');
}
