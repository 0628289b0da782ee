import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  applyLayout,
  applyWrites,
  gptBounds,
  encodeTable,
  planConversion,
  planLayout,
  readPartitionTable,
  recogniseContent,
  undoCapsule,
  type ConversionPlan,
  type PartitionTable,
  type Resolution,
  type SectorSource,
  type TablePartition,
} from '../../src/disk';
import { seeded } from '../fixtures/disks';
import {
  imageSource,
  complaintsOf,
  makeSystem,
  makeTable,
  partitionsByPartx,
  patchBytes,
  put,
  readOut,
  sliceOut,
  tool,
  writeFiles,
  writeInto,
  writeWhole,
  type AskedPartition,
  type MadeSystem,
} from '../fixtures/diskTools';

const mib = 2048;
const random = seeded(5);
let folder = '';
const files = ['note.txt', 'photo.bin'] as const;
const at = (name: string) => join(folder, name);

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'ulvane-disk-'));
  writeFiles(at('files'), seeded(3)(700_000));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function tableOf(source: SectorSource): PartitionTable {
  const table = readPartitionTable(source);
  if (!table.ok) throw new Error(table.problems[0]?.sentence);
  return table.value;
}

function converted(
  source: SectorSource,
  target: 'gpt' | 'mbr',
  resolutions: readonly Resolution[],
  more = {},
): ConversionPlan {
  const plan = planConversion(source, target, { random, resolutions, ...more });
  if (!plan.ok) throw new Error(plan.problems.map(({ code, sentence }) => `${code}: ${sentence}`).join('\n'));
  return plan.value;
}

type Held = { readonly kind: MadeSystem; readonly startLba: number; readonly sectorCount: number };

/** Every file of every partition, read by the file system's own reader out of the image. */
function expectFiles(path: string, sectorSizeBytes: number, held: readonly Held[]): void {
  const source = imageSource(path, sectorSizeBytes);
  for (const { kind, startLba, sectorCount } of held) {
    const slice = sliceOut(source, startLba, sectorCount, at('slice.img'));
    for (const name of files)
      expect(
        Buffer.compare(readOut(kind, slice, name), readFileSync(at(`files/${name}`))),
        `${kind} ${name}`,
      ).toBe(0);
  }
}

const places = (table: PartitionTable) =>
  table.partitions.map(({ number, startLba, sectorCount }) => [number, startLba, sectorCount]);

describe('what is in a partition', () => {
  it.each([
    ['fat32', 40],
    ['exfat', 20],
    ['ntfs', 20],
    ['ext2', 20],
    ['ext3', 20],
    ['ext4', 20],
    ['btrfs', 120],
    ['xfs', 320],
    ['swap', 10],
    ['luks', 32],
  ] as const)('%s, as its own maker made it', (kind, mebibytes) => {
    const path = at(`${kind}.img`);
    makeSystem(kind, path, 'PIER', at('files'), mebibytes * 1024 ** 2);
    const source = imageSource(path, 512);
    const content = recogniseContent(source, 0, source.sectorCount);
    expect(content?.kind).toBe(kind);
    expect(content?.label).toBe('PIER');
    const told = tool('blkid', ['-p', '-o', 'value', '-s', 'TYPE', path]).trim();
    expect({ fat32: 'vfat', luks: 'crypto_LUKS' }[kind as string] ?? kind).toBe(told);
    if (content?.spansBytes !== undefined)
      expect(content.spansBytes).toBeLessThanOrEqual(mebibytes * 1024 ** 2);
  });

  it('counts used bytes as the file systems’ own tools do', () => {
    makeSystem('ext4', at('used.img'), 'PIER', at('files'), 20 * 1024 ** 2);
    const told = tool('dumpe2fs', ['-h', at('used.img')]);
    const number = (name: string) => Number(new RegExp(`^${name}:\\s+(\\d+)`, 'm').exec(told)?.[1]);
    const source = imageSource(at('used.img'), 512);
    expect(recogniseContent(source, 0, source.sectorCount)?.usedBytes).toBe(
      (number('Block count') - number('Free blocks')) * number('Block size'),
    );
    makeSystem('fat32', at('used.img'), 'PIER', at('files'), 40 * 1024 ** 2);
    const free = Number(
      /([\d\s]+) bytes free/.exec(tool('mdir', ['-i', at('used.img'), '::']))?.[1]?.replaceAll(/\s/g, ''),
    );
    const fat = recogniseContent(imageSource(at('used.img'), 512), 0, 81_920);
    expect((fat?.spansBytes ?? 0) - (fat?.usedBytes ?? 0)).toBe(free);
  });

  it('recognises nothing in noise, and nothing in less than a sector of it', () => {
    expect(
      recogniseContent(
        { sectorSizeBytes: 512, sectorCount: 200, read: (_lba, count) => random(count * 512) },
        0,
        200,
      ),
    ).toBeUndefined();
  });
});

