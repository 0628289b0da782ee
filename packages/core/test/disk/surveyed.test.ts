import { describe, expect, it } from 'vitest';
import { explainSizeBox, guardDisk, sameSize, shrinkBox, sizeBox, tableFromSurvey } from '../../src/disk';
import { whyAnotherDisk, whyNotTold } from '../../src/disk/marks';
import { whyNeverShrunk } from '../../src/disk/neverShrunk';
import { largestFreeRunBytes, shrinkableBytes } from '../../src/disk/room';
import type { Disk, Partition } from '../../src/survey';
import { partition } from '../fixtures/conversions';
import { data, mebibyte, mib, system } from '../fixtures/smallDisks';

const part = (
  number: number,
  startMib: number,
  mebibytes: number,
  more: Partial<Partition> = {},
): Partition => ({
  number,
  startLba: startMib * mib,
  sectorCount: mebibytes * mib,
  ...more,
});
/** 400 MiB of 512-byte sectors, with the serial and the scheme of most tests. */
const disk = (partitions: readonly Partition[], more: Partial<Disk> = {}): Disk => ({
  name: 'sda',
  serial: 'KX7714A9C2E',
  sectorBytes: 512,
  sectorCount: 400 * mib,
  scheme: 'mbr',
  partitions: [...partitions],
  ...more,
});

