import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyWrites,
  diskFlow,
  encodeTable,
  endLba,
  inDiskOrder,
  planLayout,
  readPartitionTable,
  sizeRange,
  sourcesOf,
  type LayoutPlan,
  type PartitionTable,
  type SectorSource,
  type TablePartition,
} from '../../src/disk';
import { seeded } from '../fixtures/disks';
import { anyGoal, anyLayoutDisk, numberIn, numberedDisk, withCopied } from '../fixtures/layouts';

const random = seeded(41);

function written(table: PartitionTable, under: SectorSource): SectorSource {
  const encoded = encodeTable(table, under);
  if (!encoded.ok) throw new Error(encoded.problems[0]?.sentence);
  const applied = applyWrites(under, encoded.value);
  if (!applied.ok) throw new Error(applied.problems[0]?.sentence);
  return applied.value;
}

const placesOf = (partitions: readonly { readonly startLba: number; readonly sectorCount: number }[]) =>
  inDiskOrder(partitions).map(({ startLba, sectorCount }) => `${startLba}+${sectorCount}`);

type Live = { readonly partition: TablePartition; readonly from: number; readonly kept: number };

/** Does the operations one by one on an image, writing and reading the table after each. */
function carriedOut(table: PartitionTable, plan: LayoutPlan, count: (what: string) => void) {
  let source = written(table, numberedDisk(table.sectorSizeBytes, table.sectorCount));
  let now: PartitionTable = table;
  const live = new Map<number, Live>(
    table.partitions.map((partition) => [
      partition.number,
      { partition, from: partition.startLba, kept: partition.sectorCount },
    ]),
  );
  const states = [placesOf(table.partitions)];
  for (const operation of plan.operations) {
    count(operation.kind);
    const change = (number: number, to: Partial<TablePartition>) => {
      const one = live.get(number);
      if (!one) throw new Error(`partition ${number} is not there any more`);
      live.set(number, {
        ...one,
        partition: { ...one.partition, ...to },
        kept: Math.min(one.kept, to.sectorCount ?? one.kept),
      });
    };
    switch (operation.kind) {
      case 'shrink':
      case 'grow':
        expect(live.get(operation.partition)?.partition.sectorCount).toBe(operation.fromSectors);
        change(operation.partition, { sectorCount: operation.toSectors });
        break;
      case 'move': {
        // The target is free: nothing but the partition itself stands there.
        for (const [number, { partition }] of live)
          if (number !== operation.partition)
            expect(
              endLba(partition) <= operation.toLba ||
                partition.startLba >= operation.toLba + operation.sectorCount,
            ).toBe(true);
        source = withCopied(source, operation.fromLba, operation.toLba, operation.sectorCount);
        change(operation.partition, {
          startLba: operation.toLba,
          ...(live.get(operation.partition)?.partition.kind === 'logical'
            ? { ebrLba: operation.toLba - 1 }
            : {}),
        });
        break;
      }
      case 'delete':
        live.delete(operation.partition);
        // The container goes with the last one in it, where the plan has none afterwards.
        if (
          !plan.after.extended &&
          ![...live.values()].some(({ partition }) => partition.kind === 'logical')
        ) {
          const { extended: _extended, ...rest } = now;
          now = rest;
        }
        break;
      case 'convert':
        now = { ...plan.after, partitions: [] };
        break;
      case 'create': {
        const entry = plan.after.partitions.find(({ startLba }) => startLba === operation.startLba);
        if (!entry) throw new Error('what is created is not in the table afterwards');
        expect(entry.sectorCount).toBe(operation.sectorCount);
        live.set(-operation.startLba, { partition: entry, from: -1, kept: 0 });
        break;
      }
      default:
        continue;
    }
    const partitions = inDiskOrder([...live.values()].map(({ partition }) => partition));
    // Numbers of a state in between do not matter; no two may be the same in GPT or among primaries.
    now = { ...now, partitions: renumbered(partitions) };
    source = written(now, source);
    const read = readPartitionTable(source);
    if (!read.ok) throw new Error();
    expect(read.value.findings.filter(({ weight }) => weight === 'damage')).toEqual([]);
    expect(placesOf(read.value.partitions)).toEqual(placesOf(partitions));
    states.push(placesOf(partitions));
  }
  return { source, live, states };
}

function renumbered(partitions: readonly TablePartition[]): readonly TablePartition[] {
  const taken = new Set<number>();
  return partitions.map((partition) => {
    let { number } = partition;
    while (taken.has(number)) number += 1;
    taken.add(number);
    return { ...partition, number };
  });
}

