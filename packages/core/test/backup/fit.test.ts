import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  checkFiles,
  faultOfName,
  foldedName,
  folderTree,
  legalName,
  liesIn,
  emptyShelf,
  pack,
  packHelp,
  soldSizes,
  planRenames,
  renameBack,
  renamer,
  type Parcel,
  type Shelf,
} from '../../src/backup';
import { fileSystemLimit, fileSystems, type FileSystemId } from '../../src/catalogue';
import { entriesOf, packList } from '../../src/manifest';
import { anyPath, file } from '../fixtures/fileList';

const gib = 1024 ** 3;
const sized = (path: string, sizeBytes: number) => file(path, '', { sizeBytes });
const codes = (fileSystem: FileSystemId, ...files: readonly ReturnType<typeof file>[]) =>
  checkFiles(packList(files), fileSystem).faults.map(({ code }) => code);

describe('what a file system refuses', () => {
  it.each([
    ['a colon', 'notes: march.txt', 'forbidden-character'],
    ['a question mark', 'why?.txt', 'forbidden-character'],
    ['a full stop at the end', 'etc.', 'forbidden-ending'],
    ['a space at the end of a folder', 'letters /a.txt', 'forbidden-ending'],
    ['the printer of old', 'LPT1.txt', 'reserved-name'],
    ['the same with blanks before its ending', 'LPT1  .txt', 'reserved-name'],
    ['the keyboard of old', 'conin$', 'reserved-name'],
    ['256 letters', 'x'.repeat(256), 'name-too-long'],
  ] as const)('on exFAT: %s', (_what, path, code) => {
    expect(codes('exfat', file(path, ''))).toContain(code);
    if (code !== 'name-too-long') expect(codes('ext4', file(path, ''))).toEqual([]);
  });

  it('takes 255 letters everywhere, but not 255 letters of two bytes each on ext4', () => {
    const name = 'ä'.repeat(255);
    expect(faultOfName(name, fileSystemLimit('ntfs'))).toBeNull();
    expect(faultOfName(name, fileSystemLimit('ext4'))).toBe('name-too-long');
    expect(faultOfName('x'.repeat(255), fileSystemLimit('ext4'))).toBeNull();
  });

  it('does not mistake names for devices', () => {
    for (const name of ['console.txt', 'com10.txt', 'auxiliary', 'nul-and-void'])
      expect(faultOfName(name, fileSystemLimit('ntfs'))).toBeNull();
  });

  it('finds names that differ in case or in Unicode form only, and tells which', () => {
    // é as one character, and as e with an accent of its own.
    const composed = 'Caf\u00e9.txt';
    const apart = 'Cafe\u0301.txt';
    expect(codes('ntfs', file('Plan.txt', ''), file('PLAN.txt', ''))).toEqual(['same-but-for-case']);
    // On a volume these are two names; what a share makes of them only its server knows.
    expect(codes('ntfs', file(composed, ''), file(apart, ''))).toEqual([]);
    expect(codes('network', file(composed, ''), file(apart, ''))).toContain('same-but-for-form');
    expect(codes('ext4', file(composed, ''), file(apart, ''), file('Plan', ''), file('PLAN', ''))).toEqual(
      [],
    );
  });

  it('counts a file of 4 GiB against FAT32, says into how many parts, and not one byte less', () => {
    const { faults } = checkFiles(
      packList([sized('film.bin', 9 * gib), sized('ok.bin', 4 * gib - 1)]),
      'fat32',
    );
    // 9 GiB ÷ (4 GiB − 1 byte): two parts are 8 GiB − 2 bytes, so three.
    expect(faults[0]).toMatchObject({ code: 'too-large', count: 1, blocks: true, remedy: 'split' });
    expect(faults[0]?.sentence).toContain('into 3 parts');
  });

  it('tells a path that older programs cannot open from one that the system itself refuses', () => {
    const folder = 'f'.repeat(120);
    const { faults } = checkFiles(packList([file(`${folder}/${folder}/x`, '')]), 'ntfs', 20);
    // 120 + 1 + 120 + 1 + 1 + 20 = 263.
    expect(faults).toMatchObject([{ code: 'path-long-for-older-programs', blocks: false }]);
    const deep = `${Array.from({ length: 40 }, () => folder).join('/')}/x`;
    expect(codes('ext4', file(deep, ''))).toEqual(['path-too-long']);
  });

  it('says what is lost in silence: links, rights, and files that could not be read', () => {
    expect(
      codes('exfat', file('a', '', { trouble: 'link' }), file('b', '', { trouble: 'unreadable' })),
    ).toEqual(['link-lost', 'not-readable', 'rights-lost']);
    expect(codes('ext4', file('a', '', { trouble: 'link' }))).toEqual([]);
  });

  it('gives names that stay recognisable', () => {
    const ntfs = fileSystemLimit('ntfs');
    expect(legalName('why?.txt', ntfs, () => false)).toBe('why_.txt');
    expect(legalName('aux.c', ntfs, () => false)).toBe('aux_.c');
    expect(legalName('etc.', ntfs, () => false)).toBe('etc_');
    expect(legalName('A.txt', ntfs, (folded) => folded === 'A.TXT')).toBe('A (2).txt');
    expect(legalName(`${'x'.repeat(300)}.txt`, ntfs, () => false)).toBe(`${'x'.repeat(251)}.txt`);
  });
});

