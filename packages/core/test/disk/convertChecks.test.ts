import { describe, expect, it } from 'vitest';
import { bufferSource, planConversion, readPartitionTable, type Resolution } from '../../src/disk';
import { mbrTable, partition } from '../fixtures/conversions';
import { seeded, written } from '../fixtures/disks';

const random = seeded(21);
const toGpt = (table: ReturnType<typeof mbrTable>, ...resolutions: readonly Resolution[]) =>
  planConversion(table, 'gpt', { random, resolutions });
const codesOf = (outcome: ReturnType<typeof toGpt>) =>
  outcome.ok ? [] : outcome.problems.map(({ code }) => code);

/** Free: sectors 34 to 2,047, and everything from 102,048 on. */
const roomy = mbrTable([partition(1, 2048, 100_000)]);

describe('a boot-loader partition that is asked for', () => {
  const boot = (startLba: number, sectorCount: number) =>
    codesOf(toGpt(roomy, { kind: 'make-boot', startLba, sectorCount }));

  it('has 256 KiB at least, on whole 4 KiB, within what is free', () => {
    // 256 KiB are 512 sectors; 4 KiB are 8.
    expect(boot(40, 512)).toEqual([]);
    expect(boot(40, 511)).toEqual(['boot-misplaced']);
    expect(boot(41, 512)).toEqual(['boot-misplaced']);
    expect(boot(44, 512)).toEqual(['boot-misplaced']);
    // Up to the partition, and not into it.
    expect(boot(1536, 512)).toEqual([]);
    expect(boot(1544, 512)).toEqual(['boot-misplaced']);
    // Not where the table itself is.
    expect(boot(32, 512)).toEqual(['boot-misplaced']);
  });

  it('says which of the two is wrong', () => {
    const said = (startLba: number, sectorCount: number) => {
      const outcome = toGpt(roomy, { kind: 'make-boot', startLba, sectorCount });
      return outcome.ok ? '' : (outcome.problems[0]?.sentence ?? '');
    };
    expect(said(40, 100)).toContain('too small or off whole 4 KiB: 256 KiB are needed');
    expect(said(1544, 512)).toContain('in the place of something else');
  });
});

describe('an EFI system partition that is asked for', () => {
  const efi = (startLba: number, sectorCount: number) =>
    codesOf(toGpt(roomy, { kind: 'make-efi', startLba, sectorCount }));

  it('has 100 MiB at least, on a whole MiB, within what is free', () => {
    // 100 MiB are 204,800 sectors; the first whole MiB behind the partition is 50 × 2,048 = 102,400.
    expect(efi(102_400, 204_800)).toEqual([]);
    expect(efi(102_400, 204_799)).toEqual(['efi-misplaced']);
    expect(efi(102_401, 204_800)).toEqual(['efi-misplaced']);
    expect(efi(100_352, 204_800)).toEqual(['efi-misplaced']);
    // GPT keeps the last 33 sectors: 1,999,967 is the first of them. 877 × 2,048 + 204,800 ends before it.
    expect(efi(876 * 2048, 204_800)).toEqual([]);
    expect(efi(877 * 2048, 204_800)).toEqual(['efi-misplaced']);
  });

  it('that is there and too small is named with its size', () => {
    const table = mbrTable([
      partition(1, 2048, 100_000, { typeCode: '0xEF', content: { kind: 'fat32', spansBytes: 51_200_000 } }),
      partition(2, 104_448, 500_000),
    ]);
    const outcome = toGpt(table);
    if (outcome.ok) throw new Error('it is too small');
    const [problem] = outcome.problems;
    expect(problem?.code).toBe('efi-too-small');
    // 100,000 × 512 bytes are 48.8 MiB.
    expect(problem?.sentence).toContain('48.8 MiB; at least 100 MiB are needed');
    expect(problem?.path).toBe('/partitions/1');
  });

  it('gets its room from the end of a partition that can be shrunk, and starts on a whole MiB', () => {
    // No run of 100 MiB is left: 1,000 sectors behind the partition, which holds 400 MiB in 900.
    const table = mbrTable([
      partition(1, 2048, 1_996_919, {
        content: { kind: 'ntfs', spansBytes: 400 * 1024 ** 2, usedBytes: 300 * 1024 ** 2 },
        usedBytes: 300 * 1024 ** 2,
      }),
    ]);
    const outcome = toGpt(table);
    if (outcome.ok) throw new Error('there is no room');
    const shrink = outcome.problems
      .flatMap(({ remedies }) => remedies)
      .find(({ resolution }) => resolution.kind === 'shrink')?.resolution;
    if (shrink?.kind !== 'shrink') throw new Error('nothing to shrink is offered');
    // What is then free from a whole MiB on is 100 MiB and less than 2 MiB more.
    const end = 2048 + 1_996_919 - shrink.bySectors;
    const start = Math.ceil(end / 2048) * 2048;
    const last = Math.min(1_999_966, 1_999_967);
    expect(start).toBe(end);
    expect(last - start).toBeGreaterThanOrEqual(204_800);
    expect(last - start).toBeLessThan(204_800 + 2 * 2048);
    expect(
      codesOf(toGpt(table, shrink, { kind: 'make-efi', startLba: start, sectorCount: 204_800 })),
    ).toEqual([]);
  });
});

