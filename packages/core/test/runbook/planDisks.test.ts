import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { endLba } from '../../src/disk/table/partitionTable';
import type { RouteId } from '../../src/route';
import { defaultHouseRules } from '../../src/rules';
import {
  diskShares,
  planDisks,
  planDiskSegments,
  planStates,
  type PlanDisk,
  type RunbookInput,
} from '../../src/runbook';
import { anyPlanInput } from '../fixtures/plans';
import { inputFor, laptopWith, splitDisk } from '../fixtures/shop';

function drawn(input: RunbookInput) {
  const states = planStates(input);
  if (!states.ok) throw new Error(states.problems.map(({ sentence }) => sentence).join(' '));
  const disks = planDisks(input, states.value);
  const indexOf = (kind: string) => states.value.steps.findIndex(({ step }) => step.kind === kind);
  return { disks, steps: states.value.steps, indexOf };
}

const there = ({ bands }: PlanDisk, cut: number) =>
  bands
    .flatMap(({ label, fate, cuts }) => (cuts[cut] ? [{ label, fate, ...cuts[cut] }] : []))
    .toSorted((a, b) => a.startLba - b.startLba);

const onLaptop = (routeId: RouteId, releaseId: string, more: Parameters<typeof inputFor>[2] = {}) => {
  const found = drawn(inputFor(routeId, releaseId, more));
  const [disk] = found.disks;
  if (!disk) throw new Error('the laptop has a disk');
  return { ...found, disk };
};

