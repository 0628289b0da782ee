import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyLayout,
  bufferSource,
  endLba,
  planLayout,
  readPartitionTable,
  type LayoutOptions,
  type LayoutPlan,
  type PartitionTable,
  type TablePartition,
} from '../../src/disk';
import { bruteRoom, type Block } from '../fixtures/bruteRoom';
import { seeded, written, inTheTable } from '../fixtures/disks';

const mib = 1024 ** 2;
const gb = 1000 ** 3;
/** Sectors of 512 bytes in a MiB. */
const unit = 2048;

/** A partition of whole MiB; `used` in bytes. */
function part(
  number: number,
  startMib: number,
  mebibytes: number,
  more: Partial<TablePartition> = {},
): TablePartition {
  return {
    number,
    kind: 'entry',
    startLba: startMib * unit,
    sectorCount: mebibytes * unit,
    typeCode: 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7',
    guid: `00000000-0000-4000-8000-00000000000${number.toString(16).toUpperCase()}`,
    ...more,
  };
}

/** A GPT disk of so many whole MiB before the second table. */
function gpt(mebibytes: number, partitions: readonly TablePartition[]): PartitionTable {
  const sectorCount = mebibytes * unit + 33;
  return {
    scheme: 'gpt',
    sectorSizeBytes: 512,
    sectorCount,
    diskId: '00000000-0000-4000-8000-0000000000FF',
    partitions,
    firstUsableLba: 34,
    lastUsableLba: sectorCount - 34,
    gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: sectorCount - 1, hybrid: false },
    findings: [],
  };
}

const kinds = (plan: LayoutPlan) => plan.operations.map(({ kind }) => kind);
function planned(
  table: PartitionTable,
  goal: Parameters<typeof planLayout>[1],
  options: LayoutOptions = {},
): LayoutPlan {
  const outcome = planLayout(table, goal, options);
  if (!outcome.ok) throw new Error(outcome.problems.map(({ sentence }) => sentence).join(' '));
  return outcome.value;
}
const refusal = (
  table: PartitionTable,
  goal: Parameters<typeof planLayout>[1],
  options: LayoutOptions = {},
) => {
  const outcome = planLayout(table, goal, options);
  return outcome.ok ? [] : outcome.problems.map(({ code }) => code);
};

/** EFI 100 MiB, system 100 GiB of which 40 GiB are used, recovery 600 MiB, and 20 GiB free behind. */
const efi = part(1, 1, 100, { role: 'efi', usedBytes: 30 * mib });
const system = part(2, 101, 102_400, { role: 'system', label: 'SYSTEM', usedBytes: 40 * 1024 * mib });
const recovery = part(3, 102_501, 600, { role: 'recovery', label: 'RECOVERY', usedBytes: 500 * mib });
const laptop = gpt(102_501 + 600 + 20_480, [efi, system, recovery]);