describe('a table from a survey', () => {
  it('has the borders of its scheme', () => {
    expect(tableFromSurvey(disk([], { scheme: 'gpt' }))).toMatchObject({
      surveyed: true,
      firstUsableLba: 34,
      lastUsableLba: 400 * mib - 34,
      gpt: { entryCount: 128, entrySizeBytes: 128, backupLba: 400 * mib - 1, hybrid: false },
    });
    const table = tableFromSurvey(disk([]));
    expect(table).toMatchObject({ firstUsableLba: 1, lastUsableLba: 400 * mib - 1, findings: [] });
    expect(table).not.toHaveProperty('gpt');
    expect(table).not.toHaveProperty('extended');
    // MBR names no sector beyond 2^32.
    expect(tableFromSurvey(disk([], { sectorCount: 2 ** 33 })).lastUsableLba).toBe(2 ** 32 - 1);
  });

  it('counts numbers above four as logical in MBR, around them the extended partition in the last free entry', () => {
    const table = tableFromSurvey(
      disk([part(1, 1, 50), part(5, 61, 40), part(6, 110, 80), part(4, 200, 10)]),
    );
    expect(table.partitions.map(({ number, kind, ebrLba }) => [number, kind, ebrLba])).toEqual([
      [1, 'primary', undefined],
      [5, 'logical', 61 * mib - 1],
      [6, 'logical', 110 * mib - 1],
      [4, 'primary', undefined],
    ]);
    expect(table.extended).toEqual({ startLba: 61 * mib - 1, sectorCount: 129 * mib + 1, entry: 3 });
    const entries = tableFromSurvey(disk([part(5, 1, 50)], { scheme: 'gpt' }));
    expect(entries.partitions[0]).toMatchObject({ number: 5, kind: 'entry' });
    expect(entries.partitions[0]).not.toHaveProperty('ebrLba');
    expect(entries).not.toHaveProperty('extended');
  });

  it('takes along what the survey knows of a partition, and nothing that it does not', () => {
    const known: Partial<Partition> = {
      label: 'SYSTEM',
      usedBytes: 7,
      lastImmovableByte: 9,
      role: 'system',
      encrypted: true,
      fileSystem: 'NTFS',
    };
    const [full, bare] = tableFromSurvey(disk([part(1, 1, 50, known), part(2, 60, 50)])).partitions;
    expect(full).toEqual({
      number: 1,
      kind: 'primary',
      startLba: mib,
      sectorCount: 50 * mib,
      typeCode: '0x07',
      content: { kind: 'ntfs' },
      label: 'SYSTEM',
      usedBytes: 7,
      lastImmovableByte: 9,
      role: 'system',
      encrypted: true,
    });
    expect(bare).toEqual({
      number: 2,
      kind: 'primary',
      startLba: 60 * mib,
      sectorCount: 50 * mib,
      typeCode: '0x07',
    });
  });

  it.each<[Partial<Partition>, string, string]>([
    [{}, '0x07', 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7'],
    [{ role: 'efi' }, '0xEF', 'C12A7328-F81F-11D2-BA4B-00A0C93EC93B'],
    [{ role: 'recovery' }, '0x27', 'DE94BBA4-06D1-4D40-A16A-BFD50179D6AC'],
    [{ role: 'reserved' }, '0x07', 'E3C9E316-0B5C-4DB8-817D-F92DF00215AE'],
    [{ fileSystem: 'Ext4' }, '0x83', '0FC63DAF-8483-4772-8E79-3D69D8477DE4'],
    [{ fileSystem: 'FAT32' }, '0x0C', 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7'],
    [{ fileSystem: 'fat16' }, '0x0E', 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7'],
    [{ fileSystem: 'swap' }, '0x82', 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7'],
  ])('gives %o the type %s in MBR and %s in GPT', (more, byte, guid) => {
    const typeIn = (scheme: 'mbr' | 'gpt') =>
      tableFromSurvey(disk([part(1, 1, 50, more)], { scheme })).partitions[0]?.typeCode;
    expect(typeIn('mbr')).toBe(byte);
    expect(typeIn('gpt')).toBe(guid);
  });

  it('believes the type that was read where it is one of the scheme', () => {
    const typeIn = (scheme: 'mbr' | 'gpt', typeCode: string) =>
      tableFromSurvey(disk([part(1, 1, 50, { typeCode, role: 'efi' })], { scheme })).partitions[0]?.typeCode;
    expect(typeIn('mbr', '7')).toBe('0x07');
    expect(typeIn('mbr', '0xc')).toBe('0x0C');
    expect(typeIn('gpt', '0fc63daf-8483-4772-8e79-3d69d8477de4')).toBe(
      '0FC63DAF-8483-4772-8E79-3D69D8477DE4',
    );
    // Of the other scheme: not believed.
    expect(typeIn('gpt', '0x83')).toBe('C12A7328-F81F-11D2-BA4B-00A0C93EC93B');
    expect(typeIn('mbr', '0FC63DAF-8483-4772-8E79-3D69D8477DE4')).toBe('0xEF');
  });

  it('is of the same disk when its bytes are', () => {
    const table = tableFromSurvey(disk([]));
    expect(sameSize(disk([]), table)).toBe(true);
    expect(sameSize(disk([], { sectorBytes: 4096, sectorCount: 50 * mib }), table)).toBe(true);
    expect(sameSize(disk([], { sectorCount: 400 * mib + 1 }), table)).toBe(false);
  });
});

describe('telling a disk from its like', () => {
  const own = disk([], { sectorCount: 500_118_192 });
  it('takes serial and size, and a hundredth of rounding on the label', () => {
    // 256,060,514,304 bytes.
    expect(whyNotTold(own, { serialEnd: 'a9c2e', sizeGigabytes: 256 })).toBeUndefined();
    expect(whyNotTold(own, { serialEnd: '9C2E', sizeGigabytes: 258.6 })).toBeUndefined();
    expect(whyNotTold(own, { serialEnd: '9C2E', sizeGigabytes: 258.7 })).toContain(
      'The size typed is 258.7 GB',
    );
    expect(whyNotTold(own, { serialEnd: '9C2E', sizeGigabytes: 253.4 })).toContain(
      'The size typed is 253.4 GB',
    );
    expect(whyNotTold(own, { serialEnd: 'KX77', sizeGigabytes: 256 })).toContain(
      'The serial typed ends in KX77',
    );
    expect(whyNotTold(own, null)).toContain('enter both on Prepare');
    const { serial: _none, ...nameless } = own;
    expect(whyNotTold(nameless, { serialEnd: '9C2E', sizeGigabytes: 256 })).toContain(
      'serial of disk sda is unknown',
    );
  });

  it('takes the size of a page in either GB', () => {
    const shown = (sizeShown: number) => whyAnotherDisk(own, { serialEnd: '9C2E', sizeShown });
    expect(shown(256.1)).toBeUndefined();
    expect(shown(238.5)).toBeUndefined();
    expect(shown(247)).toContain('Is it the other disk?');
    expect(whyAnotherDisk(own, { serialEnd: 'XXXX', sizeShown: 256.1 })).toContain(
      'The serial typed ends in XXXX',
    );
  });
});

describe('the guards of a disk', () => {
  const own = disk([], { sectorCount: 500_118_192 });
  const context = {
    disk: own,
    target: own,
    marks: { serialEnd: '9C2E', sizeGigabytes: 256 },
    partitions: [system(), data(2, 210, 100)],
    operations: [],
    promised: new Set([2]),
    short: [],
  };
  const codes = (more: Partial<Parameters<typeof guardDisk>[0]>) =>
    guardDisk({ ...context, ...more }).map(({ code }) => code);
  it('stop at every single one of them', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ target: undefined })).toEqual(['no-target']);
    expect(codes({ target: { ...own, name: 'sdb' } })).toEqual(['other-disk']);
    expect(codes({ marks: null })).toEqual(['not-told']);
    expect(codes({ operations: [{ kind: 'delete', partition: 2 }] })).toEqual(['promised']);
    expect(codes({ operations: [{ kind: 'delete', partition: 1 }] })).toEqual([]);
    const format = { kind: 'format', sectorCount: mib, purpose: 'data', fileSystem: 'any' } as const;
    // A format goes by its place: what is made anew may have the number of what goes.
    expect(codes({ operations: [{ ...format, partition: 2, startLba: 320 * mib }] })).toEqual([]);
    expect(codes({ operations: [{ ...format, partition: 9, startLba: 210 * mib }] })).toEqual(['promised']);
    const [one] = guardDisk({ ...context, short: [{ name: 'Pictures', planned: 0, needed: 1 }] });
    expect(one?.sentence).toContain('Pictures goes to 0 of the 1 copy that');
    const [two] = guardDisk({ ...context, short: [{ name: 'Pictures', planned: 1, needed: 2 }] });
    expect(two?.sentence).toContain('1 of the 2 copies that');
  });
});

