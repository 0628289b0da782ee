import { describe, expect, it } from 'vitest';
import { planConversion, type PartitionTable, type Resolution, type TablePartition } from '../../src/disk';
import { mbrTable, partition } from '../fixtures/conversions';
import { seeded } from '../fixtures/disks';

const random = seeded(41);
const basicData = 'EBD0A0A2-B9E5-4433-87C0-68B6B72699C7';

function gptTable(partitions: readonly TablePartition[], more: Partial<PartitionTable> = {}): PartitionTable {
  return {
    ...mbrTable(
      partitions.map((one) => ({
        ...one,
        kind: 'entry',
        typeCode: one.typeCode === '0x07' ? basicData : one.typeCode,
      })),
    ),
    scheme: 'gpt',
    firstUsableLba: 34,
    lastUsableLba: 1_999_966,
    gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba: 2, backupLba: 1_999_999, hybrid: false },
    ...more,
  };
}
const toMbr = (table: PartitionTable, ...resolutions: readonly Resolution[]) =>
  planConversion(table, 'mbr', { random, resolutions });
const done = (table: PartitionTable, ...resolutions: readonly Resolution[]) => {
  const plan = toMbr(table, ...resolutions);
  if (!plan.ok) throw new Error(plan.problems.map(({ sentence }) => sentence).join(' '));
  return plan.value;
};
const problems = (table: PartitionTable, ...resolutions: readonly Resolution[]) => {
  const plan = toMbr(table, ...resolutions);
  return plan.ok ? [] : plan.problems;
};
/** Six in a row, 2,048 sectors each, as many free between them. */
const row = (count: number) =>
  Array.from({ length: count }, (_none, index) => partition(index + 1, 2048 + index * 4096, 2048));

describe('a type in MBR', () => {
  it('is that of what the partition holds, and of data where nobody knows', () => {
    const typeOfContent = (kind: NonNullable<TablePartition['content']>['kind'] | undefined) =>
      done(gptTable([partition(1, 2048, 2048, kind ? { content: { kind } } : {})])).after.partitions[0]
        ?.typeCode;
    expect(typeOfContent('fat12')).toBe('0x01');
    expect(typeOfContent('fat16')).toBe('0x0E');
    expect(typeOfContent('fat32')).toBe('0x0C');
    expect(typeOfContent('ntfs')).toBe('0x07');
    expect(typeOfContent('exfat')).toBe('0x07');
    expect(typeOfContent(undefined)).toBe('0x07');
    const linux = '0FC63DAF-8483-4772-8E79-3D69D8477DE4';
    expect(
      done(gptTable([partition(1, 2048, 2048, { typeCode: linux })])).after.partitions[0]?.typeCode,
    ).toBe('0x83');
  });

  it('that has no counterpart is chosen: data or system files', () => {
    const table = gptTable([
      partition(1, 2048, 2048, {
        typeCode: '11111111-2222-4333-8444-555555555555',
        content: { kind: 'ext4' },
      }),
    ]);
    const [problem] = problems(table);
    expect(problem?.code).toBe('unknown-type');
    expect(problem?.sentence).toContain('; it holds ext4');
    const given = problem?.remedies.map(({ resolution }) =>
      resolution.kind === 'set-type' ? resolution.typeCode : resolution.kind,
    );
    expect(given).toEqual(['0x07', '0x83']);
    for (const { resolution } of problem?.remedies ?? [])
      expect(done(table, resolution).after.partitions[0]?.typeCode).toBe(
        resolution.kind === 'set-type' ? resolution.typeCode : '',
      );
  });
});

describe('the mark for the one to start from', () => {
  it('is the system’s, where it is known and stays primary; else a note asks for it', () => {
    const marked = (more: Partial<TablePartition>) =>
      done(gptTable([partition(1, 2048, 2048, more), partition(2, 8192, 2048)]));
    const system = marked({ role: 'system' });
    expect(system.after.partitions.map(({ active }) => active ?? false)).toEqual([true, false]);
    expect(system.notes.join('\n')).not.toContain('No partition is marked active');
    const nobody = marked({});
    expect(nobody.after.partitions.map(({ active }) => active ?? false)).toEqual([false, false]);
    expect(nobody.notes.join('\n')).toContain('No partition is marked active');
    const logical = done(gptTable([partition(1, 2048, 2048), partition(2, 8192, 2048, { role: 'system' })]), {
      kind: 'entry-to-logical',
      partitions: [2],
    });
    expect(logical.after.partitions.map(({ active }) => active ?? false)).toEqual([false, false]);
  });
});

