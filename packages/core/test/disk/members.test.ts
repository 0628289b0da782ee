import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import {
  bufferSource,
  planConversion,
  planLayout,
  readPartitionTable,
  type PartitionTable,
  type TablePartition,
} from '../../src/disk';
import { seeded, written } from '../fixtures/disks';

const mib = 2048;
const random = seeded(5);

/** 64 MiB with one partition from 1 MiB to 33 MiB, of this type, with bytes put into it. */
function diskWith(typeCode: string, bytes: readonly (readonly [offset: number, bytes: readonly number[]])[]) {
  const image = new Uint8Array(64 * 1024 ** 2);
  for (const [offset, put] of bytes) image.set(put, 1024 ** 2 + offset);
  const table: PartitionTable = {
    scheme: 'mbr',
    sectorSizeBytes: 512,
    sectorCount: 64 * mib,
    diskId: 'CAFE0001',
    partitions: [{ number: 1, kind: 'primary', startLba: mib, sectorCount: 32 * mib, typeCode }],
    firstUsableLba: 1,
    lastUsableLba: 64 * mib - 1,
    findings: [],
  };
  const read = readPartitionTable(written(table, bufferSource(image, 512)));
  if (!read.ok) throw new Error();
  return read.value;
}

const length = 32 * 1024 ** 2;
const arraySign = [0xfc, 0x4e, 0x2b, 0xa9];
/** A boot record of FAT32 as far as a recogniser looks: what a mirror with its table at the end looks like. */
const labelOne = [...'LABELONE'].map((sign) => sign.charCodeAt(0));
const lvm = [...'LVM2 001'].map((sign) => sign.charCodeAt(0));
const pool = [0x0c, 0xb1, 0xba, 0x00];

describe('what spans several partitions or disks', () => {
  it.each([
    ['an array, table at the start', [[0, arraySign]], 'array'],
    ['an array, table behind the first 4 KiB', [[4096, arraySign]], 'array'],
    // Version 1.0: 16 sectors before the end, on 8 sectors: sector 65,520 of 65,536.
    ['an array, table near the end', [[65_520 * 512, arraySign]], 'array'],
    // Version 0.90: the last whole 64 KiB but one begins 64 KiB before the end of 32 MiB.
    ['an old array, table in the last 64 KiB', [[length - 65_536, arraySign]], 'array'],
    ['logical volumes', [[512, [...labelOne, ...new Array<number>(16).fill(0), ...lvm]]], 'volumes'],
    ['a pool, by its first label', [[128 * 1024 + 3 * 1024, pool]], 'pool'],
    ['a pool, by its last label', [[length - 128 * 1024, pool]], 'pool'],
  ] as const)('%s is recognised, whatever its type says', (_what, bytes, kind) => {
    const [partition] = diskWith('0x83', bytes).partitions;
    expect(partition?.content?.kind).toBe(kind);
  });

  it('is what the system’s own reader takes it for', () => {
    const folder = mkdtempSync(join(tmpdir(), 'ulvane-members-'));
    try {
      // A whole superblock of version 1.2 (magic, version 1, its own place 8 sectors on, a device of 2).
      const image = Buffer.alloc(8 * 1024 ** 2);
      const block = image.subarray(4096, 4096 + 256);
      block.writeUInt32LE(0xa92b4efc, 0);
      block.writeUInt32LE(1, 4);
      block.write('0123456789abcdef', 16, 'latin1');
      block.writeUInt32LE(1, 72);
      block.writeUInt32LE(2, 92);
      block.writeBigUInt64LE(2048n, 128);
      block.writeBigUInt64LE(14_336n, 136);
      block.writeBigUInt64LE(8n, 144);
      const path = join(folder, 'array.img');
      writeFileSync(path, image);
      const type = execFileSync('blkid', ['-p', '-o', 'value', '-s', 'TYPE', path], { encoding: 'utf8' });
      expect(type.trim()).toBe('linux_raid_member');
      const read = readPartitionTable(bufferSource(new Uint8Array(image), 512));
      expect(read.ok && read.value.wholeDisk?.kind).toBe('array');
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it.each([
    ['GPT', 'E75CAF8F-F680-4CEE-AFA3-B001E56EFC2D', false],
    ['MBR', '0x42', true],
  ])('dynamic volumes are refused for conversion and layout in %s', (_scheme, typeCode, known) => {
    const table = diskWith(known ? typeCode : '0x42', []);
    expect(planConversion(table, 'gpt', { random })).toMatchObject({
      ok: false,
      problems: expect.arrayContaining([expect.objectContaining({ code: 'dynamic-volumes' })]),
    });
    expect(planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 })).toMatchObject({
      ok: false,
      problems: [{ code: 'dynamic-volumes' }],
    });
  });

  it.each([
    '5808C8AA-7E8F-42E0-85D2-E1E90434CFB3',
    'AF9B60A0-1431-4F62-BC68-3311714A69AD',
    '6A898CC3-1DD2-11B2-99A6-080020736631',
  ])('%s in GPT: nothing is planned', (typeCode) => {
    const table = gptWith({ typeCode });
    const outcome = planConversion(table, 'mbr', { random });
    expect(outcome.ok ? [] : outcome.problems.map(({ code }) => code)).toEqual([
      typeCode.startsWith('6A') ? 'pool-member' : 'dynamic-volumes',
    ]);
    expect(planLayout(table, { kind: 'room', sizeBytes: 1024 ** 2 }).ok).toBe(false);
    // Wiping the disk is another matter: nothing on it is kept.
    expect(planLayout(table, { kind: 'wipe', scheme: 'gpt', installer: [] }, { random }).ok).toBe(true);
  });
});

function gptWith(more: Partial<TablePartition>): PartitionTable {
  return {
    scheme: 'gpt',
    sectorSizeBytes: 512,
    sectorCount: 64 * mib,
    diskId: '2F0A4D4E-6F4B-4A9D-8A55-0F6F1F0C9A11',
    partitions: [
      {
        number: 1,
        kind: 'entry',
        startLba: mib,
        sectorCount: 62 * mib,
        typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
        guid: '2F0A4D4E-6F4B-4A9D-8A55-0F6F1F0C9A12',
        // A little is used, and the file system ends half-way: by the bytes alone it could be shrunk.
        usedBytes: 1024 ** 2,
        content: { kind: 'ntfs', spansBytes: 31 * 1024 ** 2 },
        ...more,
      },
    ],
    firstUsableLba: 34,
    lastUsableLba: 64 * mib - 34,
    gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: 64 * mib - 1, hybrid: false },
    findings: [],
  };
}

