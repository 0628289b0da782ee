import { mkdirSync, mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { checkFiles, clusterOf, folderTree, neededOn, ShapeCounter } from '../../src/backup';
import type { FileSystemId } from '../../src/catalogue';
import { packList } from '../../src/manifest';
import { tool } from '../fixtures/diskTools';
import { file } from '../fixtures/fileList';
import { seeded } from '../fixtures/disks';

const sized = (path: string, sizeBytes: number) => file(path, '', { sizeBytes });

let folder = '';
const at = (name: string) => join(folder, name);

/** Files of many sizes in folders of many depths, with short names and long ones. */
const files: readonly (readonly [path: string, size: number])[] = (() => {
  const random = seeded(77);
  const pick = (max: number) => (((random(1)[0] ?? 0) << 8) | (random(1)[0] ?? 0)) % max;
  return Array.from({ length: 160 }, (_none, index) => {
    const depth = pick(4);
    const folders = Array.from({ length: depth }, () => `folder ${pick(4)}${'-long'.repeat(pick(5))}`);
    const name = `${'n'.repeat(1 + pick(40))}${index}.txt`;
    return [[...folders, name].join('/'), pick(5) === 0 ? 0 : pick(60_000)] as const;
  });
})();

const amount = () => {
  const counter = new ShapeCounter();
  for (const [path, size] of files) counter.add(path, size);
  return {
    sizeBytes: files.reduce((sum, [, size]) => sum + size, 0),
    fileCount: files.length,
    shape: counter.value(),
  };
};

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'ulvane-clusters-'));
  for (const [path, size] of files) {
    mkdirSync(dirname(at(`set/${path}`)), { recursive: true });
    writeFileSync(at(`set/${path}`), Buffer.alloc(size, 'tide'));
  }
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function blank(name: string, bytes: number): string {
  writeFileSync(at(name), '');
  truncateSync(at(name), bytes);
  return at(name);
}

/** Free bytes by the file system’s own tool. */
const fatFree = (path: string) =>
  Number(/([\d\s]+) bytes free/.exec(tool('mdir', ['-i', path, '::']))?.[1]?.replaceAll(/\s/g, ''));

