import { describe, expect, it } from 'vitest';
import { bufferSource, planConversion, type PartitionTable, type TablePartition } from '../../src/disk';
import { mbrTable, partition, takeRemedies } from '../fixtures/conversions';
import { seeded } from '../fixtures/disks';

const random = seeded(11);
const codesOf = (outcome: ReturnType<typeof planConversion>) =>
  outcome.ok ? [] : outcome.problems.map(({ code }) => code);

describe('obstacles on the way to GPT, all at once', () => {
  it('names room at the end, logical partitions, unknown types and the missing EFI system partition', () => {
    const table = mbrTable(
      [
        partition(1, 2048, 400_000, { content: { kind: 'ntfs', spansBytes: 400_000 * 512 } }),
        partition(2, 402_048, 100_000, { typeCode: '0x99' }),
        partition(5, 504_096, 1_495_904, {
          kind: 'logical',
          ebrLba: 502_048,
          typeCode: '0x83',
          content: { kind: 'ext4', spansBytes: 1_495_904 * 512 - 1_048_576 },
        }),
      ],
      { extended: { startLba: 502_048, sectorCount: 1_497_952, entry: 3 } },
    );
    const outcome = planConversion(table, 'gpt', { random });
    expect(codesOf(outcome)).toEqual([
      'logical-partitions',
      'unknown-type',
      'no-room-end',
      'no-efi-partition',
    ]);
    if (outcome.ok) throw new Error();
    // GPT keeps 33 sectors at the end: 32 of entries and its header. The partition runs to the last one.
    expect(outcome.problems[2]?.remedies[0]?.resolution).toEqual({
      kind: 'shrink',
      partition: 5,
      bySectors: 33,
    });
    expect(outcome.problems[2]?.sentence).toContain('33 sectors');
    // No run of 100 MiB is free: 2,048 sectors before the logical one are the longest.
    // A loader that starts the disk in legacy mode needs less: 1,004 KiB from sector 40 on.
    expect(outcome.problems[3]?.remedies.map(({ resolution }) => resolution)).toEqual([
      { kind: 'make-boot', startLba: 40, sectorCount: 2008 },
      { kind: 'no-efi' },
    ]);
  });

  it('offers an EFI system partition in the first free run of 100 MiB, on a whole MiB', () => {
    const table = mbrTable([partition(1, 2048, 500_001)]);
    const outcome = planConversion(table, 'gpt', { random });
    if (outcome.ok) throw new Error();
    // The partition ends at 502,049; the next whole MiB is 246 × 2,048 = 503,808. 100 MiB are 204,800 sectors.
    expect(outcome.problems[0]?.remedies[0]?.resolution).toEqual({
      kind: 'make-efi',
      startLba: 503_808,
      sectorCount: 204_800,
    });
    const { plan } = takeRemedies(table, 'gpt', { random });
    expect(
      plan?.after.partitions.map(({ number, startLba, sectorCount }) => [number, startLba, sectorCount]),
    ).toEqual([
      [1, 2048, 500_001],
      [2, 503_808, 204_800],
    ]);
  });

  it('does not shrink what still reaches to the end, nor what is not recognised', () => {
    const full = mbrTable([
      partition(1, 2048, 1_997_952, { content: { kind: 'ntfs', spansBytes: 1_997_952 * 512 } }),
    ]);
    const outcome = planConversion(full, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] });
    expect(outcome).toMatchObject({ ok: false, problems: [{ code: 'no-room-end', remedies: [] }] });
    if (outcome.ok) throw new Error();
    expect(outcome.problems[0]?.otherwise).toContain('shrink it there by 33 sectors');
    const forced = planConversion(full, 'gpt', {
      random,
      resolutions: [{ kind: 'no-efi' }, { kind: 'shrink', partition: 1, bySectors: 33 }],
    });
    expect(codesOf(forced)).toContain('cannot-shrink');
    const unknown = mbrTable([partition(1, 2048, 1_997_952)]);
    const refused = planConversion(unknown, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] });
    if (refused.ok) throw new Error();
    expect(refused.problems[0]?.otherwise).toContain('not recognised');
  });

  it('needs the front: 34 sectors of 512 bytes, 6 of 4,096', () => {
    const front = (sectorSizeBytes: number, startLba: number) =>
      codesOf(
        planConversion(mbrTable([partition(1, startLba, 100)], { sectorSizeBytes }), 'gpt', {
          random,
          resolutions: [{ kind: 'no-efi' }],
        }),
      );
    expect(front(512, 33)).toEqual(['no-room-front']);
    expect(front(512, 34)).toEqual([]);
    expect(front(4096, 5)).toEqual(['no-room-front']);
    expect(front(4096, 6)).toEqual([]);
  });

  it('refuses dynamic volumes, damage, and a disk that has the scheme already', () => {
    expect(
      codesOf(
        planConversion(mbrTable([partition(1, 2048, 100, { typeCode: '0x42' })]), 'gpt', {
          random,
          resolutions: [{ kind: 'no-efi' }],
        }),
      ),
    ).toEqual(['dynamic-volumes']);
    const finding = {
      code: 'entries-overlap' as const,
      path: '/partitions/2',
      sentence: 'They overlap.',
      weight: 'damage' as const,
    };
    const damaged = planConversion(mbrTable([partition(1, 2048, 100)], { findings: [finding] }), 'gpt', {
      random,
      resolutions: [{ kind: 'no-efi' }],
    });
    expect(damaged).toMatchObject({ ok: false, problems: [{ code: 'entries-overlap', remedies: [] }] });
    expect(codesOf(planConversion(mbrTable([]), 'mbr', { random }))).toEqual(['already-mbr']);
    expect(codesOf(planConversion(bufferSource(new Uint8Array(51200), 512), 'gpt', { random }))).toEqual([
      'no-table',
    ]);
  });
});

