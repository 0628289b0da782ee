import type { FileSystemId } from '../../catalogue/fileSystems';

/*
 * How file systems raise letters to compare names: one UTF-16 unit at a time, by a table that lies on the volume itself.
 * Written as runs, "first-last/step:difference" in hexadecimal and decimal; every other unit stays as it is.
 * Sources: the recommended up-case table of the exFAT specification (7.2.5), and the up-case file of a fresh NTFS volume.
 * The tests read both from volumes that are made for it, and compare every unit.
 */

/** What both tables have. */
const shared = `
  61-7a:-32 e0-f6:-32 f8-fe:-32 ff:121 101-12f/2:-1 133-137/2:-1 13a-148/2:-1 14b-177/2:-1 17a-17e/2:-1 180:195
  183-185/2:-1 188:-1 18c:-1 192:-1 195:97 199:-1 19a:163 19e:130 1a1-1a5/2:-1 1a8:-1 1ad:-1 1b0:-1 1b4-1b6/2:-1
  1b9:-1 1bd:-1 1bf:56 1c6:-2 1c9:-2 1cc:-2 1ce-1dc/2:-1 1dd:-79 1df-1ef/2:-1 1f3:-2 1f5:-1 1f9-21f/2:-1
  223-233/2:-1 23c:-1 242:-1 247-24f/2:-1 253:-210 254:-206 256-257:-205 259:-202 25b:-203 260:-205 263:-207
  268:-209 269:-211 26b:10743 26f:-211 272:-213 275:-214 27d:10727 280:-218 283:-218 288:-218 289:-69
  28a-28b:-217 28c:-71 292:-219 37b-37d:130 3ac:-38 3ad-3af:-37 3b1-3c1:-32 3c3-3cb:-32 3cc:-64 3cd-3ce:-63
  3d9-3ef/2:-1 3f2:7 3f8:-1 3fb:-1 430-44f:-32 450-45f:-80 461-481/2:-1 48b-4bf/2:-1 4c2-4ce/2:-1 4cf:-15
  561-586:-48 1d7d:3814 1e01-1e95/2:-1 1f00-1f07:8 1f10-1f15:8 1f20-1f27:8 1f30-1f37:8 1f40-1f45:8 1f51-1f57/2:8
  1f60-1f67:8 1f70-1f71:74 1f72-1f75:86 1f76-1f77:100 1f78-1f79:128 1f7a-1f7b:112 1f7c-1f7d:126 1f80-1f87:8
  1f90-1f97:8 1fa0-1fa7:8 1fb0-1fb1:8 1fb3:9 1fd0-1fd1:8 1fe0-1fe1:8 1fe5:7 214e:-28 2170-217f:-16 2184:-1
  24d0-24e9:-26 2c30-2c5e:-48 2c61:-1 2c68-2c6c/2:-1 2c76:-1 2c81-2ce3/2:-1 2d00-2d25:-7264 ff41-ff5a:-32
`;

/** What only exFAT has. */
const exfatOnly = `
  23a:10795 23e:10792 3c2:-31 4d1-513/2:-1 1ea1-1ef9/2:-1 1fcc:-9 1ffc:-9
`;

/** What only NTFS has. */
const ntfsOnly = `
  250:10783 251:10780 271:10749 371-373/2:-1 377:-1 3d7:-8 4d1-523/2:-1 1d79:35332 1ea1-1eff/2:-1 1fc3:9 1ff3:9
  2c65:-10795 2c66:-10792 2c73:-1 a641-a65f/2:-1 a663-a66d/2:-1 a681-a697/2:-1 a723-a72f/2:-1 a733-a76f/2:-1
  a77a-a77c/2:-1 a77f-a787/2:-1 a78c:-1
`;

function tableOf(...runs: readonly string[]): Uint16Array {
  const table = Uint16Array.from({ length: 0x10000 }, (_none, unit) => unit);
  for (const run of runs.join(' ').trim().split(/\s+/)) {
    const [, first = '', last = first, step = '1', difference = '0'] =
      /^([0-9a-f]+)(?:-([0-9a-f]+))?(?:\/(\d))?:(-?\d+)$/.exec(run) ?? [];
    for (let unit = Number.parseInt(first, 16); unit <= Number.parseInt(last, 16); unit += Number(step))
      table[unit] = unit + Number(difference);
  }
  return table;
}

let made: { readonly exfat: Uint16Array; readonly ntfs: Uint16Array } | undefined;

/** The table of a file system; FAT32 and shares are raised by the system that writes them, which is the one of NTFS. */
export function upcaseTable(fileSystem: FileSystemId): Uint16Array {
  made ??= { exfat: tableOf(shared, exfatOnly), ntfs: tableOf(shared, ntfsOnly) };
  return fileSystem === 'exfat' ? made.exfat : made.ntfs;
}

/** A name with every letter raised as the file system does it. @example raised('Straße', 'ntfs') // 'STRAßE' */
export function raised(name: string, fileSystem: FileSystemId): string {
  const table = upcaseTable(fileSystem);
  let text = '';
  for (let index = 0; index < name.length; index += 1)
    text += String.fromCharCode(table[name.charCodeAt(index)] ?? 0);
  return text;
}