describe('a list of renames', () => {
  const anyFileSystem = fc.constantFrom(...fileSystems.map(({ id }) => id));

  it('followed by its inverse is the identity', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyPath, { maxLength: 25 }), anyFileSystem, (paths, fileSystem) => {
        const renames = planRenames(paths, fileSystemLimit(fileSystem));
        const there = renamer(renames);
        const back = renameBack(renames);
        for (const path of paths) expect(back(there(path))).toBe(path);
      }),
    );
  });

  it('leaves no name that the file system refuses, and no two that it takes for one', () => {
    fc.assert(
      fc.property(fc.uniqueArray(anyPath, { maxLength: 25 }), anyFileSystem, (paths, fileSystem) => {
        const limit = fileSystemLimit(fileSystem);
        const there = paths.map(renamer(planRenames(paths, limit)));
        for (const path of there)
          for (const name of path.split('/')) expect(faultOfName(name, limit)).toBeNull();
        const folded = there.map((path) =>
          path
            .split('/')
            .map((name) => foldedName(name, limit))
            .join('/'),
        );
        expect(new Set(folded).size).toBe(paths.length);
      }),
    );
  });

  it('touches nothing that may stay', () => {
    expect(planRenames(['a/b.txt', 'a/c?.txt'], fileSystemLimit('exfat'))).toEqual([
      { folder: 'a', from: 'c?.txt', to: 'c_.txt', because: 'forbidden-character' },
    ]);
  });
});