describe('a disk through the steps of a plan', () => {
  it('is the surveyed one until the step that writes to it', () => {
    const { disk, steps, indexOf } = onLaptop('clean-whole-disk', 'corvel-10-business');
    const erase = indexOf('erase-disk');
    expect(erase).toBeGreaterThan(0);
    expect(there(disk, erase)).toEqual(there(disk, 0));
    expect(there(disk, 0)).toHaveLength(splitDisk.partitions.length);
    expect(there(disk, erase + 1)).toEqual([]);
    const after = there(disk, steps.length);
    expect(after.every(({ fate }) => fate === 'new')).toBe(true);
    expect(after.some(({ label }) => label === 'Corvel 10 Business')).toBe(true);
  });

  it('keeps the data partition to the sector where only the system’s is written', () => {
    const { disk } = onLaptop('clean-system-partition', 'corvel-10-business');
    const data = splitDisk.partitions.find(({ role }) => role === 'data');
    const band = disk.bands.find(({ label }) => label === data?.label);
    expect(new Set(band?.cuts.map((cut) => JSON.stringify(cut))).size).toBe(1);
    expect(band?.fate).toBe('stays');
    const system = disk.bands.find(({ cuts: [first] }) =>
      splitDisk.partitions.some(({ role, startLba }) => role === 'system' && startLba === first?.startLba),
    );
    expect(system?.fate).toBe('erased');
  });

  it('gives the second system the room that the step asks for, at the end of what gave it', () => {
    const bytes = 60_000_000_000;
    const giver = splitDisk.partitions.find(({ role }) => role === 'system');
    if (!giver) throw new Error('the laptop has a system partition');
    const { disk, indexOf } = onLaptop('beside-same-disk', 'saltbush-full', {
      room: { bytes, fromPartition: giver.number },
    });
    const shrink = indexOf('shrink-system');
    const before = disk.bands.find(({ numberBefore }) => numberBefore === giver.number);
    const was = before?.cuts[shrink]?.sectorCount ?? 0;
    const is = before?.cuts[shrink + 1]?.sectorCount ?? 0;
    // In whole MiB: the first multiple of 2048 sectors that holds so many bytes.
    expect(was - is).toBe(Math.ceil(bytes / 512 / 2048) * 2048);
    const made = (of: PlanDisk) =>
      there(of, of.bands[0]?.cuts.length ? of.bands[0].cuts.length - 1 : 0).filter(
        ({ fate }) => fate === 'new',
      );
    const end = (before?.cuts[shrink + 1]?.startLba ?? 0) + is;
    // An EFI system partition of its own comes first in that room: the release's 300 MiB.
    const [efi, second, ...more] = made(disk);
    expect(more).toEqual([]);
    expect(efi).toMatchObject({ startLba: end, sectorCount: 300 * 2048 });
    expect(second).toMatchObject({ startLba: end + 300 * 2048, sectorCount: was - is - 300 * 2048 });
    // Where it shares the present one, all of the room is the system's.
    const shared = onLaptop('beside-same-disk', 'saltbush-full', {
      room: { bytes, fromPartition: giver.number },
      houseRules: { ...defaultHouseRules, efiPartition: 'share' },
    });
    expect(made(shared.disk)).toMatchObject([{ startLba: end, sectorCount: was - is }]);
  });

  it('never draws two partitions over each other, nor past the end, and adds up after each step', () => {
    let moments = 0;
    let written = 0;
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        const states = input && planStates(input);
        if (!input || !states?.ok) return;
        for (const disk of planDisks(input, states.value)) {
          if (disk.changes) written += 1;
          for (let cut = 0; cut <= states.value.steps.length; cut += 1) {
            moments += 1;
            const places = there(disk, cut);
            for (const [index, place] of places.entries()) {
              expect(place.sectorCount).toBeGreaterThanOrEqual(0);
              expect(endLba(place)).toBeLessThanOrEqual(disk.sectorCount);
              const next = places[index + 1];
              if (next) expect(endLba(place)).toBeLessThanOrEqual(next.startLba);
            }
            const segments = planDiskSegments(disk, cut);
            expect(segments.reduce((sum, { sectorCount }) => sum + sectorCount, 0)).toBe(disk.sectorCount);
            expect(segments.filter(({ kind }) => kind === 'partition')).toHaveLength(
              places.filter(({ sectorCount }) => sectorCount >= 0).length,
            );
            const { shares, totalTenths } = diskShares(disk, cut);
            expect(shares.reduce((sum, { tenths }) => sum + tenths, 0)).toBe(totalTenths);
          }
        }
      }),
      { numRuns: 300, seed: 7 },
    );
    expect(moments).toBeGreaterThan(3000);
    expect(written).toBeGreaterThan(60);
  });

  it('holds the partitions that the machine holds, until the installer makes its own', () => {
    let compared = 0;
    fc.assert(
      fc.property(anyPlanInput, (input) => {
        const states = input && planStates(input);
        if (!input || !states?.ok) return;
        const disks = planDisks(input, states.value);
        for (const [index, { operators, after }] of states.value.steps.entries()) {
          if (operators.some(({ op }) => op === 'install' || op === 'upgrade' || op === 'install-over'))
            break;
          for (const disk of disks) {
            const numbers = disk.bands.flatMap(({ fate, numberBefore, cuts }) =>
              fate !== 'new' && cuts[index + 1] ? [numberBefore] : [],
            );
            const machine = after.disks.find(({ id }) => id === disk.name)?.partitions ?? [];
            expect(numbers.toSorted()).toEqual(
              machine
                .filter(({ role }) => role !== 'installer')
                .map(({ number }) => number)
                .toSorted(),
            );
            compared += 1;
          }
        }
      }),
      { numRuns: 300, seed: 8 },
    );
    expect(compared).toBeGreaterThan(2000);
  });

  it('names what the step changed', () => {
    const { disk, indexOf } = onLaptop('clean-whole-disk', 'corvel-10-business', {
      facts: laptopWith({ disks: [splitDisk] }),
    });
    const erase = indexOf('erase-disk');
    const before = diskShares(disk, erase);
    expect(before.shares.some(({ isChanged }) => isChanged)).toBe(false);
    const [free, ...none] = diskShares(disk, erase + 1).shares;
    expect(free).toEqual({ label: 'free', isChanged: true, tenths: before.totalTenths });
    expect(none).toEqual([]);
  });
});