describe('making room', () => {
  it('does nothing when the run is there', () => {
    const plan = planned(laptop, { kind: 'room', sizeBytes: 20 * 1024 * mib });
    expect(plan.operations).toEqual([]);
    expect(plan.room).toEqual({ startLba: 103_101 * unit, sectorCount: 20_480 * unit });
  });

  it('shrinks the end of the system rather than move the recovery partition', () => {
    const plan = planned(laptop, { kind: 'room', sizeBytes: 30 * 1024 * mib });
    expect(kinds(plan)).toEqual(['shrink']);
    // 102,400 − 30,720 MiB stay, no more is taken than was asked for.
    expect(plan.operations[0]).toMatchObject({ partition: 2, toSectors: 71_680 * unit });
    expect(plan.operations[0]?.sentence).toContain('type 30720 (MiB to remove)');
    expect(plan.room).toEqual({ startLba: (102_501 - 30_720) * unit, sectorCount: 30_720 * unit });
    expect(plan.movedBytes).toBe(0);
  });

  it('moves the recovery partition when both halves are needed, and says that it stands between', () => {
    // The system gives at most 102,400 − 45,056 MiB (40 GiB and a tenth) = 57,344; 20,480 are free: 70,000 need both.
    const plan = planned(laptop, { kind: 'room', sizeBytes: 70_000 * mib });
    expect(kinds(plan)).toEqual(['shrink', 'move']);
    expect(plan.movedBytes).toBe(600 * mib);
    expect(plan.sentence).toContain('Partition 3 (RECOVERY) is between; 629.1 MB are moved.');
    const without = planLayout(laptop, { kind: 'room', sizeBytes: 70_000 * mib }, { allowMoves: false });
    if (without.ok) throw new Error();
    expect(without.problems.map(({ code }) => code)).toEqual(['no-room', 'stands-between']);
    expect(without.problems[0]?.sentence).toContain('60.1 GB (56.0 GiB)');
    expect(without.problems[1]?.sentence).toContain('move 629.1 MB');
  });

  it('says of an EFI system partition that is moved that the boot files are made anew', () => {
    // 10 MiB before it and 80 behind: 85 in one run only when it moves to the end or the start.
    const moved = planned(gpt(1 + 10 + 100 + 80, [part(1, 11, 100, { role: 'efi' })]), {
      kind: 'room',
      sizeBytes: 85 * mib,
    });
    expect(kinds(moved)).toEqual(['move']);
    expect(moved.first.join(' ')).toContain('they are made anew after it was moved');
  });

  it('says the most that could be had, and why no more', () => {
    const locked = new Map([[3, 'the route promised to keep it.']]);
    const codes = refusal(laptop, { kind: 'room', sizeBytes: 70_000 * mib }, { locked });
    expect(codes).toEqual(['no-room', 'locked']);
    const unknown = gpt(5000, [part(1, 1, 4999)]);
    expect(refusal(unknown, { kind: 'room', sizeBytes: 100 * mib })).toEqual(['no-room', 'used-unknown']);
    const immovable = gpt(5000, [part(1, 1, 4999, { usedBytes: mib, lastImmovableByte: 4990 * mib })]);
    expect(refusal(immovable, { kind: 'room', sizeBytes: 100 * mib })).toEqual(['no-room', 'immovable']);
    const encrypted = gpt(5000, [part(1, 1, 4999, { usedBytes: mib, encrypted: true })]);
    expect(refusal(encrypted, { kind: 'room', sizeBytes: 100 * mib })).toEqual(['no-room', 'encrypted']);
    expect(refusal(laptop, { kind: 'room', sizeBytes: 10 ** 15 })).toEqual(['larger-than-disk']);
    expect(refusal(laptop, { kind: 'room', sizeBytes: 10 })).toEqual(['size-too-small']);
  });

  it('keeps above the last immovable block and the reserve', () => {
    const table = gpt(1001, [part(1, 1, 1000, { usedBytes: 100 * mib, lastImmovableByte: 600 * mib })]);
    // The block at 600 MiB stays: its MiB is the 601st, so 399 can be had.
    expect(kinds(planned(table, { kind: 'room', sizeBytes: 399 * mib }))).toEqual(['shrink']);
    expect(refusal(table, { kind: 'room', sizeBytes: 400 * mib })).toContain('no-room');
    const reserve = gpt(1001, [part(1, 1, 1000, { usedBytes: 500 * mib })]);
    // 500 MiB and a tenth are 550.
    expect(kinds(planned(reserve, { kind: 'room', sizeBytes: 450 * mib }))).toEqual(['shrink']);
    expect(refusal(reserve, { kind: 'room', sizeBytes: 451 * mib })).toContain('no-room');
  });

  it('needs an entry: four in MBR, or a logical one', () => {
    const primaries = [1, 2, 3, 4].map((number) =>
      part(number, number * 100, 50, { kind: 'primary', typeCode: '0x07', usedBytes: mib }),
    );
    const mbr: PartitionTable = {
      ...gpt(1000, primaries),
      scheme: 'mbr',
      firstUsableLba: 1,
      lastUsableLba: 1000 * unit,
    };
    expect(refusal(mbr, { kind: 'room', sizeBytes: 10 * mib })).toEqual(['no-free-entry']);
    const extended = { startLba: 400 * unit, sectorCount: 300 * unit, entry: 4 };
    const logical = part(5, 401, 100, {
      kind: 'logical',
      typeCode: '0x07',
      usedBytes: 10 * mib,
      ebrLba: 400 * unit,
    });
    const withExtended: PartitionTable = {
      ...mbr,
      partitions: [...primaries.slice(0, 3), logical],
      extended,
    };
    const plan = planned(withExtended, { kind: 'installer-partition', sizeBytes: 150 * mib });
    const made = plan.after.partitions.find(({ number }) => number === 6);
    // Behind the logical one, on a whole MiB with its EBR in the sector before: 502 MiB.
    expect(made).toMatchObject({
      kind: 'logical',
      startLba: 502 * unit,
      ebrLba: 502 * unit - 1,
      typeCode: '0x0C',
    });
    expect(kinds(plan)).toEqual(['create', 'format']);
  });
});