describe('an MBR disk with four file systems and a chain of logical partitions', () => {
  const held: readonly Held[] = [
    { kind: 'fat32', startLba: mib, sectorCount: 40 * mib },
    { kind: 'ext4', startLba: 41 * mib, sectorCount: 24 * mib },
    { kind: 'ntfs', startLba: 66 * mib, sectorCount: 24 * mib },
    // The last one runs to the disk's last sector; its file system ends 1 MiB earlier.
    { kind: 'ext4', startLba: 91 * mib, sectorCount: 24 * mib },
  ];
  const sectorCount = 115 * mib;
  const build = (path: string) => {
    const last = (one: Held) => one.startLba + one.sectorCount - 1;
    makeTable(path, sectorCount * 512, 'msdos', [
      ...held.slice(0, 2).map((one): AskedPartition => ['primary', one.kind, one.startLba, last(one)]),
      ['extended', '', 65 * mib, sectorCount - 1],
      ...held.slice(2).map((one): AskedPartition => ['logical', one.kind, one.startLba, last(one)]),
    ]);
    patchBytes(path, 440, [0x5c, 0xd1, 0xa7, 0xb0]);
    held.forEach(({ kind, startLba, sectorCount: length }, index) => {
      const bytes = length * 512;
      makeSystem(
        kind,
        at('part.img'),
        `P${index}`,
        at('files'),
        bytes,
        index === 3 ? bytes - 1024 ** 2 : bytes,
      );
      put(path, at('part.img'), startLba, 512);
    });
  };

  it('is read as the system reads it', () => {
    build(at('mbr.img'));
    const table = tableOf(imageSource(at('mbr.img'), 512));
    expect(table.findings).toEqual([]);
    expect(table.diskId).toBe('B0A7D15C');
    expect(places(table)).toEqual(partitionsByPartx(at('mbr.img'), 512).filter(([number]) => number !== 3));
    expect(table.partitions.map(({ content }) => content?.kind)).toEqual(['fat32', 'ext4', 'ntfs', 'ext4']);
    expect(table.partitions.map(({ label }) => label)).toEqual(['P0', 'P1', 'P2', 'P3']);
    expectFiles(at('mbr.img'), 512, held);
  });

  it('goes to GPT, back to MBR, and by its capsule to the very bytes, with every file', () => {
    const path = at('there.img');
    build(path);
    const original = readFileSync(path);
    const source = imageSource(path, 512);
    const plan = converted(source, 'gpt', [
      { kind: 'no-efi' },
      { kind: 'logical-to-entry' },
      { kind: 'shrink', partition: 6, bySectors: 33 },
    ]);
    const capsule = undoCapsule(source, plan.writes);
    if (!capsule.ok) throw new Error(capsule.problems[0]?.sentence);
    writeInto(path, plan.writes, 512);

    expect(tool('blkid', ['-p', '-o', 'value', '-s', 'PTTYPE', path]).trim()).toBe('gpt');
    expect(complaintsOf(path)).toEqual([]);
    expect(partitionsByPartx(path, 512)).toEqual(places(plan.after));
    expectFiles(
      path,
      512,
      held.map((one, index) => (index === 3 ? { ...one, sectorCount: one.sectorCount - 33 } : one)),
    );

    const gpt = imageSource(path, 512);
    const back = converted(gpt, 'mbr', [], { remembered: plan.remembered });
    expect(back.after.partitions.map(({ startLba, typeCode }) => [startLba, typeCode])).toEqual([
      [mib, '0x0C'],
      [41 * mib, '0x83'],
      [66 * mib, '0x07'],
      [91 * mib, '0x83'],
    ]);
    const logical = converted(gpt, 'mbr', [{ kind: 'entry-to-logical', partitions: [5, 6] }], {
      remembered: plan.remembered,
    });
    writeInto(at('there.img'), logical.writes, 512);
    expect(tool('blkid', ['-p', '-o', 'value', '-s', 'PTTYPE', path]).trim()).toBe('dos');
    expect(
      partitionsByPartx(path, 512).filter(([, , length]) => length !== logical.after.extended?.sectorCount),
    ).toEqual(places(logical.after));
    expect(tool('blkid', ['-p', '-o', 'value', '-s', 'PTUUID', path]).trim()).toBe('b0a7d15c');
    expectFiles(path, 512, held.slice(0, 3));

    writeFileSync(path, original);
    writeInto(path, plan.writes, 512);
    const undone = applyWrites(imageSource(path, 512), capsule.value.writes);
    if (!undone.ok) throw new Error();
    writeWhole(at('undone.img'), undone.value);
    expect(Buffer.compare(readFileSync(at('undone.img')), original)).toBe(0);
  });

  it('broken off after any write, there and back, is read by the system with every partition', () => {
    const path = at('broken.img');
    build(path);
    const startsBySystem = () =>
      partitionsByPartx(path, 512)
        // An extended partition holds nothing of its own; the system lists it with two sectors or more.
        .filter(([, startLba]) => held.some((one) => one.startLba === startLba))
        .map(([, startLba]) => startLba);
    const all = held.map(({ startLba }) => startLba);
    const resolutions: Resolution[] = [
      { kind: 'no-efi' },
      { kind: 'logical-to-entry' },
      { kind: 'shrink', partition: 6, bySectors: 33 },
    ];
    const there = converted(imageSource(path, 512), 'gpt', resolutions);
    let states = 0;
    const writeOneByOne = (writes: typeof there.writes) => {
      for (const write of writes) {
        writeInto(path, [write], 512);
        expect([write.startLba, write.about, startsBySystem()]).toEqual([write.startLba, write.about, all]);
        states += 1;
      }
    };
    writeOneByOne(there.writes);
    const back = converted(
      imageSource(path, 512),
      'mbr',
      [{ kind: 'entry-to-logical', partitions: [5, 6] }],
      {
        remembered: there.remembered,
      },
    );
    const undo = undoCapsule(imageSource(path, 512), back.writes);
    if (!undo.ok) throw new Error();
    writeOneByOne(back.writes);
    writeOneByOne(undo.value.writes);
    expect(states).toBe(there.writes.length + 2 * back.writes.length);
    expect(states).toBeGreaterThan(150);
  });

  it('makes an EFI system partition that can be formatted and read', () => {
    const path = at('efi.img');
    build(path);
    truncateSync(path, (sectorCount + 110 * mib) * 512);
    const plan = converted(imageSource(path, 512), 'gpt', [
      { kind: 'logical-to-entry' },
      { kind: 'make-efi', startLba: 115 * mib, sectorCount: 100 * mib },
    ]);
    writeInto(path, plan.writes, 512);
    expect(complaintsOf(path)).toEqual([]);
    const made = plan.after.partitions.at(-1);
    expect(tool('partx', ['-g', '-n', String(made?.number), '-o', 'TYPE', path]).trim()).toBe(
      'c12a7328-f81f-11d2-ba4b-00a0c93ec93b',
    );
    // The other reader does speak up: one byte of the backup's header is enough.
    const whole = readFileSync(path);
    const hurt = whole.length - 512 + 40;
    patchBytes(path, hurt, [(whole[hurt] ?? 0) ^ 1]);
    expect(complaintsOf(path)).not.toEqual([]);
    patchBytes(path, hurt, [whole[hurt] ?? 0]);
    makeSystem('fat32', at('part.img'), 'EFI', at('files'), 100 * 1024 ** 2);
    put(path, at('part.img'), 115 * mib, 512);
    expectFiles(path, 512, [...held, { kind: 'fat32', startLba: 115 * mib, sectorCount: 100 * mib }]);
  });
});

