import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxUnits } from '../../src/quantity';
import { defaultHouseRules, type HouseRules } from '../../src/rules';
import { answerSheet, planStates, type HandPartition, type RunbookInput } from '../../src/runbook';
import type { RouteId } from '../../src/route';
import { valueOf, type Disk } from '../../src/survey';
import { diskWorkOf } from '../../src/runbook/diskWork';
import { asRunbookInput } from '../../src/runbook/input';
import { anyPlanInput } from '../fixtures/plans';
import { inputFor, laptop, laptopWith, releaseOf, splitDisk } from '../fixtures/shop';

const whose = { site: 'Lowholm', owner: 'Crew room', reference: 'MV-0036' };

const sheetOf = (input: RunbookInput) => {
  const states = planStates(input);
  return states.ok ? answerSheet(input, states.value, whose) : undefined;
};

const byHand = (
  routeId: RouteId,
  releaseId: string,
  rules: Partial<HouseRules> = {},
  more: Partial<RunbookInput> = {},
) => {
  const houseRules = { ...defaultHouseRules, partitioning: 'by-hand' as const, ...rules };
  const hand = sheetOf(inputFor(routeId, releaseId, { houseRules, ...more }))?.hand;
  if (!hand) throw new Error('nothing is laid out by hand');
  return hand;
};

const line = ({ number, start, size, fileSystem, mountPoint, format }: HandPartition) =>
  [number, start, size, fileSystem, mountPoint ?? '-', format].join(' ');