describe('what is never made smaller', () => {
  const room = (more: Partial<TablePartition>) =>
    planLayout(gptWith(more), { kind: 'room', sizeBytes: 8 * 1024 ** 2 }, { allowMoves: false });

  it('but a plain file system of a known type is', () => {
    expect(room({}).ok).toBe(true);
  });

  it.each<[string, Partial<TablePartition>]>([
    ['a member of an array by type', { typeCode: 'A19D880F-05FC-4D3B-A006-743F0F84911E' }],
    ['a member of an array by signature', { content: { kind: 'array' } }],
    ['logical volumes by type', { typeCode: 'E6D6D379-F507-44C2-A23C-238F2A3DF928' }],
    ['logical volumes by signature', { content: { kind: 'volumes' } }],
    ['swap by type', { typeCode: '0657FD6D-A4AB-43C4-84E5-0933C84B4F4F' }],
    ['swap by signature', { content: { kind: 'swap', spansBytes: 1024 ** 2 } }],
    ['an EFI system partition', { typeCode: 'C12A7328-F81F-11D2-BA4B-00A0C93EC93B' }],
    ['a boot-loader partition', { typeCode: '21686148-6449-6E6F-744E-656564454649' }],
    ['what is encrypted', { encrypted: true }],
    ['what is locked', { content: { kind: 'luks' } }],
    ['an unknown type', { typeCode: '11111111-2222-4333-8444-555555555555' }],
    ['XFS', { content: { kind: 'xfs', spansBytes: 31 * 1024 ** 2 } }],
    ['exFAT', { content: { kind: 'exfat', spansBytes: 31 * 1024 ** 2 } }],
  ])('%s', (_what, more) => {
    expect(room(more).ok).toBe(false);
    // Its end is not free for a conversion either, even where the file system in it ends before.
    const table = gptWith(more);
    const [partition] = table.partitions;
    const mbr: PartitionTable = {
      ...table,
      scheme: 'mbr',
      diskId: 'CAFE0001',
      partitions: [
        { ...(partition as TablePartition), kind: 'primary', startLba: mib, sectorCount: 63 * mib },
      ],
      firstUsableLba: 1,
      lastUsableLba: 64 * mib - 1,
    };
    const outcome = planConversion(mbr, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] });
    if (outcome.ok) throw new Error('the plan cuts an end off that is not free');
    const atEnd = outcome.problems.find(({ code }) => code === 'no-room-end');
    if (atEnd) expect([atEnd.remedies, atEnd.otherwise !== undefined]).toEqual([[], true]);
    else expect(outcome.problems.length).toBeGreaterThan(0);
  });
});

describe('tables that lie', () => {
  it('a chain of empty links ends after a fixed number of them', () => {
    const sectors = 40_000;
    const image = new Uint8Array(sectors * 512);
    const put = (
      lba: number,
      entries: readonly (readonly [type: number, start: number, count: number])[],
    ) => {
      const view = new DataView(image.buffer, lba * 512, 512);
      entries.forEach(([type, start, count], index) => {
        view.setUint8(446 + index * 16 + 4, type);
        view.setUint32(446 + index * 16 + 8, start, true);
        view.setUint32(446 + index * 16 + 12, count, true);
      });
      view.setUint16(510, 0xaa55, true);
    };
    put(0, [[0x0f, 100, 39_000]]);
    for (let lba = 100; lba < 39_000; lba += 1)
      put(lba, [
        [0, 0, 0],
        [0x05, lba + 1 - 100, 1],
      ]);
    let reads = 0;
    const source = bufferSource(image, 512);
    const read = readPartitionTable({
      ...source,
      read: (lba, count) => {
        reads += 1;
        return source.read(lba, count);
      },
    });
    if (!read.ok) throw new Error();
    expect(read.value.findings.map(({ code }) => code)).toContain('ebr-too-long');
    expect(reads).toBeLessThan(400);
  });

  it('a file system on the whole disk is named, and never called wiped', () => {
    const folder = mkdtempSync(join(tmpdir(), 'ulvane-whole-'));
    try {
      const path = join(folder, 'whole.img');
      execFileSync('truncate', ['-s', '16M', path]);
      execFileSync('mkfs.ext4', ['-q', '-F', '-L', 'PHOTOS', path]);
      const bytes = new Uint8Array(execFileSync('cat', [path], { maxBuffer: 2 ** 26 }));
      const read = readPartitionTable(bufferSource(bytes, 512));
      if (!read.ok) throw new Error();
      expect(read.value).toMatchObject({ scheme: 'none', wholeDisk: { kind: 'ext4', label: 'PHOTOS' } });
      expect(read.value.findings).toEqual([
        {
          code: 'whole-disk-volume',
          path: '/lba/0',
          sentence: 'The disk has no partition table: as a whole it is ext4 (PHOTOS). It is not empty.',
          weight: 'warning',
        },
      ]);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
