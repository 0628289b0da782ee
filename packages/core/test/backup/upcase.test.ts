import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, truncateSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { foldedName, raised, upcaseTable } from '../../src/backup';
import { fileSystemLimit } from '../../src/catalogue';
import { tool } from '../fixtures/diskTools';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'ulvane-upcase-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** A fresh volume, made by the system's own tool. */
function volume(name: string, bytes: number, make: (path: string) => void): Buffer {
  const path = join(folder, name);
  closeSync(openSync(path, 'w'));
  truncateSync(path, bytes);
  make(path);
  return readFileSync(path);
}

const everyUnit = Array.from({ length: 0x10000 }, (_none, unit) => unit);
/** Units that the two raise differently; none where they agree. */
const apart = (one: ArrayLike<number>, other: ArrayLike<number>) =>
  everyUnit.filter((unit) => one[unit] !== other[unit]);

describe('the up-case table', () => {
  it('of exFAT is the one that lies on a fresh volume', () => {
    const image = volume('exfat.img', 64 * 1024 ** 2, (path) => tool('mkfs.exfat', [path]));
    // exFAT specification, 3.1 (boot sector) and 7.2 (up-case table directory entry, type 0x82).
    const sector = 1 << (image[108] ?? 0);
    const cluster = sector << (image[109] ?? 0);
    const start = (number: number) => image.readUInt32LE(88) * sector + (number - 2) * cluster;
    const root = start(image.readUInt32LE(96));
    const entry = [...Array(cluster / 32).keys()].find((at) => image[root + at * 32] === 0x82) ?? -1;
    const at = root + entry * 32;
    const stored = image.subarray(
      start(image.readUInt32LE(at + 20)),
      start(image.readUInt32LE(at + 20)) + Number(image.readBigUInt64LE(at + 24)),
    );
    const table = [...everyUnit];
    let unit = 0;
    for (let place = 0; place < stored.length; place += 2) {
      const value = stored.readUInt16LE(place);
      // Compressed: 0xFFFF, then how many units stay as they are.
      if (value === 0xffff && place + 2 < stored.length) {
        unit += stored.readUInt16LE(place + 2);
        place += 2;
      } else {
        table[unit] = value;
        unit += 1;
      }
    }
    expect(unit).toBe(0x10000);
    expect(apart(upcaseTable('exfat'), table)).toEqual([]);
    expect(everyUnit.filter((one) => table[one] !== one).length).toBeGreaterThan(500);
  });

  it('of NTFS is the one that lies on a fresh volume', () => {
    const image = volume('ntfs.img', 16 * 1024 ** 2, (path) => tool('mkfs.ntfs', ['-q', '-F', path]));
    // It is one run of 128 KiB that begins like this: every unit below “a” is itself.
    const beginning = Buffer.alloc(0x61 * 2);
    for (let unit = 0; unit < 0x61; unit += 1) beginning.writeUInt16LE(unit, unit * 2);
    const start = image.indexOf(beginning);
    expect(start).toBeGreaterThan(0);
    const table = everyUnit.map((unit) => image.readUInt16LE(start + unit * 2));
    expect(apart(upcaseTable('ntfs'), table)).toEqual([]);
    expect(table[0x61]).toBe(0x41);
  });

  it('folds as volumes do, and not as languages do', () => {
    expect(raised('Straße ärger', 'exfat')).toBe('STRAßE ÄRGER');
    const same = (one: string, other: string) =>
      foldedName(one, fileSystemLimit('ntfs')) === foldedName(other, fileSystemLimit('ntfs'));
    expect(same('ΣΊΣΥΦΟΣ', 'σίσυφοσ')).toBe(true);
    // The sign for kelvin is no k, the dotted capital I no i, and a final sigma no sigma.
    expect([same('\u212a', 'k'), same('\u0130', 'i'), same('σ', 'ς')]).toEqual([false, false, false]);
  });
});
