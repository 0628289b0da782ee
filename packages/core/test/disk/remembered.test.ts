import { describe, expect, it } from 'vitest';
import { planConversion, type PartitionTable, type Resolution, type TablePartition } from '../../src/disk';
import type { RememberedTable } from '../../src/disk/convert/conversion';
import { shrinkAction, whyNotShrunk } from '../../src/disk/convert/shrinkCheck';
import { partition } from '../fixtures/conversions';
import { gpt, mebibyte, mib } from '../fixtures/smallDisks';
import { seeded } from '../fixtures/disks';

const logical = (...partitions: number[]): Resolution => ({ kind: 'entry-to-logical', partitions });
const toMbr = (
  table: PartitionTable,
  remembered: RememberedTable | undefined,
  ...resolutions: Resolution[]
) => {
  const plan = planConversion(table, 'mbr', {
    random: seeded(43),
    resolutions,
    ...(remembered ? { remembered } : {}),
  });
  if (!plan.ok) throw new Error(plan.problems.map(({ sentence }) => sentence).join(' '));
  return plan.value.after;
};
const problems = (table: PartitionTable, ...resolutions: Resolution[]) => {
  const plan = planConversion(table, 'mbr', { random: seeded(43), resolutions });
  return plan.ok ? [] : plan.problems;
};
/** So many of 40 MiB, as many MiB apart as asked. */
const apart = (
  count: number,
  gapMib: number,
  more: (number: number) => Partial<TablePartition> = () => ({}),
) =>
  gpt(
    ...Array.from({ length: count }, (_none, index) =>
      partition(index + 1, (2 + index * (40 + gapMib)) * mib, 40 * mib, more(index + 1)),
    ),
  );
const lineOf = (
  number: number,
  startMib: number,
  more: Partial<RememberedTable['partitions'][number]> = {},
) => ({
  startLba: startMib * mib,
  number,
  kind: 'primary' as const,
  typeCode: '0x07',
  ...more,
});

describe('what is remembered of the disk as it was', () => {
  // Partitions at 2, 62, 122 and 182 MiB.
  const table = apart(4, 20);

  it('gives each its number, its type and its mark back', () => {
    const after = toMbr(table, {
      diskId: 'CAFE0042',
      partitions: [
        lineOf(4, 2, { typeCode: '0x0C' }),
        lineOf(3, 62, { active: true }),
        lineOf(2, 122),
        lineOf(1, 182),
      ],
    });
    expect(after.diskId).toBe('CAFE0042');
    expect(
      after.partitions.map(({ number, typeCode, active }) => [number, typeCode, active ?? false]),
    ).toEqual([
      [4, '0x0C', false],
      [3, '0x07', true],
      [2, '0x07', false],
      [1, '0x07', false],
    ]);
  });

  it('counts anew where it is not of all, of another kind, or says a number twice', () => {
    const numbers = (...partitions: RememberedTable['partitions']) =>
      toMbr(table, { partitions }).partitions.map(({ number }) => number);
    expect(numbers(lineOf(4, 2), lineOf(3, 62), lineOf(2, 122))).toEqual([1, 2, 3, 4]);
    expect(numbers(lineOf(4, 2), lineOf(3, 62), lineOf(2, 122), lineOf(4, 182))).toEqual([1, 2, 3, 4]);
    expect(numbers(lineOf(4, 2), lineOf(3, 62), lineOf(2, 122), lineOf(5, 182, { kind: 'logical' }))).toEqual(
      [1, 2, 3, 4],
    );
    const disk = (diskId: string) => toMbr(table, { diskId, partitions: [] }).diskId;
    expect(disk('CAFE0042')).toBe('CAFE0042');
    // A GUID of a GPT is no signature.
    expect(disk('00112233-4455-6677-8899-AABBCCDDEEFF')).toMatch(/^[0-9A-F]{8}$/);
  });

  it('puts the EBR back where it was, while that is in the room before its partition', () => {
    const ebr = (ebrLba: number) =>
      toMbr(
        table,
        {
          partitions: [
            lineOf(1, 2),
            lineOf(2, 62),
            lineOf(3, 122),
            lineOf(5, 182, { kind: 'logical', ebrLba }),
          ],
        },
        logical(4),
      ).partitions.at(-1)?.ebrLba;
    expect(ebr(182 * mib - 63)).toBe(182 * mib - 63);
    expect(ebr(182 * mib - mib)).toBe(181 * mib);
    // Further away than a whole MiB, or not before it: a whole MiB before it.
    expect(ebr(182 * mib - mib - 1)).toBe(181 * mib);
    expect(ebr(182 * mib)).toBe(181 * mib);
  });

  it('keeps the borders of the extended partition, where they hold the logical ones and nothing else', () => {
    const extended = (startMib: number, mebibytes: number, entry = 4) =>
      toMbr(
        table,
        {
          partitions: [lineOf(1, 2), lineOf(2, 62), lineOf(3, 122), lineOf(5, 182, { kind: 'logical' })],
          extended: { entry, startLba: startMib * mib, sectorCount: mebibytes * mib },
        },
        logical(4),
      ).extended;
    const own = { entry: 4, startLba: 181 * mib, sectorCount: 41 * mib };
    expect(extended(170, 60)).toEqual({ entry: 4, startLba: 170 * mib, sectorCount: 60 * mib });
    expect(extended(181, 41)).toEqual(own);
    // Too late, too short, over a primary one, in an entry that is taken: made anew.
    expect(extended(182, 60)).toEqual(own);
    expect(extended(170, 51)).toEqual(own);
    expect(extended(161, 69)).toEqual(own);
    expect(extended(170, 60, 2)).toEqual(own);
    // From the very end of the primary one before it.
    expect(extended(162, 68)?.startLba).toBe(162 * mib);
  });
});