describe('packing', () => {
  /** Sizes below are tens of megabytes: clusters and folders are small beside them. */
  const unit = 10_000_000;
  const cluster = 32_768;
  const tree = (files: Readonly<Record<string, number>>) =>
    folderTree(packList(Object.entries(files).map(([path, size]) => sized(path, size * unit))), [cluster]);
  const parcel = (dataSetId: string, files: Readonly<Record<string, number>>, copies = 1): Parcel => ({
    dataSetId,
    name: dataSetId,
    tree: tree(files),
    copies,
  });
  const shelf = (id: string, freeBytes: number, fileSystem: FileSystemId = 'exfat'): Shelf => ({
    id,
    name: id,
    freeBytes: freeBytes * unit,
    fileSystem,
    clusterBytes: cluster,
  });
  const short = (packing: ReturnType<typeof pack>) =>
    packing.placements.map(({ shelfId, dataSetId, path }) => `${dataSetId}:${path}→${shelfId}`);

  it('keeps a data set whole where it can, on the drive that it fills best', () => {
    const packed = pack(
      [parcel('photos', { 'a/1': 60, 'b/2': 30 })],
      [shelf('big', 500), shelf('small', 100)],
    );
    expect(short(packed)).toEqual(['photos:→small']);
    // 90 units of files, and less than 1 MB for clusters, folders and names.
    expect(packed.freeAfter.big).toBe(500 * unit);
    expect(packed.freeAfter.small).toBeLessThan(10 * unit);
    expect(packed.freeAfter.small).toBeGreaterThan(9.9 * unit);
  });

  it('splits by folder where it must', () => {
    const packed = pack(
      [parcel('photos', { 'a/1': 60, 'a/2': 20, 'b/3': 50 })],
      [shelf('x', 101), shelf('y', 60)],
    );
    expect(short(packed)).toEqual(['photos:a→x', 'photos:b→y']);
  });

  it('puts second copies on another drive, and says when there is none', () => {
    const packed = pack([parcel('photos', { 'a/1': 60 }, 2)], [shelf('x', 500)]);
    expect(short(packed)).toEqual(['photos:→x']);
    expect(packed.left[0]?.sentence).toContain('a second copy needs a second drive');
  });

  it('says what is missing: room, or another file system', () => {
    expect(pack([parcel('photos', { 'a/1': 600 })], [shelf('x', 500)]).left[0]?.sentence).toContain(
      '1.0 GB (953.7 MiB) too little',
    );
    expect(
      pack([parcel('film', { a: (5 * gib) / unit })], [shelf('x', (9 * gib) / unit, 'fat32')]).left[0]
        ?.sentence,
    ).toContain('takes no file that large');
  });

  describe('says what would help, and it does', () => {
    const kinds = (parcels: readonly Parcel[], shelves: readonly Shelf[]) =>
      packHelp(parcels, shelves).map(({ kind, sizeBytes }) => [kind, sizeBytes]);
    const gigabytes = (count: number) => (count * 1e9) / unit;

    it('nothing where everything has its place', () => {
      expect(packHelp([parcel('photos', { a: 60 })], [shelf('x', 500)])).toEqual([]);
    });

    it('another drive, or a larger one: worked by hand', () => {
      // 100 GB in two copies, and one drive of 110 GB: the second copy needs a drive of its own, 128 GB as sold.
      expect(kinds([parcel('photos', { a: gigabytes(100) }, 2)], [shelf('x', gigabytes(110))])).toEqual([
        ['first-copies', null],
        ['another', 128e9],
      ]);
      // 300 GB in one piece onto a drive of 110: another of 512, or one of 512 instead.
      expect(kinds([parcel('film', { a: gigabytes(300) })], [shelf('x', gigabytes(110))])).toEqual([
        ['another', 512e9],
        ['larger', 512e9],
      ]);
      // Nothing is there at all, and two copies are wanted.
      expect(kinds([parcel('photos', { a: gigabytes(50) }, 2)], [])).toEqual([
        ['two-more', 64e9],
        ['first-copies', 64e9],
      ]);
    });

    it('another file system', () => {
      const helps = packHelp([parcel('film', { a: gigabytes(5) })], [shelf('x', gigabytes(9), 'fat32')]);
      expect(helps[0]?.kind).toBe('format');
      expect(helps[0]?.sentence).toContain('erases what is on it');
    });

    it('is tried: with it nothing is left over, and with the next smaller drive something is', () => {
      let helped = 0;
      const size = fc.integer({ min: 1, max: 900 }).map((gb) => gigabytes(gb));
      fc.assert(
        fc.property(
          fc.array(fc.tuple(size, fc.integer({ min: 1, max: 2 })), { minLength: 1, maxLength: 4 }),
          fc.array(size, { maxLength: 3 }),
          (sets, rooms) => {
            const parcels = sets.map(([bytes, copies], index) =>
              parcel(`set ${index}`, { a: bytes }, copies),
            );
            const shelves = rooms.map((room, index) => shelf(`drive ${index}`, room));
            for (const { kind, shelfId, sizeBytes } of packHelp(parcels, shelves)) {
              if (sizeBytes === null || kind === 'first-copies') continue;
              const left = (bytes: number) => {
                const bought = emptyShelf('bought', bytes);
                const then =
                  kind === 'larger'
                    ? shelves.map((one) => (one.id === shelfId ? bought : one))
                    : [...shelves, bought, ...(kind === 'two-more' ? [{ ...bought, id: 'second' }] : [])];
                return pack(parcels, then).left.length;
              };
              expect(left(sizeBytes)).toBe(0);
              const before = soldSizes[soldSizes.findIndex((one) => one === sizeBytes) - 1];
              if (before !== undefined) expect(left(before)).toBeGreaterThan(0);
              helped += 1;
            }
          },
        ),
        { numRuns: 60 },
      );
      expect(helped).toBeGreaterThan(40);
    });
  });

  it('finds room for all of them whole where the largest first would not', () => {
    // 4 + 3 + 3 on each of two drives of 10 (and a little for clusters); the largest first would put both fours together.
    const sizes = [4, 4, 3, 3, 3, 3];
    const packed = pack(
      sizes.map((size, index) => parcel(`set-${index}`, { 'a/1': size })),
      [shelf('x', 10.1), shelf('y', 10.1)],
    );
    expect(packed.left).toEqual([]);
    expect(packed.placements.map(({ path }) => path)).toEqual(sizes.map(() => ''));
  });

  it('leaves nothing out, and nothing apart, wherever everything can be whole: compared with trying all', () => {
    const places = (shelves: readonly Shelf[], copies: number) =>
      shelves.flatMap((one, index) =>
        copies === 1 ? [[one]] : shelves.slice(index + 1).map((other) => [one, other]),
      );
    const possible = (
      sets: readonly (readonly [size: number, copies: number])[],
      shelves: readonly Shelf[],
      free: ReadonlyMap<Shelf, number>,
    ): boolean => {
      const [set, ...rest] = sets;
      if (!set) return true;
      const [size, copies] = set;
      // A folder and a file: two clusters for folders, six entries for three names at most.
      const needed = Math.ceil((size * unit) / cluster) * cluster + 2 * cluster + 32 * 6;
      return places(shelves, copies).some(
        (way) =>
          way.every((one) => (free.get(one) ?? 0) >= needed) &&
          possible(
            rest,
            shelves,
            new Map([...free].map(([one, room]) => [one, way.includes(one) ? room - needed : room])),
          ),
      );
    };
    let whole = 0;
    let not = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.constantFrom(1, 2)), {
          minLength: 1,
          maxLength: 5,
        }),
        fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 1, maxLength: 3 }),
        (sets, rooms) => {
          const shelves = rooms.map((room, index) => shelf(`drive-${index}`, room + 0.1));
          const packed = pack(
            sets.map(([size, copies], index) => parcel(`set-${index}`, { 'a/1': size }, copies)),
            shelves,
          );
          const can = possible(sets, shelves, new Map(shelves.map((one) => [one, one.freeBytes])));
          if (can) {
            whole += 1;
            expect(packed.left).toEqual([]);
            expect(packed.placements.every(({ path }) => path === '')).toBe(true);
          } else {
            not += 1;
            expect(packed.left.length).toBeGreaterThan(0);
          }
        },
      ),
      { numRuns: 300 },
    );
    expect(Math.min(whole, not)).toBeGreaterThan(40);
  });

  const anyFiles = fc.dictionary(
    fc
      .tuple(fc.constantFrom('a', 'b', 'b/c', 'd'), fc.constantFrom('1', '2', '3', '4'))
      .map(([folder, name]) => `${folder}/${name}`),
    fc.integer({ min: 0, max: 100 }),
    { minKeys: 1, maxKeys: 10, noNullPrototype: true },
  );

  it('never fills a drive beyond its room, never loses a file, never puts two copies on one drive', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(anyFiles, fc.integer({ min: 1, max: 2 })), { minLength: 1, maxLength: 4 }),
        fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 4 }),
        (sets, rooms) => {
          const parcels = sets.map(([files, copies], index) => parcel(`set-${index}`, files, copies));
          const shelves = rooms.map((room, index) => shelf(`drive-${index}`, room));
          const { placements, left } = pack(parcels, shelves);
          for (const { id, freeBytes } of shelves) {
            // Each file in whole clusters, calculated here from the files themselves.
            const there = placements
              .filter(({ shelfId }) => shelfId === id)
              .flatMap(({ dataSetId, path }) => {
                const files = sets[Number(dataSetId.slice('set-'.length))]?.[0] ?? {};
                return Object.entries(files).filter(([file]) => liesIn(file, [path]));
              });
            const taken = there.reduce(
              (sum, [, size]) => sum + Math.ceil((size * unit) / cluster) * cluster,
              0,
            );
            expect(taken).toBeLessThanOrEqual(freeBytes);
          }
          sets.forEach(([files, copies], index) => {
            for (const path of Object.keys(files)) {
              const drives = placements
                .filter((one) => one.dataSetId === `set-${index}` && liesIn(path, [one.path]))
                .map(({ shelfId }) => shelfId);
              const missing = left.filter(
                (one) => one.dataSetId === `set-${index}` && liesIn(path, [one.path]),
              ).length;
              expect(new Set(drives).size).toBe(drives.length);
              expect(drives.length + missing).toBe(copies);
            }
          });
        },
      ),
    );
  });

  it('sums a tree up without losing a byte', () => {
    fc.assert(
      fc.property(anyFiles, (files) => {
        const list = packList(Object.entries(files).map(([path, size]) => sized(path, size)));
        const root = folderTree(list);
        const leaves = (node: typeof root): number =>
          node.children.length === 0
            ? node.sizeBytes
            : node.children.reduce((sum, child) => sum + leaves(child), 0);
        expect(root.fileCount).toBe(list.count);
        expect(leaves(root)).toBe(
          [...entriesOf(list)].reduce((sum, { sizeBytes }) => sum + (sizeBytes ?? 0), 0),
        );
      }),
    );
  });
});
