import { firmwareSwitches } from '../../src/firmware';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  copiesOf,
  copyTime,
  fitOf,
  forgottenThings,
  proposeDataSets,
  riskOf,
  slugOf,
  sourceMedium,
  usedPartitions,
} from '../../src/backup';
import { explainSizeBox, routeLayout, segmentsOf, sizeBox } from '../../src/disk';
import { startingMode, stickPlan, type StartOn } from '../../src/media';
import { defaultHouseRules } from '../../src/rules';
import type { Disk, Facts } from '../../src/survey';
import {
  catalogue,
  documents,
  driveB7,
  laptop,
  laptopSurvey,
  laptopWith,
  pictures,
  releaseOf,
  share,
  splitDisk,
} from '../fixtures/shop';

const mebibyte = 1024 ** 2;

describe('does it fit', () => {
  it('says by how much, in both units', () => {
    // 31 + 42 = 73 GB on 70 GB free: 3 GB too much; 3·10⁹ ÷ 1024³ = 2.79 GiB.
    const fit = fitOf({ ...driveB7, freeBytes: 70_000_000_000 }, [documents, pictures]);
    expect(fit).toMatchObject({ fileBytes: 73_000_000_000, fits: false });
    // Without a list every file may waste a cluster of 128 KiB but a byte, as a large drive is formatted at most:
    // 36,408 files × 131,071 bytes are 4.8 GB; a folder for each five of them and their names come to it.
    const waste = 2 * 18_204 * 131_071;
    const folders = 2 * (Math.ceil(18_204 / 5) + 1);
    const names = (2 * 18_204 + folders) * 5 * 32;
    expect(fit.neededBytes).toBe(73_000_000_000 + waste + folders * 131_072 + names);
    expect(fit.sentence).toMatch(/^Does not fit: 73.0 GB .* in files, probably no more than 78.7 GB/);
  });

  it('counts only what the destination takes', () => {
    expect(fitOf({ ...driveB7, takes: ['documents'] }, [documents, pictures]).fileBytes).toBe(31_000_000_000);
  });

  it('refuses a file over 4 GiB − 1 on FAT32, and not on exFAT', () => {
    const film = { ...documents, largestFileBytes: 4 * 1024 ** 3 };
    const refused = fitOf({ ...driveB7, fileSystem: 'fat32' }, [film]);
    expect(refused.refused).toHaveLength(1);
    // There is room, and it is no fit all the same: that is not the first word.
    expect(refused.spareBytes).toBeGreaterThan(0);
    expect(refused.sentence).toMatch(/^Not taken as it is/);
    expect(
      fitOf({ ...driveB7, fileSystem: 'fat32' }, [{ ...film, largestFileBytes: 4 * 1024 ** 3 - 1 }]).refused,
    ).toEqual([]);
    expect(fitOf(driveB7, [film]).refused).toEqual([]);
  });
});

describe('how long it takes', () => {
  it('is bytes by the slowest link, worked by hand', () => {
    // 54 000 MB ÷ 30 MB/s = 1800 s = 30 min over USB 2.
    const time = copyTime({ sizeBytes: 54_000_000_000, fileCount: 0 }, 'solid-state', {
      link: 'usb2',
      medium: 'solid-state',
    });
    expect(time.minutes.likely).toBeCloseTo(30, 6);
    expect(time.slowest).toBe('link');
  });

  it('adds a cost for each file', () => {
    // 60 000 files × 9 ms = 540 s = 9 min on a spinning disk.
    const many = copyTime({ sizeBytes: 0, fileCount: 60_000 }, 'solid-state', {
      link: 'usb3',
      medium: 'spinning',
    });
    expect(many.minutes.likely).toBeCloseTo(9, 6);
  });

  it('takes a disk of unknown kind for the slower one', () => {
    expect(sourceMedium({})).toBe('spinning');
    expect(sourceMedium(undefined)).toBe('spinning');
    expect(sourceMedium(splitDisk)).toBe('solid-state');
  });

  it('never has low above likely above high, and never shrinks with more data', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e12 }),
        fc.integer({ min: 0, max: 1e6 }),
        fc.integer({ min: 0, max: 1e12 }),
        (sizeBytes, fileCount, more) => {
          const { minutes } = copyTime({ sizeBytes, fileCount }, 'spinning', driveB7);
          expect(minutes.low).toBeLessThanOrEqual(minutes.likely);
          expect(minutes.likely).toBeLessThanOrEqual(minutes.high);
          expect(
            copyTime({ sizeBytes: sizeBytes + more, fileCount }, 'spinning', driveB7).minutes.likely,
          ).toBeGreaterThanOrEqual(minutes.likely);
        },
      ),
    );
  });
});

