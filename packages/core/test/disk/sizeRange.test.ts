import { describe, expect, it } from 'vitest';
import { planLayout, sizeRange, type TablePartition } from '../../src/disk';
import { mbrTable, partition } from '../fixtures/conversions';
import { seeded } from '../fixtures/disks';

const mib = 2048;
const mebibyte = 1024 ** 2;
const random = seeded(31);

const system = (more: Partial<TablePartition> = {}) =>
  partition(1, mib, 8 * mib, { label: 'SYSTEM', role: 'system', usedBytes: 3 * mebibyte, ...more });
const disk = (...partitions: readonly TablePartition[]) =>
  mbrTable(partitions, { sectorCount: 64 * mib, lastUsableLba: 64 * mib - 1 });

const rangeOf = (table: ReturnType<typeof disk>, goal: Parameters<typeof sizeRange>[1]) => {
  const range = sizeRange(table, goal);
  if (!range.ok) throw new Error(range.problems[0]?.sentence);
  return range.value;
};

describe('how small a system can be made', () => {
  it('is what it uses and a tenth, in whole MiB; at most a MiB less than it is', () => {
    // 3 MiB and a tenth are 3.3: 4 MiB. It has 8; 7 leave a MiB.
    expect(rangeOf(disk(system()), { kind: 'split' })).toMatchObject({
      minBytes: 4 * mebibyte,
      maxBytes: 7 * mebibyte,
      proven: true,
      maxBecause: 'Less than 1 MiB would be left for data.',
    });
    // The very tenth: 5 MiB and 0.5 are 5.5, so 6.
    expect(rangeOf(disk(system({ usedBytes: 5 * mebibyte })), { kind: 'split' }).minBytes).toBe(6 * mebibyte);
  });

  it('says what keeps it from being less', () => {
    const because = (more: Partial<TablePartition>) =>
      rangeOf(disk(system(more)), { kind: 'split' }).minBecause;
    // To sector 1 MiB + 4 MiB = 10,240, the last one 10,239.
    expect(because({})).toBe(
      'Partition 1 (SYSTEM) has 3.1 MB (3.0 MiB) in use; with a tenth to spare it keeps 4.2 MB (4.0 MiB), to sector 10239.',
    );
    expect(because({ encrypted: true })).toContain('is encrypted');
    const { usedBytes: _measured, ...unknown } = system();
    expect(rangeOf(disk(unknown), { kind: 'split' }).minBecause).toContain('is not known');
    expect(because({ lastImmovableByte: 6 * mebibyte })).toBe(
      'A block that cannot be moved is at 6.3 MB (6.0 MiB) of partition 1 (SYSTEM).',
    );
  });

  it('is of the one that is asked for, and refused where nobody says which it is', () => {
    const data = partition(2, 20 * mib, 16 * mib, { usedBytes: 9 * mebibyte });
    const both = disk(system(), data);
    // 9 MiB and 0.9: 10.
    expect(rangeOf(both, { kind: 'split', partition: 2 })).toMatchObject({
      minBytes: 10 * mebibyte,
      maxBytes: 15 * mebibyte,
    });
    expect(rangeOf(both, { kind: 'split', partition: 1 }).minBytes).toBe(4 * mebibyte);
    const refused = sizeRange(disk(data), { kind: 'split' });
    expect(!refused.ok && refused.problems[0]?.code).toBe('no-system');
    const none = sizeRange(both, { kind: 'wipe' });
    expect(!none.ok && none.problems[0]?.code).toBe('no-size');
  });
});

describe('how much room can be had', () => {
  it('is all that is free when nothing may be moved; a MiB at least', () => {
    // 64 MiB; the first is the table’s, 8 the system’s, which can give 4: the rest is 55 and 4.
    const range = rangeOf(disk(system()), { kind: 'room' });
    expect(range).toMatchObject({ minBytes: mebibyte, proven: true });
    expect(range.maxBytes).toBe((64 - 9 + 4) * mebibyte);
    // What may be planned: exactly this much, and not a MiB more.
    const plan = (sizeBytes: number) =>
      planLayout(disk(system()), { kind: 'room', sizeBytes }, { random }).ok;
    expect([plan(range.maxBytes), plan(range.maxBytes + mebibyte)]).toEqual([true, false]);
    // Full and shrunk as far as it goes: nothing.
    const full = disk(system({ sectorCount: 63 * mib, usedBytes: 63 * mebibyte }));
    expect(rangeOf(full, { kind: 'room' }).maxBytes).toBe(0);
    // Four primary entries are all that a table of this kind has.
    const four = disk(
      system(),
      ...[2, 3, 4].map((number) => partition(number, number * 10 * mib, mib, { usedBytes: mebibyte })),
    );
    expect(rangeOf(four, { kind: 'room' }).maxBytes).toBe(0);
  });
});