describe('sectors of 4,096 bytes', () => {
  it('are read and converted as the system reads them', () => {
    const path = at('wide.img');
    const unit = 256;
    writeFileSync(path, '');
    truncateSync(path, 70 * 1024 ** 2);
    const source = imageSource(path, 4096);
    const entry = (number: number, start: number, length: number): TablePartition => ({
      number,
      kind: 'entry',
      startLba: start * unit,
      sectorCount: length * unit,
      typeCode: '0FC63DAF-8483-4772-8E79-3D69D8477DE4',
      guid: `11111111-2222-4333-8444-00000000000${number}`,
    });
    const table: PartitionTable = {
      scheme: 'gpt',
      sectorSizeBytes: 4096,
      sectorCount: source.sectorCount,
      diskId: '11111111-2222-4333-8444-555555555555',
      partitions: [entry(1, 1, 24), entry(2, 26, 30)],
      ...gptBounds(4096, source.sectorCount),
      findings: [],
    };
    const writes = encodeTable(table, source);
    if (!writes.ok) throw new Error();
    writeInto(path, writes.value, 4096);
    for (const { startLba, sectorCount } of table.partitions) {
      makeSystem('ext4', at('part.img'), 'WIDE', at('files'), sectorCount * 4096);
      put(path, at('part.img'), startLba, 4096);
    }
    const held = table.partitions.map(({ startLba, sectorCount }): Held => ({
      kind: 'ext4',
      startLba,
      sectorCount,
    }));
    expect(partitionsByPartx(path, 4096)).toEqual(places(table));
    const plan = converted(source, 'mbr', []);
    writeInto(path, plan.writes, 4096);
    expect(partitionsByPartx(path, 4096)).toEqual(places(plan.after));
    expectFiles(path, 4096, held);
    const back = converted(imageSource(path, 4096), 'gpt', [{ kind: 'no-efi' }], {
      remembered: plan.remembered,
    });
    writeInto(path, back.writes, 4096);
    expect(partitionsByPartx(path, 4096)).toEqual(places(table));
    expect(tableOf(imageSource(path, 4096)).partitions.map(({ guid }) => guid)).toEqual(
      table.partitions.map(({ guid }) => guid),
    );
    expectFiles(path, 4096, held);
  });
});