describe('other goals', () => {
  it('splits into system and data', () => {
    const plan = planned(laptop, { kind: 'split', systemBytes: 60 * 1024 * mib });
    expect(kinds(plan)).toEqual(['shrink', 'create', 'format']);
    // Data begin at 101 + 61,440 MiB and reach to the recovery partition at 102,501.
    expect(
      plan.after.partitions.map(({ number, startLba, sectorCount }) => [
        number,
        startLba / unit,
        sectorCount / unit,
      ]),
    ).toEqual([
      [1, 1, 100],
      [2, 101, 61_440],
      [4, 61_541, 40_960],
      [3, 102_501, 600],
    ]);
    expect(refusal(laptop, { kind: 'split', systemBytes: 43 * 1024 * mib })).toEqual(['below-used']);
    expect(refusal(laptop, { kind: 'split', systemBytes: 110 * 1024 * mib })).toEqual(['nothing-to-split']);
    expect(refusal(gpt(1000, [part(1, 1, 500)]), { kind: 'split', systemBytes: 100 * mib })).toEqual([
      'no-system',
    ]);
  });

  it('grows back after a second system is removed, past what stands between', () => {
    const second = part(4, 103_101, 20_480, { label: 'SECOND' });
    const both = { ...laptop, partitions: [efi, system, recovery, second] };
    const plan = planned(both, { kind: 'grow-back', partition: 2, remove: [4] });
    expect(kinds(plan)).toEqual(['delete', 'move', 'grow']);
    expect(plan.after.partitions.find(({ number }) => number === 2)).toMatchObject({
      sectorCount: (102_400 + 20_480) * unit,
    });
    expect(plan.after.partitions.find(({ number }) => number === 3)?.startLba).toBe(
      (102_501 + 20_480) * unit,
    );
    expect(refusal(both, { kind: 'grow-back', partition: 2, remove: [4] }, { allowMoves: false })).toEqual([
      'cannot-grow',
    ]);
    expect(
      refusal(both, { kind: 'grow-back', partition: 2, remove: [4] }, { promised: new Set([4]) }),
    ).toEqual(['promised']);
    expect(refusal(both, { kind: 'grow-back', partition: 2, remove: [9] })).toEqual(['no-such-partition']);
  });

  it('lays out a release over the whole disk, or in the place of the system, and never over what was promised', () => {
    const installer = [
      { purpose: 'efi' as const, sizeBytes: 260 * mib },
      { purpose: 'recovery' as const, sizeBytes: 700 * mib },
    ];
    const wiped = planned(laptop, { kind: 'wipe', scheme: 'gpt', installer });
    expect(kinds(wiped)).toEqual(['delete', 'delete', 'delete', 'create', 'create', 'create']);
    const total = 102_501 + 600 + 20_480;
    expect(
      wiped.after.partitions.map(({ role, startLba, sectorCount }) => [
        role,
        startLba / unit,
        sectorCount / unit,
      ]),
    ).toEqual([
      ['efi', 1, 260],
      ['system', 261, total - 261 - 700],
      ['recovery', total - 700, 700],
    ]);
    expect(refusal(laptop, { kind: 'wipe', scheme: 'gpt', installer }, { promised: new Set([3]) })).toEqual([
      'promised',
    ]);
    const standard = planned(laptop, { kind: 'standard', installer }, { promised: new Set([3]) });
    // EFI and recovery are there already: only the system is made again, in its own place.
    expect(kinds(standard)).toEqual(['delete', 'create']);
    expect(standard.after.partitions.find(({ role }) => role === 'system')).toMatchObject({
      startLba: 101 * unit,
      sectorCount: 102_400 * unit,
    });
    expect(refusal(laptop, { kind: 'standard', installer }, { promised: new Set([2]) })).toEqual([
      'promised',
    ]);
  });

  it('plans nothing over a damaged table', () => {
    const finding = {
      code: 'entries-overlap' as const,
      path: '/partitions/2',
      sentence: 'They overlap.',
      weight: 'damage' as const,
    };
    expect(refusal({ ...laptop, findings: [finding] }, { kind: 'room', sizeBytes: gb })).toEqual([
      'entries-overlap',
    ]);
  });
});

