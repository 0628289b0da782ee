import { describe, expect, it } from 'vitest';
import {
  diskFlow,
  planLayout,
  rememberedOf,
  sourcesOf,
  surveyedFromTable,
  type LayoutPlan,
  type LayoutPlanGoal,
  type PartitionTable,
} from '../../src/disk';
import { partition } from '../fixtures/conversions';
import { splitDisk } from '../fixtures/shop';
import { data, gpt, mbr, mebibyte, mib, planned, refused, room, system } from '../fixtures/smallDisks';

const codes = (table: PartitionTable, goal: LayoutPlanGoal) => refused(table, goal).map(({ code }) => code);

describe('a disk without a table', () => {
  it('is only laid out as a whole', () => {
    const bare: PartitionTable = { ...mbr(), scheme: 'none' };
    expect(codes(bare, room(10))).toEqual(['no-table']);
    expect(codes(bare, { kind: 'grow-back', partition: 1, remove: [] })).toEqual(['no-table']);
    expect(codes(bare, { kind: 'wipe', scheme: 'gpt', installer: [] })).toEqual([]);
  });
});

describe('what a plan says of its risk', () => {
  it('is that of the worst that it does', () => {
    // Room behind the system is there already; then the system gives it.
    expect(planned(mbr(system()), room(50)).sentence).toBe(
      'The disk is like that already: nothing has to be done.',
    );
    expect(planned(mbr(system({ sectorCount: 390 * mib })), room(50)).sentence).toContain('little risk');
    // The new system takes the place of the old one: what stood there is gone.
    expect(
      planned(mbr(system()), { kind: 'standard', installer: [{ purpose: 'boot', sizeBytes: 10 * mebibyte }] })
        .sentence,
    ).toContain('what is deleted is only in its copies afterwards');
    // Only between them is room, and never enough: one has to go to the side.
    const crowded = mbr(
      system({ sectorCount: 100 * mib, usedBytes: 90 * mebibyte }),
      data(2, 150, 50, { usedBytes: 45 * mebibyte }),
      data(3, 250, 145, { usedBytes: 131 * mebibyte }),
    );
    const moved = planned(crowded, room(95));
    expect(moved.operations.map(({ kind }) => kind)).toContain('move');
    expect(moved.sentence).toContain('and a move that is broken off loses data');
    expect(moved.sentence).toContain('are moved.');
  });
});

describe('a new partition', () => {
  const split: LayoutPlanGoal = { kind: 'split', systemBytes: 60 * mebibyte };

  it('has the first number that is free, its role, and a name where the scheme has names', () => {
    const made = (table: PartitionTable) => {
      const plan = planned(table, split);
      return plan.after.partitions.find(
        ({ startLba }) => !table.partitions.some((one) => one.startLba === startLba),
      );
    };
    expect(made(gpt(system(), data(3, 300, 50)))).toMatchObject({
      number: 2,
      kind: 'entry',
      role: 'data',
      label: 'data partition',
      name: 'data partition',
      typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
    });
    const inMbr = made(mbr(system(), data(3, 300, 50)));
    expect(inMbr).toMatchObject({ number: 2, kind: 'primary', role: 'data', typeCode: '0x07' });
    expect(inMbr).not.toHaveProperty('name');
  });

  it('is named in its sentence as one says it', () => {
    const sentences = planned(gpt(), {
      kind: 'wipe',
      scheme: 'gpt',
      installer: [
        { purpose: 'efi', sizeBytes: 100 * mebibyte },
        { purpose: 'recovery', sizeBytes: 50 * mebibyte },
      ],
    }).operations.flatMap(({ kind, sentence }) => (kind === 'create' ? [sentence] : []));
    expect(sentences.map((sentence) => sentence.split(' of ')[0])).toEqual([
      'Create an EFI system partition',
      'Create a system partition',
      // Behind the system's, where it is out of the way of a shrink.
      'Create a recovery partition',
    ]);
    const installer = planned(gpt(system()), { kind: 'installer-partition', sizeBytes: 40 * mebibyte });
    expect(installer.operations.map(({ sentence }) => sentence).join(' ')).toContain(
      'Create an installer partition of',
    );
  });
});