describe('room that files take', () => {
  it.each([
    [4096, 8],
    [32_768, 64],
  ])('on FAT32 with clusters of %i bytes: as its own tools count it', (clusterBytes, perCluster) => {
    const path = blank(`fat-${clusterBytes}.img`, 66_000 * clusterBytes);
    tool('mkfs.vfat', ['-F', '32', '-s', String(perCluster), path]);
    const before = fatFree(path);
    tool('mcopy', ['-s', '-i', path, at('set'), '::']);
    const taken = before - fatFree(path);
    const { bytes, fromList } = neededOn(amount(), { fileSystem: 'fat32', clusterBytes });
    expect(fromList).toBe(true);
    // Never less than it takes, and not more than a cluster a folder above it.
    expect(bytes).toBeGreaterThanOrEqual(taken);
    expect(bytes - taken).toBeLessThanOrEqual(amount().shape.folders * clusterBytes + 64 * files.length * 6);
    // The bytes of the files alone would have promised too much.
    expect(amount().sizeBytes).toBeLessThan(taken);
  });

  it('on ext4 and NTFS: never less than it takes', () => {
    const ext = blank('ext.img', 64 * 1024 ** 2);
    const free = () =>
      Number(/^Free blocks:\s+(\d+)/m.exec(tool('dumpe2fs', ['-h', ext]))?.[1] ?? Number.NaN);
    tool('mkfs.ext4', ['-q', '-F', '-b', '4096', ext]);
    const empty = free();
    tool('mkfs.ext4', ['-q', '-F', '-b', '4096', '-d', at('set'), ext]);
    const taken = (empty - free()) * 4096;
    const { bytes } = neededOn(amount(), { fileSystem: 'ext4' });
    expect(taken).toBeGreaterThan(amount().sizeBytes);
    expect(bytes).toBeGreaterThanOrEqual(taken);

    const ntfs = blank('ntfs.img', 64 * 1024 ** 2);
    tool('mkfs.ntfs', ['-q', '-F', '-c', '4096', ntfs]);
    const clusters = () =>
      Number(/Free Clusters:\s+(\d+)/.exec(tool('ntfsinfo', ['-m', '-f', ntfs]))?.[1] ?? Number.NaN);
    const start = clusters();
    const flat = files
      .slice(0, 60)
      .map(([path, size], index) => [`${index}-${path.split('/').at(-1) ?? ''}`, size] as const);
    const counter = new ShapeCounter();
    for (const [index, [name, size]] of flat.entries()) {
      tool('ntfscp', [ntfs, at(`set/${files[index]?.[0] ?? ''}`), name]);
      counter.add(name, size);
    }
    const onNtfs = neededOn(
      {
        sizeBytes: flat.reduce((sum, [, size]) => sum + size, 0),
        fileCount: flat.length,
        shape: counter.value(),
      },
      { fileSystem: 'ntfs' },
    );
    expect(onNtfs.bytes).toBeGreaterThanOrEqual((start - clusters()) * 4096);
  });

  it('without a list is more than with one, whatever the files are', () => {
    let judged = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.array(fc.constantFrom('a', 'b', 'cc'), { maxLength: 1 }),
            fc.string({ minLength: 1, maxLength: 12, unit: fc.constantFrom('x', 'y', 'z') }),
            fc.integer({ min: 0, max: 3_000_000 }),
          ),
          { minLength: 10, maxLength: 40 },
        ),
        fc.constantFrom<FileSystemId>('fat32', 'exfat', 'ntfs', 'ext4'),
        (list, fileSystem) => {
          const counter = new ShapeCounter();
          let sizeBytes = 0;
          for (const [folders, name, size] of list) {
            counter.add([...folders, name].join('/'), size);
            sizeBytes += size;
          }
          const bare = { sizeBytes, fileCount: list.length };
          const listed = neededOn({ ...bare, shape: counter.value() }, { fileSystem });
          // As many folders as are taken for granted, or fewer.
          if (counter.value().folders > Math.ceil(list.length / 5) + 1) return;
          judged += 1;
          expect(neededOn(bare, { fileSystem }).bytes).toBeGreaterThanOrEqual(listed.bytes);
          expect(listed.bytes).toBeGreaterThanOrEqual(sizeBytes);
        },
      ),
    );
    expect(judged).toBeGreaterThan(50);
  });

  it('is the same by folder in a tree as file by file', () => {
    const tree = folderTree(packList(files.map(([path, size]) => sized(path, size))), [4096, 32_768]);
    const { shape } = amount();
    expect(tree.shape).toMatchObject({
      folders: shape.folders,
      fatEntries: shape.fatEntries,
      exfatEntries: shape.exfatEntries,
      sums: { 4096: shape.sums['4096'], 32768: shape.sums['32768'] },
    });
  });

  it('takes the largest usual cluster where nobody has looked', () => {
    const large = 64 * 1024 ** 3;
    expect(clusterOf({ fileSystem: 'exfat', capacityBytes: large })).toBe(131_072);
    expect(clusterOf({ fileSystem: 'exfat', capacityBytes: large, clusterBytes: 4096 })).toBe(4096);
  });
});

describe('a folder of FAT32', () => {
  it('takes 65,534 entries: names of 13 letters take two each', () => {
    const list = (count: number) =>
      packList(
        Array.from({ length: count }, (_none, index) => sized(`in/${String(index).padStart(13, '0')}`, 1)),
      );
    const faults = (count: number, fileSystem: FileSystemId) =>
      checkFiles(list(count), fileSystem).faults.map(({ code }) => code);
    expect(faults(32_767, 'fat32')).not.toContain('folder-too-full');
    expect(faults(32_768, 'fat32')).toContain('folder-too-full');
    expect(faults(32_768, 'exfat')).not.toContain('folder-too-full');
  });
});