describe('a sector before a logical partition', () => {
  it('is missing where partitions touch: the one before is shrunk by a MiB, or nobody can say how', () => {
    // Nothing is free between them, and none is recognised.
    const touching = apart(5, 0);
    const [many] = problems(touching);
    expect(many?.code).toBe('too-many');
    expect(many?.remedies).toEqual([]);
    expect(many?.otherwise).toMatch(
      /there is none before partition 2, partition 3, partition 4, partition 5: shrink/,
    );
    const found = problems(touching, logical(4, 5));
    expect(found.map(({ code, path }) => [code, path])).toEqual([
      ['no-sector-before', '/partitions/4'],
      ['no-sector-before', '/partitions/5'],
    ]);
    expect(found[0]?.otherwise).toContain('by 1 MiB inside its own system');
    expect(found[0]?.remedies).toEqual([]);
    // With room to give, the one before ends a MiB earlier.
    const short = apart(5, 0, () => ({ content: { kind: 'ntfs', spansBytes: 30 * mebibyte } }));
    const [offered] = problems(short, logical(4, 5));
    expect(offered?.remedies[0]?.resolution).toEqual({ kind: 'shrink', partition: 3, bySectors: mib });
    expect(offered && 'otherwise' in offered && offered.otherwise !== undefined).toBe(false);
    expect(problems(short)[0]?.remedies.length).toBe(0);
  });

  it('is offered in groups, at most three of them', () => {
    const [many] = problems(apart(5, 20));
    expect(many?.remedies.map(({ resolution }) => resolution)).toEqual([
      logical(4, 5),
      logical(3, 4),
      logical(2, 3),
    ]);
    expect(many && 'otherwise' in many && many.otherwise !== undefined).toBe(false);
  });
});

describe('a partition that is to end earlier', () => {
  const table = { sectorSizeBytes: 512 };
  const surveyed = { sectorSizeBytes: 512, surveyed: true } as const;
  const of = (more: Partial<TablePartition>) => partition(3, 10 * mib, 100 * mib, { label: 'DATA', ...more });

  it('is not where nothing would be left, or where a block or its file system reaches further', () => {
    const ntfs = (spansMib: number) => ({
      content: { kind: 'ntfs' as const, spansBytes: spansMib * mebibyte },
    });
    expect(whyNotShrunk(of(ntfs(50)), 100 * mib, table)).toContain('smaller than what would be taken away');
    expect(whyNotShrunk(of(ntfs(0)), 100 * mib - 1, table)).toBeUndefined();
    expect(whyNotShrunk(of(ntfs(99)), mib, table)).toBeUndefined();
    expect(whyNotShrunk(of(ntfs(100)), mib, table)).toContain('2,048 sectors (1.0 MiB)');
    const block = (at: number) => of({ ...ntfs(50), lastImmovableByte: at });
    expect(whyNotShrunk(block(99 * mebibyte), mib, table)).toContain(
      'cannot be moved 99.0 MiB from its start',
    );
    expect(whyNotShrunk(block(99 * mebibyte - 1), mib, table)).toBeUndefined();
    expect(whyNotShrunk(of({ content: { kind: 'ntfs' } }), mib, table)).toContain(
      'cannot be told from outside',
    );
    expect(whyNotShrunk(of({}), mib, table)).toContain('is not recognised');
  });

  it('of a survey is as far as its used bytes and a tenth allow', () => {
    expect(whyNotShrunk(of({}), mib, surveyed)).toContain('is not known');
    // 80 MiB are used: 88 MiB stay, so 12 can go and 13 cannot.
    expect(whyNotShrunk(of({ usedBytes: 80 * mebibyte }), 12 * mib, surveyed)).toBeUndefined();
    expect(whyNotShrunk(of({ usedBytes: 80 * mebibyte }), 13 * mib, surveyed)).toContain(
      'too full to be shrunk by 13.0 MiB',
    );
    expect(shrinkAction(of({}), mib, surveyed)).toBe(
      'Shrink partition 3 (DATA) by 2048 sectors (1.0 MiB), inside its own system.',
    );
    expect(shrinkAction(of({}), mib, table)).toContain('its file system does not reach there');
  });
});