describe('the partition page', () => {
  it('deletes the system’s place, makes it again and leaves everything else, in whole MiB', () => {
    const hand = byHand('clean-system-partition', 'corvel-10-business');
    // 277 MiB after 260 (EFI) + 16 (reserved) + 1 before them; 122,880 MiB are the 120 GiB of the fixture.
    expect(hand.deleted.map(line)).toEqual(['3 277 122880 NTFS - delete']);
    expect(hand.made.map(line)).toEqual(['3 277 122880 NTFS - yes']);
    expect(hand.kept.map(line)).toEqual([
      '1 1 260 FAT32 - never',
      '2 261 16 none - never',
      '4 123157 102400 NTFS - never',
      '5 225557 620 not known - never',
    ]);
    expect(hand.kept.map(({ label }) => label)).toEqual(['EFI', 'reserved', 'DATA', 'RECOVERY']);
  });

  it('makes what the installer would have made, and the sums are those that are typed', () => {
    const hand = byHand('clean-whole-disk', 'corvel-10-business');
    expect(hand.deleted).toHaveLength(splitDisk.partitions.length);
    expect(hand.kept).toEqual([]);
    // 260 + 16 and 780 MiB are the release's own; the system has what is left of 244,198 MiB less 1 in front.
    const own = releaseOf('corvel-10-business').installerPartitions.map(
      ({ sizeBytes }) => sizeBytes / 1024 ** 2,
    );
    const all = Math.floor((splitDisk.sectorCount * 512) / 1024 ** 2);
    const rest = Number(hand.made[2]?.size);
    expect(hand.made.map(({ size }) => Number(size))).toEqual([own[0], own[1], rest, own[2]]);
    const sum = hand.checks.find(({ id }) => id.startsWith('sum'))?.sentence ?? '';
    const [left = '', right = ''] = sum.split(' = ');
    expect(left.split(' + ').reduce((total, part) => total + Number(part), 0)).toBe(
      Number.parseInt(right, 10),
    );
    expect(rest).toBeLessThanOrEqual(all - 1 - 260 - 16 - 780);
    expect(rest).toBeGreaterThan(all - 260 - 16 - 780 - 4);
  });

  it('asks where each is mounted only where the release’s page does, and never mounts the kept system', () => {
    const hand = byHand('beside-same-disk', 'saltbush-full', { efiPartition: 'share' });
    const points = Object.fromEntries(
      [...hand.made, ...hand.kept].map(({ label, mountPoint }) => [label, mountPoint]),
    );
    expect(points).toEqual({
      'Saltbush Desktop 6 Full': '/',
      EFI: '/boot/efi',
      reserved: null,
      SYSTEM: null,
      DATA: '/data',
      RECOVERY: null,
    });
    expect(hand.made.map(({ number }) => number)).toEqual([6]);
    expect(hand.deleted).toEqual([]);
  });

  it('puts the loader on the new system’s own EFI partition where the house wants one, and mounts only that', () => {
    const hand = byHand('beside-same-disk', 'saltbush-full', { efiPartition: 'own' });
    const [own] = hand.made;
    expect(own).toMatchObject({ purpose: 'efi', mountPoint: '/boot/efi', fileSystem: 'FAT32' });
    expect(hand.loader).toEqual(own);
    expect(hand.kept.find(({ label }) => label === 'EFI')?.mountPoint).toBeNull();
    const points = [...hand.made, ...hand.kept].flatMap(({ mountPoint }) => mountPoint ?? []);
    expect(new Set(points).size).toBe(points.length);
    // The page for the loader names the same partition as the check.
    const houseRules = {
      ...defaultHouseRules,
      partitioning: 'by-hand' as const,
      efiPartition: 'own' as const,
    };
    const sheet = sheetOf(inputFor('beside-same-disk', 'saltbush-full', { houseRules }));
    const page = sheet?.pages.find(({ kind }) => kind === 'loader');
    expect(page?.pieces.map(({ text }) => text).join(' ')).toContain(`partition ${own?.number ?? 0}.`);
    expect(hand.checks.find(({ id }) => id === 'loader')?.sentence).toContain(
      `partition ${own?.number ?? 0}:`,
    );
  });

  it('is made where a layout was planned, though the installer could lay out by itself', () => {
    const planned = diskWorkOf(
      laptop,
      {
        disk: splitDisk.name,
        serial: splitDisk.serial ?? null,
        work: {
          kind: 'layout',
          goal: {
            kind: 'wipe',
            scheme: 'gpt',
            installer: releaseOf('corvel-10-business').installerPartitions,
          },
        },
        at: '2026-03-02T10:00:00.000Z',
        by: 'Ines',
      },
      { writesOver: 'whole-disk' },
    );
    const made = planned.ok ? planned.value.operations.filter(({ kind }) => kind === 'create') : [];
    expect(made.length).toBeGreaterThan(0);
    const houseRules = { ...defaultHouseRules, partitioning: 'guided' as const };
    const input = inputFor('clean-whole-disk', 'corvel-10-business', { houseRules, diskPlan: planned });
    expect(sheetOf(input)?.hand?.made).toHaveLength(made.length);
  });

  it('says whether the loader has room on the EFI partition that it shares', () => {
    const withUsed = (usedBytes: number | undefined) => {
      const partitions = splitDisk.partitions.map((one) =>
        one.role === 'efi' && usedBytes !== undefined ? { ...one, usedBytes } : one,
      );
      return byHand(
        'beside-same-disk',
        'saltbush-full',
        { efiPartition: 'share' },
        { facts: laptopWith({ disks: [{ ...splitDisk, partitions }] }) },
      ).checks.find(({ id }) => id === 'loader');
    };
    const mib = 1024 ** 2;
    // 260 − 61 = 199; the release puts 34 there.
    expect(withUsed(61 * mib)).toEqual({
      id: 'loader',
      sentence: 'Loader on …9C2E, partition 1: 34 MiB, 199 free.',
      holds: true,
    });
    expect(withUsed(230 * mib)).toMatchObject({ holds: false });
    expect(withUsed(226 * mib)).toMatchObject({ holds: true });
    expect(withUsed(undefined)?.sentence).toContain('not known');
  });

  it('counts in the unit of the release’s own boxes', () => {
    const release = { ...releaseOf('corvel-10-business'), sizeBoxUnit: 'GB' as const };
    const hand = byHand('clean-system-partition', 'corvel-10-business', {}, { release });
    // 277 MiB are 0.2905 GB: typed up. From there to the end, 129.139 GB, are 128.839: typed down.
    expect(hand.made[0]).toMatchObject({ start: '0.3', size: '128.83' });
    expect(hand.unit).toBe('GB');
  });

  it('is not there where the installer lays the disk out by itself, and where it upgrades', () => {
    const guided = inputFor('clean-whole-disk', 'corvel-10-business', {
      houseRules: { ...defaultHouseRules, partitioning: 'guided' },
    });
    expect(sheetOf(guided)?.hand).toBeNull();
    const upgrade = inputFor('in-place-upgrade', 'corvel-10-business', {
      houseRules: { ...defaultHouseRules, partitioning: 'by-hand' },
    });
    expect(sheetOf(upgrade)?.hand).toBeNull();
    expect(sheetOf(inputFor('replace', null))).toBeUndefined();
  });
});