describe('room on a surveyed disk', () => {
  it('is what lies free in one run, without the first and the last MiB', () => {
    expect(largestFreeRunBytes(disk([part(1, 1, 199)]))).toBe(199 * mebibyte);
    expect(largestFreeRunBytes(disk([part(1, 100, 200)]))).toBe(99 * mebibyte);
    expect(largestFreeRunBytes(disk([part(1, 1, 399)]))).toBe(0);
    expect(largestFreeRunBytes(disk([]))).toBe(398 * mebibyte);
  });

  it('comes from a shrink down to a tenth above what is used, or to the last block that cannot be moved', () => {
    const shrink = (more: Partial<Partition>) =>
      shrinkableBytes(disk([part(1, 1, 100, { role: 'system', ...more })]));
    expect(shrink({ usedBytes: 10 })).toBe(100 * mebibyte - 11);
    expect(shrink({ usedBytes: 50_000_000, lastImmovableByte: 80_000_000 })).toBe(
      // The block itself stays.
      100 * mebibyte - 80_000_001,
    );
    expect(shrink({ usedBytes: 100 * mebibyte })).toBe(0);
    expect(shrink({})).toBeUndefined();
    expect(shrinkableBytes(disk([part(1, 1, 100, { role: 'data', usedBytes: 1 })]))).toBeUndefined();
  });
});

describe('what to type into a box', () => {
  it('is said with the unit that it means, and with what the installer takes of it', () => {
    const box = sizeBox(90 * 1024 ** 3, [100 * mebibyte, 1]);
    // The second partition of one byte takes a whole MiB.
    expect(box).toMatchObject({
      value: {
        type: '92261',
        typeMebibytes: 92_261,
        systemBytes: 90 * 1024 ** 3,
        ownPartitionBytes: 101 * mebibyte,
        // 96.6 GB are 97 to somebody who rounds: 97 × 1000 MiB typed.
        typedByThousandsBytes: 97_000 * mebibyte,
        missingBytes: (92_261 - 97_000) * mebibyte,
      },
    });
    expect(box.ok && explainSizeBox(box.value)).toBe(
      'Type 92261 (the box means MiB, though it may say MB): the system gets 90.0 GiB (96.6 GB), 101.0 MiB of it for the installer’s own partitions.',
    );
    const plain = sizeBox(90 * 1024 ** 3, [], 'GiB');
    expect(plain.ok && explainSizeBox(plain.value)).toBe(
      'Type 90 (the box means GiB): the system gets 90.0 GiB (96.6 GB).',
    );
    expect(sizeBox(mebibyte, []).ok).toBe(true);
    for (const bad of [mebibyte - 1, 1.5 * mebibyte + 0.5, Number.NaN])
      expect(sizeBox(bad, []).ok).toBe(false);
  });

  it('is refused where a shrink would take less than a MiB, or leave less', () => {
    const codes = (present: number, left: number) => {
      const box = shrinkBox(present, left);
      return box.ok ? box.value : box.problems[0]?.code;
    };
    expect(codes(10 * mebibyte, 9 * mebibyte)).toMatchObject({ type: '1', takenBytes: mebibyte });
    expect(codes(10 * mebibyte, 9 * mebibyte + 1)).toBe('nothing-to-take');
    expect(codes(10 * mebibyte, mebibyte)).toMatchObject({ type: '9', leftBytes: mebibyte });
    expect(codes(10 * mebibyte, mebibyte - 1)).toBe('size-too-small');
    expect(codes(Number.NaN, mebibyte)).toBe('nothing-to-take');
    expect(codes(10 * mebibyte, 1.5 * mebibyte + 0.5)).toBe('size-too-small');
  });
});

describe('what is never made smaller', () => {
  it.each<[string, Parameters<typeof whyNeverShrunk>[0], string | undefined]>([
    ['data', partition(2, mib, mib), undefined],
    ['ntfs', partition(2, mib, mib, { content: { kind: 'ntfs' } }), undefined],
    ['xfs', partition(2, mib, mib, { content: { kind: 'xfs' } }), 'which no tool makes smaller'],
    ['encrypted', partition(2, mib, mib, { encrypted: true }), 'is encrypted'],
    ['not encrypted', partition(2, mib, mib, { encrypted: false }), undefined],
    ['luks', partition(2, mib, mib, { content: { kind: 'luks' } }), 'is encrypted'],
    ['an EFI partition', partition(2, mib, mib, { typeCode: '0xEF' }), 'loaders would have to be made anew'],
    ['an unknown type', partition(2, mib, mib, { typeCode: '0xDA' }), 'type 0xDA, which is not known here'],
  ])('%s', (_name, one, why) => {
    if (why === undefined) expect(whyNeverShrunk(one)).toBeUndefined();
    else expect(whyNeverShrunk(one)).toContain(why);
  });
});