describe('more partitions than entries', () => {
  it('four are as many as there are', () => {
    expect(problems(gptTable(row(4)))).toEqual([]);
    const [problem] = problems(gptTable(row(5)));
    expect([problem?.code, problem?.sentence]).toEqual([
      'too-many',
      '5 partitions would stay, and MBR has four entries.',
    ]);
  });

  it('three primaries and an extended partition hold any number; what is between has to be logical, too', () => {
    const logical = (...partitions: number[]): Resolution => ({
      kind: 'entry-to-logical',
      partitions,
    });
    expect(problems(gptTable(row(6)), logical(4, 5, 6))).toEqual([]);
    const [left] = problems(gptTable(row(6)), logical(5, 6));
    expect(left?.sentence).toBe(
      '4 entries and the extended partition would stay, and MBR has four: make more of them logical.',
    );
    const [between] = problems(gptTable(row(6)), logical(3, 5, 6));
    expect([between?.code, between?.path, between?.remedies[0]?.resolution]).toEqual([
      'between-logicals',
      '/partitions/4',
      logical(3, 5, 6, 4),
    ]);
    const one = done(gptTable(row(4)), logical(4));
    expect(one.operations).toContain('One partition becomes a logical one in an extended partition.');
    expect(one.after.partitions.map(({ number, kind }) => [number, kind])).toEqual([
      [1, 'primary'],
      [2, 'primary'],
      [3, 'primary'],
      [5, 'logical'],
    ]);
    // Its EBR is a whole MiB before it, as installers place it; the container is from there to its end.
    expect(one.after.partitions[3]?.ebrLba).toBe(2048 + 3 * 4096 - 2048);
    expect(one.after.extended).toEqual({ startLba: 3 * 4096, sectorCount: 4096, entry: 4 });
    expect(done(gptTable(row(6)), logical(4, 5, 6)).operations).toContain(
      '3 partitions become logical ones in an extended partition.',
    );
  });

  it('goes that have no use in MBR are not counted', () => {
    const efi = 'C12A7328-F81F-11D2-BA4B-00A0C93EC93B';
    const table = gptTable([partition(6, 40_000, 2048, { typeCode: efi }), ...row(4)]);
    const found = problems(table);
    expect(found.map(({ code }) => code)).toEqual(['efi-goes']);
    expect(found[0]?.remedies[0]?.action).toBe('Drop its entry; its 1.0 MiB become free.');
    expect(done(table, { kind: 'drop', partition: 6 }).after.partitions).toHaveLength(4);
  });
});

describe('the disk afterwards', () => {
  it('has a signature of eight digits, and ends where MBR can name a sector', () => {
    const plan = done(gptTable(row(2)));
    expect(plan.after.diskId).toMatch(/^[0-9A-F]{8}$/);
    expect([plan.after.firstUsableLba, plan.after.lastUsableLba]).toEqual([1, 1_999_999]);
    const huge = done(gptTable(row(2), { sectorCount: 2 ** 33, lastUsableLba: 2 ** 33 - 34 }));
    expect(huge.after.lastUsableLba).toBe(2 ** 32 - 1);
    expect(plan.after.partitions.every(({ guid, name }) => guid === undefined && name === undefined)).toBe(
      true,
    );
  });

  it('gives up what reaches beyond it by as much as it does', () => {
    const table = gptTable(
      [
        partition(1, 2048, 2 ** 32 - 2048 + 6, {
          content: { kind: 'ntfs', spansBytes: 10 ** 9 },
        }),
      ],
      { sectorCount: 2 ** 33, lastUsableLba: 2 ** 33 - 34 },
    );
    const [problem] = problems(table);
    expect(problem?.code).toBe('beyond-2-tib');
    expect(problem?.sentence).toContain('3.0 KiB behind the 2 TiB');
    expect(problem?.remedies[0]?.resolution).toEqual({ kind: 'shrink', partition: 1, bySectors: 6 });
    expect(done(table, { kind: 'shrink', partition: 1, bySectors: 6 }).after.partitions[0]?.sectorCount).toBe(
      2 ** 32 - 2048,
    );
  });
});