describe('what is at risk', () => {
  it('depends on the route and on where the data lies', () => {
    expect(riskOf(documents, 'whole-disk')).toBe('at-risk');
    expect(riskOf(pictures, 'whole-disk')).toBe('at-risk');
    expect(riskOf(documents, 'system-partition')).toBe('at-risk');
    expect(riskOf(pictures, 'system-partition')).toBe('insured');
    expect(riskOf(documents, 'nothing')).toBe('insured');
    expect(riskOf({ place: 'other-disk' }, 'whole-disk')).toBe('insured');
  });

  it('asks for two verified copies of what is erased, and one of what is not', () => {
    const verified = [
      {
        dataSetId: 'documents',
        destinationId: 'b-07',
        verifiedAt: '2026-03-02T10:00:00.000Z',
        verifiedBy: 'Ines',
        check: { method: 'full' as const, files: documents.fileCount },
      },
    ];
    const [first, second] = copiesOf(
      [documents, pictures],
      [driveB7, share],
      verified,
      'system-partition',
      defaultHouseRules,
    );
    expect(first).toMatchObject({ risk: 'at-risk', verified: 1, planned: 2, needed: 2 });
    expect(second).toMatchObject({ risk: 'insured', verified: 0, needed: 1 });
  });

  it('counts a cloud copy only where the house does', () => {
    const cloud = { ...driveB7, id: 'cloud', kind: 'cloud' as const };
    const copy = [
      {
        dataSetId: 'documents',
        destinationId: 'cloud',
        verifiedAt: '2026-03-02T10:00:00.000Z',
        verifiedBy: 'Ines',
        check: { method: 'full' as const, files: documents.fileCount },
      },
    ];
    const counted = (cloudCopyCounts: boolean) =>
      copiesOf([documents], [cloud], copy, 'whole-disk', { ...defaultHouseRules, cloudCopyCounts })[0]
        ?.verified;
    expect([counted(false), counted(true)]).toEqual([0, 1]);
  });
});

describe('data sets from the survey', () => {
  it('lie where their path is mounted, the longest mount winning', () => {
    const folders = [
      ...(laptopSurvey.folders ?? []),
      { name: 'Desktop', path: '/home/owner/Desktop', sizeBytes: 5, fileCount: 1 },
    ];
    expect(proposeDataSets(folders, laptop, []).map(({ id, place }) => [id, place])).toEqual([
      ['documents', 'data-partition'],
      ['desktop', 'system-partition'],
    ]);
  });

  it('are not proposed twice, and get names of their own', () => {
    expect(
      proposeDataSets(laptopSurvey.folders ?? [], laptop, [{ ...documents, path: '/media/data/Documents' }]),
    ).toEqual([]);
    expect(slugOf('Mail store, 2019', new Set(['mail-store-2019']))).toBe('mail-store-2019-2');
    expect(slugOf('資料', new Set())).toBe('data');
  });

  it('are held against what the partitions use', () => {
    expect(usedPartitions(laptop).map(({ usedBytes }) => usedBytes)).toEqual([
      40_000_000_000, 60_000_000_000,
    ]);
  });

  it('are joined by what is often forgotten, each with a way to get it out', () => {
    expect(new Set(forgottenThings.map(({ id }) => id)).size).toBe(forgottenThings.length);
    for (const { howToGetItOut } of forgottenThings) expect(howToGetItOut).toMatch(/\.$/);
  });
});

