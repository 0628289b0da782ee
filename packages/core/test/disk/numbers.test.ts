import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import {
  applyLayout,
  bufferSource,
  segmentsOfPlan,
  guardDisk,
  planLayout,
  readPartitionTable,
  type LayoutPlan,
  type PartitionTable,
  type TablePartition,
} from '../../src/disk';
import { partitionsByPartx } from '../fixtures/diskTools';
import { seeded, whole, written } from '../fixtures/disks';

const mib = 2048;
const random = seeded(9);
const folder = mkdtempSync(join(tmpdir(), 'ulvane-numbers-'));
afterAll(() => rmSync(folder, { recursive: true }));

const logical = (number: number, start: number, length: number, label: string): TablePartition => ({
  number,
  kind: 'logical',
  startLba: start * mib,
  sectorCount: length * mib,
  ebrLba: start * mib - 1,
  typeCode: '0x07',
  label,
  usedBytes: length * 1024 ** 2,
});

/** An extended partition from 10 to 100 MiB: letters at 11, a gap of 20 MiB, the owner's photos at 41. */
const table: PartitionTable = {
  scheme: 'mbr',
  sectorSizeBytes: 512,
  sectorCount: 128 * mib,
  diskId: 'CAFE0001',
  partitions: [
    {
      number: 1,
      kind: 'primary',
      startLba: mib,
      sectorCount: 8 * mib,
      typeCode: '0x07',
      label: 'SYSTEM',
      usedBytes: 8 * 1024 ** 2,
      role: 'system',
    },
    logical(5, 11, 10, 'LETTERS'),
    logical(6, 41, 59, 'PHOTOS'),
  ],
  extended: { startLba: 10 * mib, sectorCount: 90 * mib, entry: 2 },
  firstUsableLba: 1,
  lastUsableLba: 128 * mib - 1,
  findings: [],
};

function planned(): LayoutPlan {
  // The only free runs: 21 to 41 MiB inside the extended partition, 100 to 128 outside, which is smaller than asked.
  const full = { ...table, sectorCount: 110 * mib, lastUsableLba: 110 * mib - 1 };
  const plan = planLayout(full, { kind: 'installer-partition', sizeBytes: 15 * 1024 ** 2 }, { random });
  if (!plan.ok) throw new Error(plan.problems[0]?.sentence);
  return plan.value;
}

describe('a logical partition made before others', () => {
  const plan = planned();
  const made = plan.operations.find(({ kind }) => kind === 'create');
  const format = plan.operations.find(({ kind }) => kind === 'format');
  const numbers = (of: PartitionTable) => of.partitions.map(({ number, label }) => [number, label]);

  it('gets the number that the disk gives it along its chain, and those behind it another one', () => {
    expect(numbers(plan.after)).toEqual([
      [1, 'SYSTEM'],
      [5, 'LETTERS'],
      [6, 'installer partition'],
      [7, 'PHOTOS'],
    ]);
    expect(made).toMatchObject({ partition: 6 });
  });

  it('says who gets another number, before anything is done', () => {
    expect(plan.first.join(' ')).toContain('partition 6 (PHOTOS) becomes 7.');
  });

  it('is so on the disk, by this reader and by the system’s own', () => {
    const source = written(plan.before, bufferSource(new Uint8Array(110 * 1024 ** 2), 512));
    const after = applyLayout(source, plan, random);
    if (!after.ok) throw new Error(after.problems[0]?.sentence);
    const read = readPartitionTable(after.value);
    if (!read.ok) throw new Error();
    expect(read.value.partitions.map(({ number, startLba }) => [number, startLba])).toEqual(
      plan.after.partitions.map(({ number, startLba }) => [number, startLba]),
    );
    const path = join(folder, 'numbers.img');
    writeFileSync(path, whole(after.value));
    expect(
      partitionsByPartx(path, 512)
        .filter(([number]) => number !== 2)
        .map(([number, startLba]) => [number, startLba]),
    ).toEqual(plan.after.partitions.map(({ number, startLba }) => [number, startLba]));
  });

  it('is formatted by its place and length, never by a number that was the photos’', () => {
    expect(format?.sentence).toBe(
      `Format the new installer partition of 15.7 MB (15.0 MiB) at sector ${String(made?.kind === 'create' ? made.startLba : 0)} as FAT32: the one that was just created, whatever number it has got.`,
    );
    expect(format?.sentence).not.toContain('partition 6');
    // The route promised to keep partition 6, which is the photos: the new one that is 6 afterwards is not them.
    const problems = guardDisk({
      disk: { name: 'sda', sectorBytes: 512, sectorCount: 110 * mib, partitions: [] },
      target: { name: 'sda', sectorBytes: 512, sectorCount: 110 * mib, partitions: [] },
      marks: null,
      partitions: plan.before.partitions,
      operations: plan.operations,
      promised: new Set([6]),
      short: [],
    });
    expect(problems.map(({ code }) => code)).not.toContain('promised');
  });

  it('leaves the photos drawn as kept, under whatever number', () => {
    const { before, after } = segmentsOfPlan(plan);
    const fates = (segments: typeof before) =>
      segments.flatMap((segment) => (segment.kind === 'partition' ? [[segment.label, segment.fate]] : []));
    expect(fates(before)).toEqual([
      ['SYSTEM', 'kept'],
      ['LETTERS', 'kept'],
      ['PHOTOS', 'kept'],
    ]);
    expect(fates(after)).toEqual([
      ['SYSTEM', 'kept'],
      ['LETTERS', 'kept'],
      ['installer partition', 'new'],
      ['PHOTOS', 'kept'],
    ]);
  });

  it('deletes by place and length, too', () => {
    const grown = planLayout({ ...table }, { kind: 'grow-back', partition: 5, remove: [6] }, { random });
    if (!grown.ok) throw new Error(grown.problems[0]?.sentence);
    expect(grown.value.operations[0]?.sentence).toBe(
      `Delete partition 6 (PHOTOS), 61.9 MB (59.0 MiB) from sector ${41 * mib}.`,
    );
  });
});
