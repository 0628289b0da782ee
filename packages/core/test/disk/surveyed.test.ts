import { describe, expect, it } from 'vitest';
import {
  diskFlow,
  explainSizeBox,
  guardDisk,
  planSegments,
  planTableConversion,
  routeLayout,
  sameSize,
  segmentsOf,
  shrinkBox,
  sizeBox,
  sizeRange,
  tableFromSurvey,
  tableSegments,
  type PartitionTable,
  type TablePartition,
} from '../../src/disk';
import { whyAnotherDisk, whyNotTold } from '../../src/disk/marks';
import { whyNeverShrunk } from '../../src/disk/neverShrunk';
import { largestFreeRunBytes, shrinkableBytes } from '../../src/disk/room';
import type { Disk, Partition } from '../../src/survey';
import { partition } from '../fixtures/conversions';
import { seeded } from '../fixtures/disks';
import { data, gpt, mbr, mebibyte, mib, planned, refused, room, system } from '../fixtures/smallDisks';

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
      100 * mebibyte - 80_000_000,
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

describe('bars', () => {
  it('cover the disk, each part by its label, its role or its number', () => {
    const bars = segmentsOf(
      disk([part(2, 210, 100), part(1, 1, 200, { label: 'SYSTEM' }), part(3, 310, 90, { role: 'data' })]),
      () => 'kept',
    );
    expect(bars.map(({ label, startLba, sectorCount }) => [label, startLba, sectorCount])).toEqual([
      ['free', 0, mib],
      ['SYSTEM', mib, 200 * mib],
      ['free', 201 * mib, 9 * mib],
      ['partition 2', 210 * mib, 100 * mib],
      ['data', 310 * mib, 90 * mib],
    ]);
  });

  it('say who moved, who went and who came, and who only took over a number', () => {
    const before = mbr(system(), data(2, 210, 100), data(3, 320, 20));
    const after = mbr(system(), { ...data(2, 211, 100) }, data(3, 350, 20));
    const fates = (how: Parameters<typeof planSegments>[2]) => {
      const bars = planSegments(before, after, how);
      const of = (list: typeof bars.before) =>
        list.flatMap(({ kind, fate }) => (kind === 'free' ? [] : [fate]));
      return [of(bars.before), of(bars.after)];
    };
    expect(fates({})).toEqual([
      ['kept', 'moved', 'moved'],
      ['kept', 'moved', 'moved'],
    ]);
    expect(fates({ gone: new Set([3]), made: new Set([3]) })).toEqual([
      ['kept', 'moved', 'erased'],
      ['kept', 'moved', 'new'],
    ]);
    expect(fates({ sameAs: (one, other) => one.startLba === other.startLba })).toEqual([
      ['kept', 'erased', 'erased'],
      ['kept', 'new', 'new'],
    ]);
  });

  it('draw a room inside the free run that it lies in, and nothing where it lies in none', () => {
    const table = mbr(system());
    const shown = (startMib: number, mebibytes: number) =>
      planSegments(table, table, {
        room: { startLba: startMib * mib, sectorCount: mebibytes * mib },
      }).after.map(({ label, sectorCount }) => `${label} ${sectorCount / mib}`);
    expect(shown(250, 50)).toEqual(['free 1', 'SYSTEM 200', 'free 49', 'room 50', 'free 100']);
    expect(shown(201, 199)).toEqual(['free 1', 'SYSTEM 200', 'room 199']);
    expect(shown(200, 50)).toEqual(['free 1', 'SYSTEM 200', 'free 199']);
    expect(shown(390, 11)).toEqual(['free 1', 'SYSTEM 200', 'free 199']);
  });

  it('cut off what reaches beyond the disk, and leave out what begins behind it', () => {
    const bars = tableSegments(
      { sectorCount: 100, partitions: [partition(1, 90, 20), partition(2, 100, 5)] },
      () => 'kept',
    );
    expect(bars.map(({ sectorCount }) => sectorCount)).toEqual([90, 10]);
  });

  it('show an install over the whole disk, or in the system’s place only', () => {
    const surveyed = disk([
      part(1, 1, 200, { role: 'system' }),
      part(2, 201, 190, { role: 'data', label: 'DATA' }),
    ]);
    const release = { installerPartitions: [], firmwareModes: ['uefi', 'legacy'] as ('uefi' | 'legacy')[] };
    const fates = (writes: 'whole-disk' | 'system-partition', on = surveyed) =>
      routeLayout(on, writes, release)?.before.flatMap(({ kind, fate }) => (kind === 'free' ? [] : [fate]));
    expect(fates('whole-disk')).toEqual(['erased', 'erased']);
    expect(fates('system-partition')).toEqual(['erased', 'kept']);
    expect(fates('system-partition', disk([part(2, 201, 190, { role: 'data' })]))).toBeUndefined();
    // GPT takes the end of the disk for its second copy; MBR does not.
    const last = (firmwareModes: ('uefi' | 'legacy')[]) =>
      routeLayout(surveyed, 'whole-disk', { ...release, firmwareModes })?.after.at(-1)?.kind;
    expect(last(['uefi', 'legacy'])).toBe('free');
    expect(last(['legacy'])).toBe('partition');
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

describe('a layout is refused', () => {
  const small: Parameters<typeof refused>[1] = { kind: 'standard', installer: [] };
  const first = (...given: Parameters<typeof refused>) => {
    const [problem] = refused(...given);
    return problem && [problem.code, problem.sentence];
  };
  it('on a hybrid, and where entries are larger than usual, but not when all is laid out anew', () => {
    const own = gpt(system());
    const hybrid: PartitionTable = own.gpt ? { ...own, gpt: { ...own.gpt, hybrid: true } } : own;
    const wide: PartitionTable = own.gpt ? { ...own, gpt: { ...own.gpt, entrySizeBytes: 256 } } : own;
    expect(first(hybrid, room(10))).toEqual(['hybrid', expect.stringContaining('both schemes at once')]);
    expect(first(wide, room(10))).toEqual(['entry-size', expect.stringContaining('entries of 256 bytes')]);
    expect(first(hybrid, { kind: 'wipe', scheme: 'gpt', installer: [] })).toBeUndefined();
    expect(first(wide, { kind: 'wipe', scheme: 'gpt', installer: [] })).toBeUndefined();
  });

  it('for sizes that are none, and partitions that are not there', () => {
    const code = (goal: Parameters<typeof refused>[1]) => first(mbr(system()), goal)?.[0];
    expect(code({ kind: 'room', sizeBytes: mebibyte - 1 })).toBe('size-too-small');
    expect(code({ kind: 'room', sizeBytes: mebibyte })).toBeUndefined();
    expect(code({ kind: 'room', sizeBytes: 400 * mebibyte + 1 })).toBe('larger-than-disk');
    expect(code({ kind: 'split', systemBytes: 1.5 })).toBe('size-too-small');
    expect(code({ kind: 'grow-back', partition: 1, remove: [7] })).toBe('no-such-partition');
    expect(code({ kind: 'grow-back', partition: 7, remove: [1] })).toBe('no-such-partition');
    expect(code({ kind: 'grow-back', partition: 1, remove: [] })).toBe('cannot-grow');
  });

  it('where the new partitions would leave nothing, or have no entries', () => {
    const installer = (mebibytes: number) => ({
      ...small,
      installer: [{ purpose: 'recovery' as const, sizeBytes: mebibytes * mebibyte }],
    });
    const behind = data(2, 201, 199);
    expect(first(mbr(system(), behind), installer(199))?.[0]).toBeUndefined();
    expect(first(mbr(system(), behind), installer(200))).toEqual([
      'no-room',
      expect.stringContaining('nothing would be left'),
    ]);
    const four = mbr(system(), data(2, 201, 50), data(3, 260, 50), data(4, 320, 50));
    expect(first(four, installer(10))).toEqual([
      'no-free-entry',
      expect.stringContaining('5 partitions are needed'),
    ]);
    expect(first(four, small)).toBeUndefined();
    expect(first(gpt(...four.partitions), installer(10))).toBeUndefined();
    expect(first(mbr(data(2, 201, 50)), small)?.[0]).toBe('no-system');
  });

  it('over what is to be kept, with the reason', () => {
    expect(first(mbr(system()), small, { promised: new Set([1]) })?.[1]).toContain(
      'to be kept on this route',
    );
    expect(first(mbr(system()), small, { locked: new Map([[1, 'because']]) })?.[1]).toContain(
      'to be kept: because',
    );
    const split: Parameters<typeof refused>[1] = { kind: 'split', systemBytes: 50 * mebibyte };
    expect(first(mbr(system()), split, { locked: new Map([[1, 'because']]) })).toEqual(['locked', 'because']);
  });

  it('where the system does not come down so far, or there is nothing behind', () => {
    const split = (mebibytes: number): Parameters<typeof refused>[1] => ({
      kind: 'split',
      systemBytes: mebibytes * mebibyte,
    });
    const { usedBytes: _none, ...unknown } = system();
    expect(first(mbr(unknown), split(50))?.[0]).toBe('used-unknown');
    // 20 MiB are used: 22 with a tenth to spare.
    expect(first(mbr(system()), split(21))?.[0]).toBe('below-used');
    expect(first(mbr(system()), split(22))).toBeUndefined();
    expect(first(mbr(system({ lastImmovableByte: 60 * mebibyte })), split(60))?.[1]).toContain(
      'a block that cannot be moved',
    );
    expect(first(mbr(system()), split(200))?.[0]).toBe('nothing-to-split');
    const full = mbr(system(), data(2, 201, 50), data(3, 260, 50), data(4, 320, 50));
    expect(first(full, split(50))?.[0]).toBe('no-free-entry');
    expect(first(mbr(data(2, 201, 50)), split(50))?.[0]).toBe('no-system');
    // The one that is named counts, whatever its role.
    expect(
      first(mbr(data(2, 201, 50)), { ...split(20), partition: 2 } as Parameters<typeof refused>[1]),
    ).toBeUndefined();
  });
});

describe('what an operation says', () => {
  it('a shrink: what to type, and a quarter of what is used may have to be copied', () => {
    const used = 3_600_000_000;
    const table: PartitionTable = {
      ...mbr(partition(1, mib, 8_000 * mib, { label: 'SYSTEM', role: 'system', usedBytes: used })),
      sectorCount: 8_400 * mib,
      lastUsableLba: 8_400 * mib - 1,
    };
    const [shrink, create, format] = planned(table, {
      kind: 'split',
      systemBytes: 5_000 * mebibyte,
    }).operations;
    // 900 MB read and written at 60 MB/s: 30 s, a minute begun; and five to start with.
    expect(shrink).toMatchObject({
      kind: 'shrink',
      typeMebibytes: 3_000,
      amountBytes: 3_000 * mebibyte,
      minutes: 6,
    });
    expect(create).toMatchObject({
      title: 'Create data partition',
      amountBytes: 3_399 * mebibyte,
      typeMebibytes: 3_399,
    });
    expect(format).toMatchObject({ amountBytes: 3_399 * mebibyte, undoMinutes: 0 });
    expect(format?.sentence).toContain('as the file system that the system reads');
    expect(planned(table, { kind: 'split', systemBytes: 5_000 * mebibyte }).minutes).toBe(6 + 1 + 2);
  });

  it('a move: bytes, both ways at the disk’s speed, and twice the risk where a system starts from it', () => {
    const recovery = partition(2, 250 * mib, 100 * mib, { label: 'RECOVERY', role: 'recovery' });
    const moved = planned(mbr(system({ usedBytes: 190 * mebibyte }), recovery), room(97));
    const move = moved.operations.find(({ kind }) => kind === 'move');
    expect(move).toMatchObject({ partition: 2, risk: 10, minutes: 6, undoMinutes: 6 });
    expect(moved.movedBytes).toBe(100 * mebibyte);
    expect(diskFlow(moved).copiedSectors).toBe(100 * mib);
    const boot = planned(mbr(system({ usedBytes: 190 * mebibyte }), { ...recovery, role: 'boot' }), room(97));
    expect(boot.operations.find(({ kind }) => kind === 'move')).toMatchObject({ risk: 20 });
  });

  it('a deletion: the partition, its length and where it began', () => {
    const [gone] = planned(mbr(system(), data(2, 210, 100)), {
      kind: 'grow-back',
      partition: 1,
      remove: [2],
    }).operations;
    expect(gone).toMatchObject({ title: 'Delete DATA2', amountBytes: 100 * mebibyte, risk: 2 });
    expect(gone?.sentence).toContain(`from sector ${210 * mib}`);
  });
});

describe('the bands of a plan', () => {
  const grown = diskFlow(
    planned(mbr(system(), data(2, 210, 100)), { kind: 'grow-back', partition: 1, remove: [2] }),
  );
  it('stand where they stood after each operation', () => {
    expect(grown.columns.map(({ title }) => title)).toEqual(['Delete DATA2', 'Grow SYSTEM']);
    const [first, second] = grown.bands;
    expect(first).toMatchObject({
      label: 'SYSTEM',
      kind: 'system',
      fate: 'stays',
      numberBefore: 1,
      numberAfter: 1,
      usedSectors: 20 * mib,
    });
    expect(first?.cuts.map((cut) => cut?.sectorCount)).toEqual([200 * mib, 200 * mib, 300 * mib]);
    expect(second).toMatchObject({ label: 'DATA2', kind: 'data', fate: 'erased' });
    expect(second?.cuts.map((cut) => cut?.startLba)).toEqual([210 * mib, undefined, undefined]);
    expect(grown.erasedSectors).toBe(100 * mib);
    expect(grown.sums).toEqual({ stays: 300 * mib, moves: 0, new: 0, free: 100 * mib });
    // The system grows over what was deleted: that is where it cannot be brought back any more.
    expect(grown.lineBefore).toBe(1);
  });

  it('begin where they are made, with the format in the same column', () => {
    const split = diskFlow(planned(gpt(system()), { kind: 'split', systemBytes: 60 * mebibyte }));
    expect(split.columns.map(({ title, operations }) => [title, operations.length])).toEqual([
      ['Shrink SYSTEM', 1],
      ['Create and format data partition', 2],
    ]);
    const fresh = split.bands.at(-1);
    expect(fresh).toMatchObject({ label: 'data partition', kind: 'data', fate: 'new', numberAfter: 2 });
    expect(fresh?.cuts.map((cut) => cut?.startLba)).toEqual([undefined, undefined, 61 * mib]);
    // Nothing was deleted, so everything comes back.
    expect(split).not.toHaveProperty('lineBefore');
    expect(split.sums.new + split.sums.stays + split.sums.free).toBe(400 * mib);
  });

  it('deletions in a row are one column; what is made in their place is the Line', () => {
    const wiped = diskFlow(
      planned(mbr(system(), data(2, 210, 100)), { kind: 'wipe', scheme: 'mbr', installer: [] }),
    );
    expect(wiped.columns.map(({ title }) => title)).toEqual([
      'Delete 2 partitions',
      'Create system partition',
    ]);
    expect(wiped.lineBefore).toBe(1);
    expect(wiped.erasedSectors).toBe(300 * mib);
    expect(wiped.bands.map(({ fate }) => fate)).toEqual(['erased', 'erased', 'new']);
  });

  it('of a move end where it went, and containers are drawn with what is in them', () => {
    const recovery = partition(2, 250 * mib, 100 * mib, { label: 'RECOVERY', role: 'recovery' });
    const plan = planned(mbr(system({ usedBytes: 190 * mebibyte }), recovery), room(97));
    const flow = diskFlow(plan);
    const band = flow.bands.find(({ label }) => label === 'RECOVERY');
    expect(band?.fate).toBe('moves');
    expect(band?.cuts.at(-1)?.sectorCount).toBe(100 * mib);
    expect(band?.cuts.at(-1)?.startLba).not.toBe(250 * mib);
    expect(flow.sums.moves).toBe(100 * mib);
    const container = { startLba: 250 * mib, sectorCount: 100 * mib, entry: 4 };
    const logical = data(5, 251, 90, { kind: 'logical', ebrLba: 250 * mib });
    const both = diskFlow(planned({ ...mbr(system(), logical), extended: container }, room(40)));
    expect(both.containers.map(({ when, stretch }) => [when, stretch.startLba])).toEqual([
      ['before', 250 * mib],
      ['after', 250 * mib],
    ]);
    expect(flow.containers).toEqual([]);
  });
});

describe('room that is made free', () => {
  it('is there after the last operation and not before, and nowhere twice', () => {
    const recovery = partition(2, 250 * mib, 100 * mib, { label: 'RECOVERY', role: 'recovery' });
    const shrunk = diskFlow(
      planned(mbr(system(), { ...recovery, startLba: 201 * mib, sectorCount: 199 * mib }), room(50)),
    );
    const band = shrunk.bands.find(({ key }) => key === 'room');
    expect(shrunk.columns.length).toBeGreaterThan(0);
    expect(band?.cuts.map((cut) => cut?.sectorCount)).toEqual([
      ...shrunk.columns.map(() => undefined),
      50 * mib,
    ]);
    const free = diskFlow(planned(mbr(system()), room(50)));
    expect(free.columns).toEqual([]);
    expect(free.bands.find(({ key }) => key === 'room')?.cuts).toHaveLength(1);
    expect(free.bands.find(({ key }) => key === 'room')?.cuts[0]?.sectorCount).toBe(50 * mib);
  });
});

describe('four entries', () => {
  it('are counted with what is made, and the extended partition is one of them', () => {
    const efi = { purpose: 'boot' as const, sizeBytes: 10 * mebibyte };
    const recovery = { purpose: 'recovery' as const, sizeBytes: 10 * mebibyte };
    const standard = (table: PartitionTable, ...installer: readonly (typeof efi | typeof recovery)[]) =>
      refused(table, { kind: 'standard', installer: [...installer] }).map(({ code }) => code);
    const two = mbr(system(), data(2, 201, 50));
    expect(standard(two, efi, recovery)).toEqual([]);
    expect(standard(mbr(system(), data(2, 201, 50), data(3, 260, 50)), efi, recovery)).toEqual([
      'no-free-entry',
    ]);
    const logical = data(5, 261, 40, { kind: 'logical', ebrLba: 260 * mib });
    const extended = { startLba: 260 * mib, sectorCount: 60 * mib, entry: 4 };
    expect(standard({ ...mbr(system(), data(2, 201, 50), logical), extended }, efi)).toEqual([]);
    expect(standard({ ...mbr(system(), data(2, 201, 50), logical), extended }, efi, recovery)).toEqual([
      'no-free-entry',
    ]);
    const wiped = planned(mbr(system()), { kind: 'wipe', scheme: 'mbr', installer: [efi, recovery] });
    expect(wiped.after.partitions.map(({ number, role }) => [number, role])).toEqual([
      [1, 'boot'],
      [2, 'system'],
      [3, 'recovery'],
    ]);
    // MBR keeps a loader before the first partition; GPT has one for it.
    const loader = {
      kind: 'wipe' as const,
      installer: [{ purpose: 'loader' as const, sizeBytes: mebibyte }],
    };
    expect(planned(mbr(), { ...loader, scheme: 'mbr' }).after.partitions).toHaveLength(1);
    expect(planned(mbr(), { ...loader, scheme: 'gpt' }).after.partitions).toHaveLength(2);
  });
});

describe('the sizes of a split', () => {
  it('leave a MiB for data, and no less than what is in use for the system', () => {
    const range = (table: PartitionTable) => {
      const found = sizeRange(table, { kind: 'split' });
      return found.ok && [found.value.minBytes / mebibyte, found.value.maxBytes / mebibyte];
    };
    // 200 MiB, 20 in use: 22 with a tenth to spare; nothing behind it but the end of the disk.
    expect(range(mbr(system()))).toEqual([22, 199]);
    expect(range(mbr(system(), data(2, 201, 199)))).toEqual([22, 199]);
    expect(range(mbr(system({ usedBytes: 190 * mebibyte }), data(2, 201, 199)))).toEqual([200, 200]);
    expect(refused(mbr(system()), { kind: 'split', systemBytes: 199 * mebibyte })).toEqual([]);
  });
});

describe('a conversion told to people', () => {
  const random = seeded(7);
  const converted = (
    table: PartitionTable,
    target: 'gpt' | 'mbr',
    resolutions: readonly { readonly kind: 'no-efi' }[] = [],
  ) => {
    const plan = planTableConversion(table, target, { random, resolutions });
    if (!plan.ok) throw new Error(plan.problems.map(({ sentence }) => sentence).join(' '));
    return plan.value.notes.join('\n');
  };
  it('counts logical partitions that become entries, and keeps the borders of those that were remembered', () => {
    const operations = (...logicals: readonly TablePartition[]) => {
      const extended = { startLba: 250 * mib, sectorCount: 140 * mib, entry: 4 };
      const table = { ...mbr(system(), ...logicals), ...(logicals.length > 0 ? { extended } : {}) };
      const plan = planTableConversion(table, 'gpt', {
        random,
        resolutions: [{ kind: 'no-efi' }, { kind: 'logical-to-entry' }],
      });
      return plan.ok ? plan.value.operations.filter((one) => one.includes('logical')) : plan.problems;
    };
    const logical = (number: number, startMib: number) =>
      data(number, startMib, 20, { kind: 'logical', ebrLba: startMib * mib - 1 });
    expect(operations()).toEqual([]);
    expect(operations(logical(5, 260))).toEqual(['One logical partition becomes an ordinary entry.']);
    expect(operations(logical(5, 260), logical(6, 300))).toEqual([
      '2 logical partitions become ordinary entries.',
    ]);
  });

  it('names what loses its mark, its attributes or its number', () => {
    const toGpt = converted(mbr(system({ active: true }), data(3, 210, 100)), 'gpt', [{ kind: 'no-efi' }]);
    expect(toGpt).toContain('GPT has no mark for the one to start from: that of partition 1 (SYSTEM)');
    expect(converted(mbr(system()), 'gpt', [{ kind: 'no-efi' }])).not.toContain(
      'mark for the one to start from',
    );
    const attributed = gpt(system({ attributes: '8000000000000000' }), data(2, 210, 100));
    expect(converted(attributed, 'mbr')).toContain('those of partition 1 (SYSTEM)');
    expect(converted(gpt(system(), data(2, 210, 100)), 'mbr')).not.toContain('MBR has no attributes');
    const high = converted(gpt(data(7, 1, 100), data(9, 210, 100)), 'mbr');
    expect(high).toContain('Numbers change: partition 7 (DATA7) becomes 1, partition 9 (DATA9) becomes 2.');
  });
});