describe('the size box', () => {
  it('is the wanted size and the installer’s own partitions, in MiB', () => {
    // 90 GiB = 92 160 MiB; own partitions 100 + 16 + 620 = 736 MiB; together 92 896.
    const own = releaseOf('corvel-9-business').installerPartitions.map(({ sizeBytes }) => sizeBytes);
    const box = sizeBox(90 * 1024 ** 3, own);
    expect(box.ok && box.value).toMatchObject({
      typeMebibytes: 92_896,
      systemBytes: 90 * 1024 ** 3,
      ownPartitionBytes: 736 * mebibyte,
    });
    expect(box.ok && explainSizeBox(box.value)).toContain('92896');
  });

  it('shows what typing GB × 1000 loses', () => {
    // 90 GB typed as 90 000 MiB = 94.37 GB; wanted 90·10⁹ bytes = 85 831 MiB rounded up: 4 169 MiB too large.
    const box = sizeBox(90_000_000_000, []);
    expect(box.ok && box.value.missingBytes).toBe((85_831 - 90_000) * mebibyte);
  });

  it('refuses what is no size', () => {
    expect(sizeBox(0, []).ok).toBe(false);
    expect(sizeBox(Number.NaN, []).ok).toBe(false);
  });

  it('always gives the system at least what was wanted, and less than 1 MiB more', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: mebibyte, max: 2 ** 45 }),
        fc.array(fc.integer({ min: 1, max: 2 ** 31 }), { maxLength: 4 }),
        (wanted, own) => {
          const box = sizeBox(wanted, own);
          if (!box.ok) throw new Error('refused');
          expect(box.value.systemBytes).toBeGreaterThanOrEqual(wanted);
          expect(box.value.systemBytes - wanted).toBeLessThan(mebibyte);
        },
      ),
    );
  });
});

describe('the disk before and after', () => {
  const sum = (segments: readonly { readonly sectorCount: number }[] | undefined) =>
    (segments ?? []).reduce((total, { sectorCount }) => total + sectorCount, 0);
  const contiguous = (segments: readonly { readonly startLba: number; readonly sectorCount: number }[]) =>
    segments.every(
      (segment, index) =>
        index === 0 ||
        segment.startLba === (segments[index - 1]?.startLba ?? 0) + (segments[index - 1]?.sectorCount ?? 0),
    );

  it('conserves sectors, whatever the route and the release', () => {
    expect(sum(segmentsOf(splitDisk, () => 'kept'))).toBe(splitDisk.sectorCount);
    for (const release of catalogue.releases)
      for (const goal of ['whole-disk', 'system-partition'] as const) {
        const after = routeLayout(splitDisk, goal, release)?.after ?? [];
        expect(sum(after)).toBe(splitDisk.sectorCount);
        expect(contiguous(after)).toBe(true);
      }
  });

  it('keeps every partition but the system’s, to the sector', () => {
    const after = routeLayout(splitDisk, 'system-partition', releaseOf('corvel-10-business'))?.after ?? [];
    for (const partition of splitDisk.partitions.filter(({ role }) => role !== 'system'))
      expect(after).toContainEqual(
        expect.objectContaining({
          startLba: partition.startLba,
          sectorCount: partition.sectorCount,
          fate: 'kept',
        }),
      );
    // EFI, reserved and recovery are there already: the whole 120 GiB go to the new system.
    expect(after.filter(({ fate }) => fate === 'new')).toEqual([
      expect.objectContaining({ label: 'system partition', sectorCount: 122_880 * 2048 }),
    ]);
  });

  it('starts new partitions on whole MiB', () => {
    for (const { kind, startLba } of routeLayout(splitDisk, 'whole-disk', releaseOf('corvel-10-business'))
      ?.after ?? [])
      if (kind === 'partition') expect(startLba % 2048).toBe(0);
  });

  it('says nothing where the system partition is not known', () => {
    expect(
      routeLayout({ ...splitDisk, partitions: [] }, 'system-partition', releaseOf('corvel-10-business')),
    ).toBeUndefined();
  });

  it('shows a disk without a table as free from end to end', () => {
    const bare: Disk = { ...splitDisk, partitions: [] };
    expect(segmentsOf(bare, () => 'kept')).toEqual([
      { kind: 'free', startLba: 0, sectorCount: splitDisk.sectorCount, label: 'free', fate: 'kept' },
    ]);
  });
});