describe('obstacles on the way to MBR', () => {
  const gptTable = (
    partitions: readonly TablePartition[],
    more: Partial<PartitionTable> = {},
  ): PartitionTable => ({
    ...mbrTable(
      partitions.map((one) => ({
        ...one,
        kind: 'entry',
        typeCode: one.typeCode === '0x07' ? 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7' : one.typeCode,
      })),
    ),
    scheme: 'gpt',
    firstUsableLba: 34,
    lastUsableLba: 1_999_966,
    gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: 1_999_999, hybrid: false },
    ...more,
  });
  const five = [0, 1, 2, 3, 4].map((index) => partition(index + 1, 2048 + index * 4096, 2048));

  it('lets the EFI system partition go, and makes the last ones logical', () => {
    const table = gptTable([
      partition(1, 2048, 204_800, { typeCode: 'C12A7328-F81F-11D2-BA4B-00A0C93EC93B' }),
      ...five.map((one) => ({ ...one, number: one.number + 1, startLba: one.startLba + 300_000 })),
    ]);
    const outcome = planConversion(table, 'mbr', { random });
    expect(codesOf(outcome)).toEqual(['efi-goes', 'too-many']);
    const { plan } = takeRemedies(table, 'mbr', { random });
    // Five stay: three primaries, and the last two in an extended partition that begins at their first EBR.
    expect(plan?.after.partitions.map(({ number, kind }) => [number, kind])).toEqual([
      [1, 'primary'],
      [2, 'primary'],
      [3, 'primary'],
      [5, 'logical'],
      [6, 'logical'],
    ]);
    // Between them lie 2,048 free sectors: the EBR takes the first of them, as installers place it.
    expect(plan?.after.extended).toEqual({
      startLba: 2048 + 3 * 4096 + 300_000 - 2048,
      sectorCount: 2048 + 4096 + 2048,
      entry: 4,
    });
  });

  it('needs a sector before each logical partition', () => {
    const tight = [0, 1, 2, 3, 4].map((index) => partition(index + 1, 2048 + index * 4096, 4096));
    const outcome = planConversion(gptTable(tight), 'mbr', { random });
    expect(outcome).toMatchObject({ ok: false, problems: [{ code: 'too-many', remedies: [] }] });
    const loose = tight.map((one) => ({ ...one, content: { kind: 'ntfs' as const, spansBytes: 512 * 500 } }));
    const byHand = planConversion(gptTable(loose), 'mbr', {
      random,
      resolutions: [{ kind: 'entry-to-logical', partitions: [4, 5] }],
    });
    if (byHand.ok) throw new Error();
    expect(byHand.problems.map(({ code, remedies }) => [code, remedies[0]?.resolution])).toEqual([
      ['no-sector-before', { kind: 'shrink', partition: 3, bySectors: 2048 }],
      ['no-sector-before', { kind: 'shrink', partition: 4, bySectors: 2048 }],
    ]);
    expect(
      takeRemedies(gptTable(loose), 'mbr', { random }, [{ kind: 'entry-to-logical', partitions: [4, 5] }])
        .plan,
    ).toBeDefined();
  });

  it('ends below 2 TiB', () => {
    const at = (end: number) =>
      codesOf(
        planConversion(
          gptTable([partition(1, 2048, end - 2048)], { sectorCount: 2 ** 33, lastUsableLba: 2 ** 33 - 34 }),
          'mbr',
          { random },
        ),
      );
    expect(at(2 ** 32)).toEqual([]);
    expect(at(2 ** 32 + 1)).toEqual(['beyond-2-tib']);
  });

  it('is not made of a hybrid', () => {
    expect(
      codesOf(
        planConversion(
          gptTable([partition(1, 2048, 100)], {
            gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: 1_999_999, hybrid: true },
          }),
          'mbr',
          { random },
        ),
      ),
    ).toEqual(['hybrid']);
  });
});
