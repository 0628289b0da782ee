import { describe, expect, it } from 'vitest';
import {
  diskFlow,
  planSegments,
  planTableConversion,
  routeLayout,
  segmentsOf,
  tableSegments,
  type PartitionTable,
  type TablePartition,
} from '../../src/disk';
import type { Disk, Partition } from '../../src/survey';
import { partition } from '../fixtures/conversions';
import { seeded } from '../fixtures/disks';
import { data, gpt, mbr, mebibyte, mib, planned, room, system } from '../fixtures/smallDisks';

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