describe('stick and firmware', () => {
  const on = (releaseId: string, facts: Facts, change: Partial<Omit<StartOn, 'release'>> = {}) => ({
    release: releaseOf(releaseId),
    facts,
    model: undefined,
    waivers: [],
    stays: undefined,
    fromStick: true,
    ...change,
  });

  it('needs the image, its tables and the house’s margin', () => {
    // 6 240 000 000 × 1.06 × 1.25 = 8 268 000 000 bytes: more than an 8 GB stick, formatted, has.
    expect(stickPlan(on('corvel-10-business', laptop), defaultHouseRules)).toMatchObject({
      bytesNeeded: 8_268_000_000,
      soldGigabytes: 16,
      mode: 'uefi',
      scheme: 'gpt',
      hasLargeFile: true,
    });
    // Without margin 6 614 400 000 fit on 8 GB × 0.95 = 7.6 GB.
    expect(
      stickPlan(on('corvel-10-business', laptop), { ...defaultHouseRules, stick: 'minimum' }).soldGigabytes,
    ).toBe(8);
  });

  it('goes by the firmware that is to start it, and says when that is unknown', () => {
    const legacy = laptopWith({ firmware: { mode: 'legacy' } });
    expect(stickPlan(on('saltbush-light', legacy), defaultHouseRules)).toMatchObject({
      mode: 'legacy',
      scheme: 'mbr',
    });
    expect(stickPlan(on('saltbush-light', {}), defaultHouseRules)).toMatchObject({
      mode: 'unknown',
      scheme: 'unknown',
    });
  });

  it('turns switches in order, and asks to look where a position is unknown', () => {
    const mixed = laptopWith({
      firmware: { mode: 'uefi-with-legacy', secureBoot: 'off', tpm: 'present-off' },
    });
    expect(
      firmwareSwitches(on('corvel-10-business', mixed)).map(({ id, certainty }) => `${id} ${certainty}`),
    ).toEqual(['secure-boot-on needed', 'tpm-on needed', 'legacy-off needed', 'usb-start ask']);
    expect(
      firmwareSwitches(on('corvel-10-business', {}, { fromStick: false })).every(
        ({ certainty }) => certainty === 'ask',
      ),
    ).toBe(true);
    expect(firmwareSwitches(on('saltbush-light', laptop, { fromStick: false }))).toEqual([]);
  });

  it('turns none for a check that is waived, none that the device lacks, and none that nothing asks for', () => {
    const ids = (
      facts: Facts,
      change: Partial<Omit<StartOn, 'release'>> = {},
      releaseId = 'corvel-10-business',
    ) => firmwareSwitches(on(releaseId, facts, { fromStick: false, ...change })).map(({ id }) => id);
    const off = laptopWith({ firmware: { mode: 'uefi', secureBoot: 'off', tpm: 'present-off' } });
    expect(ids(off)).toEqual(['secure-boot-on', 'tpm-on']);
    expect(ids(off, { waivers: ['secure-boot'] })).toEqual(['tpm-on']);
    expect(ids(off, { waivers: ['tpm', 'secure-boot'] })).toEqual([]);
    const without = laptopWith({ firmware: { mode: 'uefi', secureBoot: 'not-supported', tpm: 'none' } });
    expect(ids(without)).toEqual([]);
    const quern = catalogue.models.find(({ id }) => id === 'kestle-fenwright-14');
    // In legacy mode it is not offered, and the model has it: once UEFI mode is on.
    expect(
      ids(laptopWith({ firmware: { mode: 'legacy', secureBoot: 'not-supported', tpm: '2.0' } }), {
        model: quern,
      }),
    ).toEqual(['secure-boot-on', 'legacy-off']);
    // Firmware with both modes starts a release that does not insist as it is.
    const both = laptopWith({ firmware: { mode: 'uefi-with-legacy', secureBoot: 'off', tpm: 'none' } });
    expect(ids(both, {}, 'saltbush-light')).toEqual([]);
  });

  it('starts in the mode that suits a table that stays', () => {
    const modes = (releaseId: string, facts: Facts, stays: StartOn['stays']) =>
      startingMode(on(releaseId, facts, { stays }));
    const both = laptopWith({ firmware: { mode: 'uefi-with-legacy' } });
    expect(modes('saltbush-light', both, 'mbr')).toBe('legacy');
    expect(modes('saltbush-light', both, 'gpt')).toBe('uefi');
    expect(modes('saltbush-light', both, undefined)).toBe('uefi');
    // One that starts in one mode only has no choice.
    expect(modes('corvel-10-business', both, 'mbr')).toBe('uefi');
    expect(modes('corvel-7-business', both, 'gpt')).toBe('legacy');
    expect(stickPlan(on('saltbush-light', both, { stays: 'mbr' }), defaultHouseRules).scheme).toBe('mbr');
  });
});