describe('layout plans on real file systems', () => {
  it('shrinks, moves past what stands between, and every file is where its partition is', () => {
    const path = at('layout.img');
    const places3 = [
      [1, 40, 'fat32'],
      [42, 100, 'ext4'],
      [143, 24, 'ext4'],
    ] as const;
    makeTable(
      path,
      200 * 1024 ** 2,
      'gpt',
      places3.map(([start, length, kind], index) => [
        `p${index}`,
        kind,
        start * mib,
        (start + length) * mib - 1,
      ]),
    );
    places3.forEach(([start, length, kind], index) => {
      makeSystem(kind, at('part.img'), `P${index + 1}`, at('files'), length * 1024 ** 2);
      put(path, at('part.img'), start * mib, 512);
    });
    const read = tableOf(imageSource(path, 512));
    expect(read.findings).toEqual([]);
    // The middle one carries the system: it would rather stay.
    const before: PartitionTable = {
      ...read,
      partitions: read.partitions.map((one) => (one.number === 2 ? { ...one, role: 'system' } : one)),
    };
    // Free: 1 MiB at 41, 1 MiB at 142, and 32 MiB from 167 on. 100 MiB need the middle one shrunk and the last moved.
    const plan = planLayout(before, { kind: 'room', sizeBytes: 100 * 1024 ** 2 }, { random });
    if (!plan.ok) throw new Error(plan.problems[0]?.sentence);
    expect(
      plan.value.operations.map(({ kind, ...operation }) => [
        kind,
        'partition' in operation ? operation.partition : 0,
      ]),
    ).toEqual([
      ['shrink', 2],
      ['move', 3],
    ]);
    const [shrink] = plan.value.operations;
    if (shrink?.kind !== 'shrink') throw new Error();
    // The file system first, by its own tool, inside what its partition keeps.
    const slice = sliceOut(imageSource(path, 512), 42 * mib, 100 * mib, at('shrunk.img'));
    tool('e2fsck', ['-f', '-y', slice]);
    tool('resize2fs', [slice, `${shrink.toSectors / 2}K`]);
    put(path, slice, 42 * mib, 512);
    const done = applyLayout(imageSource(path, 512), plan.value, random);
    if (!done.ok) throw new Error(done.problems[0]?.sentence);
    writeWhole(at('laid.img'), done.value);
    expect(partitionsByPartx(at('laid.img'), 512)).toEqual(places(plan.value.after));
    expect(complaintsOf(at('laid.img'))).toEqual([]);
    expectFiles(
      at('laid.img'),
      512,
      plan.value.after.partitions.map(({ startLba, sectorCount }, index): Held => ({
        kind: index === 0 ? 'fat32' : 'ext4',
        startLba,
        sectorCount,
      })),
    );
    for (const one of plan.value.after.partitions.slice(1)) {
      const part = sliceOut(imageSource(at('laid.img'), 512), one.startLba, one.sectorCount, at('part.img'));
      expect(tool('e2fsck', ['-f', '-n', part])).toContain('files');
    }
  });
});