describe('growing back', () => {
  const table = mbr(system(), data(2, 210, 100));

  it('gives a neighbour the room of what goes, and never to what goes itself', () => {
    const grown = planned(table, { kind: 'grow-back', partition: 1, remove: [2] });
    expect(grown.operations.map(({ kind }) => kind)).toEqual(['delete', 'grow']);
    expect(grown.after.partitions).toHaveLength(1);
    // It had 200 MiB, and gets the 100 of the other one: what was free before is free.
    expect(grown.after.partitions[0]?.sectorCount).toBe(300 * mib);
    const both = planLayout(table, { kind: 'grow-back', partition: 2, remove: [2] });
    expect(!both.ok && both.problems).toMatchObject([
      {
        code: 'promised',
        path: '/partitions/2',
        sentence: expect.stringContaining('to grow and to go at once'),
      },
    ]);
    const kept = planLayout(
      table,
      { kind: 'grow-back', partition: 1, remove: [2] },
      { promised: new Set([2]) },
    );
    expect(!kept.ok && kept.problems[0]?.sentence).toContain('The route promised to keep it.');
  });
});

describe('the flow of a plan', () => {
  it('draws room that stays free as a band of its own, and none where something is made there', () => {
    const keys = (plan: LayoutPlan) => diskFlow(plan).bands.map(({ key }) => key);
    const free = planned(mbr(system({ sectorCount: 390 * mib })), room(50));
    expect(keys(free)).toContain('room');
    const installer = planned(gpt(system()), { kind: 'installer-partition', sizeBytes: 40 * mebibyte });
    expect(keys(installer)).not.toContain('room');
  });

  it('says where the sectors of a stretch come from, and that they add up', () => {
    const plan = planned(mbr(system({ sectorCount: 390 * mib })), room(50));
    const flow = diskFlow(plan);
    const stretch = { startLba: 380 * mib, sectorCount: 15 * mib };
    // The system ends at 391 MiB: eleven of it, and four that were free.
    expect(sourcesOf(flow, stretch)).toEqual([
      { label: 'SYSTEM', sectorCount: 11 * mib },
      { label: 'free', sectorCount: 4 * mib },
    ]);
    expect(sourcesOf(flow, { startLba: 380 * mib, sectorCount: 11 * mib })).toEqual([
      { label: 'SYSTEM', sectorCount: 11 * mib },
    ]);
  });
});

describe('what a conversion remembers', () => {
  it('is what the other scheme cannot say, and nothing that was not there', () => {
    const table: PartitionTable = {
      ...mbr(system({ active: true }), data(2, 210, 50)),
      diskId: '7A11C0DE',
    };
    const { diskId, partitions } = rememberedOf(table);
    expect(diskId).toBe('7A11C0DE');
    expect(partitions[0]).toEqual({
      startLba: mib,
      typeCode: '0x07',
      number: 1,
      kind: 'primary',
      active: true,
    });
    expect(partitions[1]).not.toHaveProperty('active');
    const { diskId: _none, ...nameless } = mbr();
    expect(rememberedOf(nameless)).toEqual({ partitions: [] });
  });
});

describe('a surveyed disk whose sectors were read', () => {
  it('keeps what people marked, and takes what was measured', () => {
    const table = mbr(
      partition(1, 277 * mib, 100 * mib, { content: { kind: 'ntfs' }, label: 'NEW', usedBytes: 7 }),
      partition(2, 500 * mib, 10 * mib),
    );
    const [known, unknown] = surveyedFromTable(splitDisk, table).partitions;
    expect(known).toMatchObject({
      number: 1,
      role: 'system',
      fileSystem: 'ntfs',
      label: 'NEW',
      usedBytes: 7,
    });
    expect(unknown).not.toHaveProperty('usedBytes');
    expect(unknown).not.toHaveProperty('label');
    // Nothing measured: what was typed stays.
    const bare = surveyedFromTable(splitDisk, mbr(partition(1, 277 * mib, 100 * mib))).partitions[0];
    expect(bare).toMatchObject({ label: 'SYSTEM', usedBytes: 40e9 });
  });
});