describe('what changes its name on the way to GPT', () => {
  const identifiers = (active: boolean | undefined) => {
    const outcome = toGpt(
      mbrTable([
        partition(1, 2048, 100_000, active === undefined ? {} : { active }),
        partition(2, 104_448, 100_000, { typeCode: '0x83' }),
      ]),
      { kind: 'no-efi' },
    );
    if (!outcome.ok) throw new Error(outcome.problems[0]?.sentence);
    return outcome.value.notes.join('\n');
  };

  it('is the mark for the one to start from, where there is one', () => {
    expect(identifiers(true)).toContain('GPT has no mark for the one to start from: that of partition 1');
    expect(identifiers(false)).not.toContain('GPT has no mark');
    expect(identifiers(undefined)).not.toContain('GPT has no mark');
  });

  it('is no number where the numbers stay', () => {
    expect(identifiers(true)).not.toContain('Numbers change');
  });
});

describe('sectors in use outside of every partition', () => {
  const sectorCount = 200_000;
  const table = mbrTable([partition(1, 2048, 100_000)], { sectorCount, lastUsableLba: sectorCount - 1 });
  const usedAt = (...places: readonly number[]) => {
    const bytes = new Uint8Array(sectorCount * 512);
    for (const place of places) bytes[place] = 1;
    const read = readPartitionTable(written(table, bufferSource(bytes, 512)));
    if (!read.ok) throw new Error(read.problems[0]?.sentence);
    return read.value.outsideUse ?? [];
  };

  it('are told from the first byte that is not zero to the last, and none where all are', () => {
    expect(usedAt()).toEqual([]);
    // Sector 10, its first and its last byte.
    expect(usedAt(10 * 512)).toEqual([{ what: 'gap', startLba: 10, sectorCount: 1 }]);
    expect(usedAt(11 * 512 - 1)).toEqual([{ what: 'gap', startLba: 10, sectorCount: 1 }]);
    expect(usedAt(10 * 512, 12 * 512)).toEqual([{ what: 'gap', startLba: 10, sectorCount: 3 }]);
    // Between the table and the first partition: 1 to 2,047.
    expect(usedAt(512)).toEqual([{ what: 'gap', startLba: 1, sectorCount: 1 }]);
    expect(usedAt(2047 * 512)).toEqual([{ what: 'gap', startLba: 2047, sectorCount: 1 }]);
    expect(usedAt(2048 * 512)).toEqual([]);
  });

  it('at the end are those of the second copy of a GPT: 33 sectors of 512 bytes', () => {
    const at = (fromEnd: number) => usedAt((sectorCount - fromEnd) * 512);
    expect(at(1)).toEqual([{ what: 'end', startLba: sectorCount - 1, sectorCount: 1 }]);
    expect(at(33)).toEqual([{ what: 'end', startLba: sectorCount - 33, sectorCount: 1 }]);
    expect(at(34)).toEqual([]);
  });
});