describe('laws of layouts', () => {
  type Small = {
    readonly blocks: readonly (Block & { readonly gap: number })[];
    readonly tail: number;
    readonly window: number;
  };
  const small = (max: number): fc.Arbitrary<Small> =>
    fc.record({
      blocks: fc.array(
        fc
          .record({
            gap: fc.integer({ min: 0, max: 3 }),
            length: fc.integer({ min: 1, max: 4 }),
            give: fc.integer({ min: 0, max: 3 }),
            movable: fc.boolean(),
            isSystem: fc.boolean(),
          })
          .map(({ gap, length, give, movable, isSystem }) => ({
            gap,
            length,
            min: Math.max(1, length - (movable ? give : 0)),
            movable,
            moveRisk: isSystem ? 20 : 10,
          })),
        { minLength: 1, maxLength: max },
      ),
      tail: fc.integer({ min: 0, max: 3 }),
      window: fc.integer({ min: 1, max: 9 }),
    });

  function tableOf({ blocks, tail }: Small) {
    let next = 1;
    const partitions = blocks.map(({ gap, length, min: min, moveRisk }, index) => {
      const start = next + gap;
      next = start + length;
      return part(index + 1, start, length, {
        // The least with its reserve of a tenth comes to exactly `least` MiB.
        ...(min < length ? { usedBytes: Math.floor((min * mib) / 1.1) - 8 } : {}),
        ...(moveRisk === 20 ? { role: 'system' as const } : {}),
      });
    });
    return gpt(next + tail, partitions);
  }
  const locked = ({ blocks }: Small) =>
    new Map(blocks.flatMap(({ movable }, index) => (movable ? [] : [[index + 1, 'locked.'] as const])));

  it('finds a plan exactly when there is one, and no cheaper one exists: compared with trying everything', () => {
    let feasible = 0;
    fc.assert(
      fc.property(small(4), (disk) => {
        const table = tableOf(disk);
        const outcome = planLayout(
          table,
          { kind: 'room', sizeBytes: disk.window * mib },
          { locked: locked(disk) },
        );
        const brute = bruteRoom(
          disk.blocks.map((block, index) => ({
            ...block,
            start: (table.partitions[index]?.startLba ?? 0) / unit,
          })),
          1,
          (table.lastUsableLba + 1) / unit,
          disk.window,
        );
        expect(outcome.ok).toBe(brute !== undefined);
        if (!outcome.ok || !brute) return;
        feasible += 1;
        const { risk, movedBytes, operations, proven } = outcome.value;
        // What is grown back into what is left over comes after the plan’s own cost.
        const grown = operations.filter(({ kind }) => kind === 'grow').length;
        expect({ risk: risk - grown, moved: movedBytes / mib }).toEqual(brute);
        expect(proven).toBe(true);
      }),
      { numRuns: 400 },
    );
    expect(feasible).toBeGreaterThan(100);
  });

  it('meets its goal, overlaps nothing, loses no sector of what is moved, and can be done step by step', () => {
    let grown = 0;
    fc.assert(
      fc.property(small(6), fc.integer({ min: 1 }), (disk, seed) => {
        const table = tableOf(disk);
        const random = seeded(seed);
        const outcome = planLayout(
          table,
          { kind: 'room', sizeBytes: disk.window * mib },
          { locked: locked(disk), random },
        );
        if (!outcome.ok) return;
        const plan = outcome.value;
        const { room, after } = plan;
        expect(room && room.sectorCount * 512).toBe(disk.window * mib);
        const occupied = [...after.partitions, ...(room ? [room] : [])].sort(
          (a, b) => a.startLba - b.startLba,
        );
        occupied.reduce((end, one) => {
          expect(one.startLba).toBeGreaterThanOrEqual(end);
          return endLba(one);
        }, table.firstUsableLba);
        expect(endLba(occupied.at(-1) ?? { startLba: 0, sectorCount: 0 })).toBeLessThanOrEqual(
          table.lastUsableLba + 1,
        );
        // Step by step: shrinks first, and every move finds its target free.
        const now = new Map(
          table.partitions.map((one) => [
            one.number,
            { startLba: one.startLba, sectorCount: one.sectorCount },
          ]),
        );
        const shortest = new Map<number, number>();
        for (const operation of plan.operations) {
          if (operation.kind === 'shrink') shortest.set(operation.partition, operation.toSectors);
          if (operation.kind === 'shrink' || operation.kind === 'grow')
            now.set(operation.partition, {
              ...(now.get(operation.partition) ?? { startLba: 0 }),
              sectorCount: operation.toSectors,
            });
          if (operation.kind === 'grow') grown += 1;
          if (operation.kind !== 'move') continue;
          for (const [number, other] of now)
            if (number !== operation.partition)
              expect(
                endLba(other) <= operation.toLba || other.startLba >= operation.toLba + operation.sectorCount,
              ).toBe(true);
          now.set(operation.partition, { startLba: operation.toLba, sectorCount: operation.sectorCount });
        }
        const inOrder = [...occupied, { startLba: table.lastUsableLba + 1 }];
        for (const one of after.partitions) {
          expect(now.get(one.number)).toEqual({ startLba: one.startLba, sectorCount: one.sectorCount });
          const before = table.partitions.find(({ number }) => number === one.number);
          const block = disk.blocks[one.number - 1];
          expect(one.sectorCount).toBeGreaterThanOrEqual((block?.min ?? 0) * unit);
          if (block?.movable === false) expect(one).toEqual(before);
          if (!before || one.sectorCount === before.sectorCount) continue;
          // What had to shrink has no whole MiB left free behind it.
          const next = inOrder.find(({ startLba }) => startLba > one.startLba);
          expect((next?.startLba ?? 0) - endLba(one)).toBeLessThan(unit);
        }
        const source = written(
          table,
          bufferSource(
            random(4096 * 3).length > 0 ? noise(table.sectorCount, random) : new Uint8Array(0),
            512,
          ),
        );
        const done = applyLayout(source, plan, random);
        if (!done.ok) throw new Error(done.problems[0]?.sentence);
        const back = readPartitionTable(done.value);
        expect(back.ok && inTheTable(back.value)).toEqual([]);
        for (const one of after.partitions) {
          const before = table.partitions.find(({ number }) => number === one.number);
          if (!before) throw new Error();
          // A file system was moved at its shortest; what it is grown into afterwards is empty.
          const kept = shortest.get(one.number) ?? before.sectorCount;
          expect(
            Buffer.compare(done.value.read(one.startLba, kept), source.read(before.startLba, kept)),
          ).toBe(0);
        }
      }),
      { numRuns: 250, seed: 20261126 },
    );
    expect(grown).toBeGreaterThan(3);
  });
});

function noise(sectorCount: number, random: (count: number) => Uint8Array): Uint8Array {
  const block = random(4093);
  const bytes = new Uint8Array(sectorCount * 512);
  for (let at = 0; at < bytes.length; at += block.length)
    bytes.set(block.subarray(0, Math.min(block.length, bytes.length - at)), at);
  return bytes;
}