describe('2,000 random layouts, done step by step on an image', () => {
  const counts = new Map<string, number>();
  const count = (what: string) => counts.set(what, (counts.get(what) ?? 0) + 1);

  it('every state is read again, nothing is overwritten, every sector that is kept is where its partition is', () => {
    fc.assert(
      fc.property(anyLayoutDisk, anyGoal, (table, goal) => {
        const outcome = planLayout(table, goal, { random });
        if (!outcome.ok) {
          count('refused');
          // A refusal says something of itself, and never leaves anybody without a word.
          for (const { sentence } of outcome.problems) expect(sentence.length).toBeGreaterThan(20);
          return;
        }
        count(`plan ${goal.kind} ${table.scheme}`);
        const plan = outcome.value;
        const { source, live, states } = carriedOut(table, plan, count);
        expect(states.at(-1)).toEqual(placesOf(plan.after.partitions));
        // The last table as planned, with its numbers.
        const done = readPartitionTable(written(plan.after, source));
        if (!done.ok) throw new Error();
        expect(done.value.partitions.map(({ number, startLba }) => [number, startLba])).toEqual(
          plan.after.partitions.map(({ number, startLba }) => [number, startLba]),
        );
        for (const { partition, from, kept } of live.values()) {
          if (from < 0) continue;
          for (const offset of [0, Math.floor(kept / 3), kept - 1]) {
            count('sector followed');
            expect(numberIn(source, partition.startLba + offset)).toBe(from + offset);
          }
        }
        if (goal.kind === 'room') {
          const { room } = plan;
          expect((room?.sectorCount ?? 0) * table.sectorSizeBytes).toBeGreaterThanOrEqual(goal.sizeBytes);
          for (const one of plan.after.partitions)
            expect(endLba(one) <= (room?.startLba ?? 0) || one.startLba >= endLba(room ?? one)).toBe(true);
        }
        if (goal.kind === 'split') {
          const system = plan.after.partitions.find(({ role }) => role === 'system');
          // What was promised is kept, to less than 1 MiB more.
          const over = (system?.sectorCount ?? 0) * table.sectorSizeBytes - goal.systemBytes;
          expect(over).toBeGreaterThanOrEqual(0);
          expect(over).toBeLessThan(1024 ** 2);
        }
        for (const operation of plan.operations) {
          if (operation.kind !== 'shrink') continue;
          // What is typed takes away exactly what the plan takes away, and leaves the used bytes whole.
          expect((operation.typeMebibytes ?? 0) * 1024 ** 2).toBe(
            (operation.fromSectors - operation.toSectors) * table.sectorSizeBytes,
          );
          const used = table.partitions.find(({ number }) => number === operation.partition)?.usedBytes;
          expect(operation.toSectors * table.sectorSizeBytes).toBeGreaterThanOrEqual(
            (used ?? Infinity) * 1.1,
          );
        }
        // Drawn, it is the same: each cut is the state after its column, and its sums are the disk.
        const flow = diskFlow(plan);
        const cutAt = (index: number) =>
          placesOf(
            flow.bands.flatMap(({ key, cuts }) => {
              const cut = key === 'room' ? undefined : cuts[index];
              return cut ? [cut] : [];
            }),
          );
        expect(cutAt(0)).toEqual(states[0]);
        expect(cutAt(flow.columns.length)).toEqual(states.at(-1));
        const { stays, moves, free } = flow.sums;
        expect(stays + moves + flow.sums.new + free).toBe(table.sectorCount);
        expect(free).toBeGreaterThanOrEqual(0);
        for (const band of flow.bands) {
          const last = band.cuts.at(-1);
          if (band.fate !== 'new' || !last) continue;
          count('sources');
          expect(sourcesOf(flow, last).reduce((sum, { sectorCount }) => sum + sectorCount, 0)).toBe(
            last.sectorCount,
          );
        }
      }),
      { numRuns: 2000, seed: 20261126 },
    );
    // Nothing of this was vacuous.
    const min = (what: string, times: number) =>
      expect(counts.get(what) ?? 0, what).toBeGreaterThanOrEqual(times);
    for (const scheme of ['gpt', 'mbr']) {
      for (const kind of ['room', 'split', 'installer-partition', 'standard', 'wipe', 'grow-back'])
        min(`plan ${kind} ${scheme}`, 10);
    }
    for (const kind of ['shrink', 'move', 'delete', 'create', 'grow', 'convert']) min(kind, 30);
    min('sector followed', 5000);
    min('sources', 500);
    min('refused', 200);
  }, 400_000);

  it('the most that is said to be possible is possible, and one MiB more is not', () => {
    let proven = 0;
    fc.assert(
      fc.property(anyLayoutDisk, (table) => {
        const range = sizeRange(table, { kind: 'room' });
        if (!range.ok || !range.value.proven) return;
        const { maxBytes: maxBytes } = range.value;
        if (maxBytes > 0) expect(planLayout(table, { kind: 'room', sizeBytes: maxBytes }).ok).toBe(true);
        expect(planLayout(table, { kind: 'room', sizeBytes: maxBytes + 1024 ** 2 }).ok).toBe(false);
        proven += 1;
      }),
      { numRuns: 300 },
    );
    expect(proven).toBeGreaterThan(200);
  }, 300_000);
});