const bytesOf = (disk: Disk, { startLba, sectorCount }: Disk['partitions'][number]) =>
  [startLba * disk.sectorBytes, sectorCount * disk.sectorBytes] as const;

describe('over any plan', () => {
  it('nothing that is kept is touched, nothing overlaps, and what is typed never asks for more than there is', () => {
    let sheets = 0;
    let kept = 0;
    let made = 0;
    let between = 0;
    fc.assert(
      fc.property(anyPlanInput, fc.constantFrom(...boxUnits), (drawn, sizeBoxUnit) => {
        const input =
          drawn?.release && asRunbookInput({ ...drawn, release: { ...drawn.release, sizeBoxUnit } });
        const hand = input && sheetOf(input)?.hand;
        if (!hand) return;
        sheets += 1;
        const disk = valueOf(input.facts, 'disks')?.find(({ name }) => name === hand.disk.name);
        if (!disk) throw new Error('a table of a disk that nobody surveyed');
        const all = [...hand.made, ...hand.kept].toSorted((a, b) => a.startBytes - b.startBytes);
        for (const [index, one] of all.entries()) {
          const end = one.startBytes + one.sizeBytes;
          expect(end).toBeLessThanOrEqual(all[index + 1]?.startBytes ?? hand.disk.sizeBytes);
        }
        // A shrink of the plan changes the end of what is kept, never its start.
        const surveyed = new Map(disk.partitions.map((one) => bytesOf(disk, one)));
        // The installer's own partition was made by an earlier step of the plan.
        for (const one of hand.kept.filter(({ label }) => label !== 'installer')) {
          kept += 1;
          expect(one.sizeBytes).toBeLessThanOrEqual(surveyed.get(one.startBytes) ?? -1);
        }
        const unit = { MiB: 1024 ** 2, MB: 1e6, GiB: 1024 ** 3 / 100, GB: 1e7 }[hand.unit];
        const places = { MiB: 1, MB: 1, GiB: 100, GB: 100 }[hand.unit];
        const bytes = (text: string) => Math.round(Number(text) * places) * unit;
        for (const { start, size, startBytes, sizeBytes } of hand.made) {
          made += 1;
          if (startBytes % unit > 1) between += 1;
          // What is typed begins and ends inside its place, and leaves less than two units of it.
          expect(bytes(start)).toBeGreaterThanOrEqual(startBytes - 1);
          const end = startBytes + sizeBytes;
          if (Number(size) > 0) expect(bytes(start) + bytes(size)).toBeLessThanOrEqual(end + 1);
          expect(bytes(size)).toBeGreaterThan(sizeBytes - 2 * unit - 1);
        }
        expect(new Set(all.map(({ number }) => number)).size).toBe(all.length);
        expect(hand.checks.filter(({ id }) => id === 'end')).toMatchObject([{ holds: true }]);
      }),
      { numRuns: 500 },
    );
    console.log(`${sheets} partition pages, ${kept} kept and ${made} made partitions`);
    expect(sheets).toBeGreaterThan(100);
    expect(kept).toBeGreaterThan(100);
    expect(made).toBeGreaterThan(100);
    // Starts that are no whole number of the box's unit.
    expect(between).toBeGreaterThan(20);
  });
});
