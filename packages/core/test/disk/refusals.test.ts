import { describe, expect, it } from 'vitest';
import { sizeRange, type PartitionTable } from '../../src/disk';
import { data, gpt, mbr, mebibyte, mib, planned, refused, room, system } from '../fixtures/smallDisks';

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
