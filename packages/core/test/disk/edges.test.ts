import { describe, expect, it } from 'vitest';
import {
  bufferSource,
  diskFlow,
  encodeTable,
  type PartitionTable,
  type SectorWrite,
  type TablePartition,
} from '../../src/disk';
import { contentOf } from '../../src/disk/content/content';
import { logicalGroups } from '../../src/disk/convert/logicalGroups';
import { habitFindings } from '../../src/disk/table/surroundings';
import { mbrTable, partition } from '../fixtures/conversions';
import { data, mbr, mib, planned, room, system } from '../fixtures/smallDisks';

/** Cylinder, head and sector as the entry has them, after the common geometry of 255 heads and 63 sectors. */
const addressAt = (bytes: Uint8Array, at: number) => {
  const [head = 0, sector = 0, track = 0] = bytes.slice(at, at + 3);
  return [track + ((sector >> 6) << 8), head, sector & 63];
};
const address = (lba: number) => [Math.floor(lba / (255 * 63)), Math.floor(lba / 63) % 255, (lba % 63) + 1];

describe('the chain of an extended partition', () => {
  const logical = (number: number, startMib: number): TablePartition => ({
    ...partition(number, startMib * mib, 40 * mib),
    kind: 'logical',
    ebrLba: startMib * mib - 1,
  });
  const table: PartitionTable = mbrTable([partition(1, mib, 20 * mib), logical(5, 30), logical(6, 90)], {
    sectorCount: 200 * mib,
    lastUsableLba: 200 * mib - 1,
    extended: { entry: 2, startLba: 29 * mib, sectorCount: 160 * mib },
  });

  it('names each partition by its own EBR, the next by the extended one, and both by their place on the disk', () => {
    const writes = encodeTable(table, bufferSource(new Uint8Array(200 * mib * 512), 512));
    if (!writes.ok) throw new Error(writes.problems[0]?.sentence);
    const sectorAt = (lba: number) => writes.value.find((one: SectorWrite) => one.startLba === lba)?.bytes;
    const first = sectorAt(29 * mib);
    if (!first) throw new Error('no EBR at the start of the extended partition');
    const view = new DataView(first.buffer, first.byteOffset, first.length);
    // Relative: the partition from its EBR, the link from the extended partition.
    expect(view.getUint32(446 + 8, true)).toBe(30 * mib - 29 * mib);
    expect(view.getUint32(462 + 8, true)).toBe(90 * mib - 1 - 29 * mib);
    // Absolute: cylinder, head and sector of both.
    expect(addressAt(first, 446 + 1)).toEqual(address(30 * mib));
    expect(addressAt(first, 446 + 5)).toEqual(address(70 * mib - 1));
    expect(addressAt(first, 462 + 1)).toEqual(address(90 * mib - 1));
  });
});

describe('room in a flow', () => {
  it('is a band of its own where it is left free, and none where a partition takes it', () => {
    const free = planned(mbr(system(), data(2, 201, 199)), room(50));
    const bands = (of: Parameters<typeof diskFlow>[0]) =>
      diskFlow(of).bands.filter(({ key }) => key === 'room');
    expect(bands(free)).toHaveLength(1);
    expect(bands(free)[0]?.cuts.at(-1)).toEqual(free.room);
    expect(bands(free)[0]?.cuts[0]).toBeUndefined();
    const split = planned(mbr(system(), data(2, 210, 100)), { kind: 'split', systemBytes: 100 * 1024 ** 2 });
    const made = split.operations.flatMap((one) => (one.kind === 'create' ? [one] : []));
    expect(made.length).toBeGreaterThan(0);
    const [taken] = made;
    if (!taken) throw new Error('nothing is made');
    expect(bands({ ...split, room: { startLba: taken.startLba, sectorCount: taken.sectorCount } })).toEqual(
      [],
    );
    const { room: _room, ...without } = free;
    expect(bands(without)).toEqual([]);
  });
});

describe('what a partition holds', () => {
  const sizes = (spans: number | undefined, used: number | undefined) => {
    const { spansBytes, usedBytes } = contentOf('ntfs', 'DATA', spans, used);
    return [spansBytes, usedBytes];
  };

  it('has sizes that can be, or none', () => {
    expect(sizes(100, 40)).toEqual([100, 40]);
    expect(sizes(100, 100)).toEqual([100, 100]);
    expect(sizes(100, 0)).toEqual([100, 0]);
    expect(sizes(100, 101)).toEqual([100, undefined]);
    expect(sizes(100, -1)).toEqual([100, undefined]);
    expect(sizes(0, 0)).toEqual([undefined, 0]);
    expect(sizes(2 ** 53, 40)).toEqual([undefined, undefined]);
    expect(sizes(undefined, 40)).toEqual([undefined, undefined]);
    expect(contentOf('ntfs', '').label).toBeUndefined();
    expect(contentOf('ntfs', 'x'.repeat(100)).label).toHaveLength(72);
  });
});

describe('neighbours that could become logical', () => {
  const spread = (count: number) =>
    Array.from({ length: count }, (_none, index) => partition(index + 1, 2048 + index * 4096, 2048));
  const numbers = (partitions: readonly TablePartition[], firstLba = 63) =>
    logicalGroups({ partitions, firstLba }).map((group) => group.map(({ number }) => number).join(' '));

  it('are at least as many as leave three entries, at most all, the shortest and last first', () => {
    expect(numbers(spread(5))).toEqual([
      '4 5',
      '3 4',
      '2 3',
      '1 2',
      '3 4 5',
      '2 3 4',
      '1 2 3',
      '2 3 4 5',
      '1 2 3 4',
      '1 2 3 4 5',
    ]);
  });

  it('have each a free sector before them', () => {
    const [first, second, ...rest] = spread(5);
    if (!first || !second) throw new Error('five were made');
    const close = { ...second, startLba: first.startLba + first.sectorCount };
    expect(numbers([first, close, ...rest]).filter((group) => group.split(' ').includes('2'))).toEqual([]);
    // One sector is enough.
    const near = { ...second, startLba: first.startLba + first.sectorCount + 1 };
    expect(numbers([first, near, ...rest])).toContain('2 3');
    // The first has room only where the table leaves some.
    expect(numbers(spread(5), 2048).some((group) => group.startsWith('1'))).toBe(false);
  });
});

describe('habits of older installers', () => {
  const said = (...partitions: readonly TablePartition[]) =>
    habitFindings(mbrTable(partitions)).map(({ sentence }) => sentence);

  it('are told by number, in the singular or the plural', () => {
    expect(said(partition(1, 2048, 2048))).toEqual([]);
    expect(said(partition(3, 63, 2000))[0]).toMatch(/^Partition 3 begins between two whole MiB/);
    expect(said(partition(1, 63, 2000), partition(2, 4099, 2048), partition(4, 8191, 2048))[0]).toMatch(
      /^Partitions 1, 2 and 4 begin between/,
    );
    const active = { active: true };
    expect(said(partition(1, 2048, 2048, active), partition(2, 6144, 2048))).toEqual([]);
    expect(said(partition(1, 2048, 2048, active), partition(2, 6144, 2048, active))[0]).toMatch(
      /^Partitions 1 and 2 are both marked/,
    );
  });
});
