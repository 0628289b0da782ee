import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyWrites,
  bufferSource,
  endLba,
  inStretches,
  parseWrites,
  planConversion,
  printCapsule,
  printWrites,
  readPartitionTable,
  typeOf,
  undoCapsule,
  writesFor,
  type ConversionOptions,
  type ConversionPlan,
  type PartitionTable,
  type Resolution,
  type SectorSource,
  type TablePartition,
} from '../src';
import { gptDisk, mbrDisk, seeded, whole, written, type RandomDisk, inTheTable } from './disks';

function applied(source: SectorSource, writes: ConversionPlan['writes']): SectorSource {
  const result = applyWrites(source, writes);
  if (!result.ok) throw new Error(result.problems[0]?.sentence);
  return result.value;
}

/** Takes the first remedy of every obstacle until there are none left, or one has no remedy. */
function takeRemedies(
  disk: SectorSource | PartitionTable,
  target: 'gpt' | 'mbr',
  options: ConversionOptions,
  start: readonly Resolution[] = [],
) {
  let resolutions = [...start];
  for (let round = 0; round < 10; round += 1) {
    const outcome = planConversion(disk, target, { ...options, resolutions });
    if (outcome.ok) return { plan: outcome.value, resolutions };
    const remedies = outcome.problems.flatMap(({ remedies: [first] }) => (first ? [first.resolution] : []));
    if (remedies.length < outcome.problems.length) return { problems: outcome.problems };
    resolutions = [...resolutions, ...remedies];
  }
  throw new Error('the remedies never end');
}

const partition = (
  number: number,
  startLba: number,
  sectorCount: number,
  more: Partial<TablePartition> = {},
): TablePartition => ({
  number,
  kind: 'primary',
  startLba,
  sectorCount,
  typeCode: '0x07',
  ...more,
});

/** 2,000,000 sectors of 512 bytes, 1.0 GB. */
function mbrTable(partitions: readonly TablePartition[], more: Partial<PartitionTable> = {}): PartitionTable {
  return {
    scheme: 'mbr',
    sectorSizeBytes: 512,
    sectorCount: 2_000_000,
    diskId: 'CAFE0001',
    partitions,
    firstUsableLba: 1,
    lastUsableLba: 1_999_999,
    findings: [],
    ...more,
  };
}

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
      code: 'entries-overlap',
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

describe('laws of conversion', () => {
  type Data = Pick<TablePartition, 'startLba' | 'sectorCount' | 'typeCode'>;
  const dataOf = (table: PartitionTable): readonly Data[] =>
    table.partitions.map(({ startLba, sectorCount, typeCode }) => ({ startLba, sectorCount, typeCode }));

  function convertible({ source }: RandomDisk, target: 'gpt' | 'mbr', seed: number) {
    const start: readonly Resolution[] = target === 'gpt' ? [{ kind: 'no-efi' }] : [];
    return takeRemedies(source, target, { random: seeded(seed) }, start).plan;
  }

  it.each([
    ['gpt', mbrDisk],
    ['mbr', gptDisk],
  ] as const)('to %s: contents stay, nothing overlaps, and undoing gives the very bytes', (target, disks) => {
    let converted = 0;
    fc.assert(
      fc.property(disks, fc.integer({ min: 1 }), (disk, seed) => {
        const plan = convertible(disk, target, seed);
        if (!plan) return;
        converted += 1;
        const { source, table } = disk;
        const capsule = undoCapsule(source, plan.writes);
        if (!capsule.ok) throw new Error(capsule.problems[0]?.sentence);
        const after = applied(source, plan.writes);
        const back = readPartitionTable(after);
        if (!back.ok) throw new Error();
        expect(back.value.scheme).toBe(target);
        expect(inTheTable(back.value)).toEqual([]);
        expect(dataOf(back.value)).toEqual(dataOf(plan.after));
        // Places and lengths are the old ones, every sector of every partition too; a loader’s own is new.
        const stayed = back.value.partitions.filter(({ typeCode }) => typeOf(typeCode)?.purpose !== 'boot');
        expect(stayed.map(({ startLba, sectorCount }) => [startLba, sectorCount])).toEqual(
          table.partitions.map(({ startLba, sectorCount }) => [startLba, sectorCount]),
        );
        for (const { startLba, sectorCount } of table.partitions)
          expect(Buffer.compare(after.read(startLba, sectorCount), source.read(startLba, sectorCount))).toBe(
            0,
          );
        // Sectors are conserved: partitions and what lies between add up to the disk.
        const used = stayed.reduce((sum, one) => sum + one.sectorCount, 0);
        expect(after.sectorCount - used).toBe(
          source.sectorCount - table.partitions.reduce((sum, one) => sum + one.sectorCount, 0),
        );
        back.value.partitions.reduce((end, one) => {
          expect(one.startLba).toBeGreaterThanOrEqual(end);
          return endLba(one);
        }, 0);
        expect(Buffer.compare(whole(applied(after, capsule.value.writes)), whole(source))).toBe(0);
      }),
      { numRuns: 150 },
    );
    expect(converted).toBeGreaterThan(20);
  });

  it.each([
    ['gpt', mbrDisk],
    ['mbr', gptDisk],
  ] as const)(
    'to %s, broken off after any write: a whole table is read, old or new; it is undone, and gone on with',
    (target, disks) => {
      let converted = 0;
      let states = 0;
      const switched = { before: 0, after: 0 };
      fc.assert(
        fc.property(disks, fc.integer({ min: 1 }), fc.nat(), (disk, seed, at) => {
          const plan = convertible(disk, target, seed);
          if (!plan || disk.table.partitions.length === 0) return;
          converted += 1;
          const { source } = disk;
          const capsule = undoCapsule(source, plan.writes);
          if (!capsule.ok) throw new Error();
          const undo = printCapsule(capsule.value, null);
          const file = printWrites(source, plan.writes, 'conversion', null);
          const places = (table: PartitionTable) =>
            table.partitions.map(({ startLba, sectorCount }) => `${startLba}+${sectorCount}`).join(' ');
          const old = places(disk.table);
          const made = places(plan.after);
          const seen = (state: SectorSource, scheme: string) => {
            const read = readPartitionTable(state);
            if (!read.ok) throw new Error();
            expect(read.value.findings.filter(({ weight }) => weight === 'damage')).toEqual([]);
            expect([old, made]).toContain(places(read.value));
            states += 1;
            if (read.value.scheme === scheme) switched.after += 1;
            else switched.before += 1;
          };
          for (let done = 0; done <= plan.writes.length; done += 1)
            seen(applied(source, plan.writes.slice(0, done)), target);
          // From one of the states: back by the capsule, itself broken off anywhere, and on by the plan.
          const done = 1 + (at % (plan.writes.length - 1));
          const broken = applied(source, plan.writes.slice(0, done));
          const back = writesFor(broken, undo);
          if (!back.ok) throw new Error(back.problems[0]?.sentence);
          for (let undone = 0; undone <= back.value.length; undone += 7)
            seen(applied(broken, back.value.slice(0, undone)), target);
          expect(Buffer.compare(whole(applied(broken, back.value)), whole(source))).toBe(0);
          const half = applied(broken, back.value.slice(0, at % back.value.length));
          for (const [again, result] of [
            [writesFor(half, undo), source],
            [writesFor(broken, file), applied(source, plan.writes)],
          ] as const)
            if (again.ok)
              expect(
                Buffer.compare(whole(applied(result === source ? half : broken, again.value)), whole(result)),
              ).toBe(0);
            else expect(again.problems[0]?.code).toBe('already-written');
        }),
        { numRuns: 60 },
      );
      expect(converted).toBeGreaterThan(10);
      expect(states).toBeGreaterThan(500);
      // Both sides of the switch were really looked at.
      expect(Math.min(switched.before, switched.after)).toBeGreaterThanOrEqual(converted);
    },
  );

  it('is refused where a link of the chain stands in the place of the new table', () => {
    const table = mbrTable([partition(5, 2048, 400_000, { kind: 'logical', ebrLba: 20 })], {
      extended: { startLba: 20, sectorCount: 402_028, entry: 1 },
    });
    const resolutions: Resolution[] = [{ kind: 'no-efi' }, { kind: 'logical-to-entry' }];
    expect(codesOf(planConversion(table, 'gpt', { random, resolutions }))).toEqual(['ebr-in-the-way']);
  });

  it.each([
    ['gpt', 'mbr', mbrDisk],
    ['mbr', 'gpt', gptDisk],
  ] as const)(
    'to %s and back to %s keeps start, length, type, names and GUIDs of every partition',
    (there, back, disks) => {
      let converted = 0;
      fc.assert(
        fc.property(disks, fc.integer({ min: 1 }), (disk, seed) => {
          const plan = convertible(disk, there, seed);
          if (!plan) return;
          const after = applied(disk.source, plan.writes);
          const returned = takeRemedies(
            after,
            back,
            { random: seeded(seed + 1), remembered: plan.remembered },
            back === 'gpt' ? [{ kind: 'no-efi' }] : [],
          ).plan;
          // A logical chain fits again: its EBRs' places are still free.
          if (!returned) throw new Error('the way back is closed');
          converted += 1;
          expect(dataOf(returned.after)).toEqual(dataOf(disk.table));
          expect(returned.after.diskId).toBe(disk.table.diskId);
          if (back === 'gpt')
            expect(returned.after.partitions.map(({ guid, name }) => [guid, name])).toEqual(
              disk.table.partitions.map(({ guid, name }) => [guid, name]),
            );
        }),
        { numRuns: 100 },
      );
      expect(converted).toBeGreaterThan(15);
    },
  );

  it('sends writes through its document and back, and refuses another disk or a damaged file', () => {
    fc.assert(
      fc.property(gptDisk, fc.integer({ min: 1 }), (disk, seed) => {
        const plan = convertible(disk, 'mbr', seed);
        if (!plan) return;
        const file = parseWrites(
          JSON.parse(JSON.stringify(printWrites(disk.source, plan.writes, 'conversion', 'KX1'))),
        );
        if (!file.ok) throw new Error(file.problems[0]?.sentence);
        const writes = writesFor(disk.source, file.value);
        if (!writes.ok) throw new Error();
        const after = applied(disk.source, writes.value);
        expect(Buffer.compare(whole(after), whole(applied(disk.source, plan.writes)))).toBe(0);
        // The capsule as a document: only the converted disk takes it.
        const capsule = undoCapsule(disk.source, plan.writes);
        if (!capsule.ok) throw new Error();
        const undo = parseWrites(JSON.parse(JSON.stringify(printCapsule(capsule.value, null))));
        if (!undo.ok) throw new Error();
        // What was never converted has nothing to be undone; another disk is another disk.
        expect(writesFor(disk.source, undo.value)).toMatchObject({
          ok: false,
          problems: [{ code: 'already-written' }],
        });
        const other = whole(after);
        for (const place of [0, 511]) other[place] = (other[place] ?? 0) ^ 0xff;
        expect(writesFor(bufferSource(other, after.sectorSizeBytes), undo.value)).toMatchObject({
          ok: false,
          problems: [{ code: 'changed-since' }],
        });
        const undone = writesFor(after, undo.value);
        expect(
          undone.ok && Buffer.compare(whole(applied(after, undone.value)), whole(disk.source)) === 0,
        ).toBe(true);
        const [first] = file.value.writes;
        const edited = { ...file.value, writes: [{ ...first, data: `AAAA${first?.data.slice(4)}` }] };
        expect(first?.data.startsWith('AAAA') || !parseWrites(edited).ok).toBe(true);
        expect(parseWrites({ ...file.value, writes: [{ ...first, data: 'AA' }] }).ok).toBe(false);
      }),
      { numRuns: 30 },
    );
  });

  it('refuses writes that do not fit the disk', () => {
    const source = bufferSource(new Uint8Array(5120), 512);
    const write = (startLba: number, length: number) => ({
      startLba,
      bytes: new Uint8Array(length),
      about: 'x',
    });
    expect(applyWrites(source, [write(9, 1024)])).toMatchObject({
      ok: false,
      problems: [{ code: 'write-outside' }],
    });
    expect(applyWrites(source, [write(1, 100)])).toMatchObject({
      ok: false,
      problems: [{ code: 'write-not-whole' }],
    });
    expect(applyWrites(source, [write(1, 1024), write(2, 512)])).toMatchObject({
      ok: false,
      problems: [{ code: 'writes-overlap' }],
    });
    expect(undoCapsule({ ...source, sectorCount: 20 }, [write(15, 512)])).toMatchObject({
      ok: false,
      problems: [{ code: 'source-short' }],
    });
  });

  it('writes the disk of a fixed example as worked out by hand', () => {
    // 1,000 sectors; partition 1 at 100 to 199, type 07, active. Afterwards: protective MBR, headers at 1 and 999,
    // entries at 2 to 33 and 967 to 998: 1 + 1 + 32 + 32 + 1 sectors.
    const source = written(
      mbrTable([partition(1, 100, 100, { active: true })], { sectorCount: 1000, lastUsableLba: 999 }),
      bufferSource(new Uint8Array(512_000), 512),
    );
    const outcome = planConversion(source, 'gpt', { random, resolutions: [{ kind: 'no-efi' }] });
    if (!outcome.ok) throw new Error();
    // Both copies first, the sector that switches last; each write is one sector.
    expect(
      inStretches(outcome.value.writes, 512).map(({ startLba, sectorCount }) => [startLba, sectorCount]),
    ).toEqual([
      [967, 32],
      [999, 1],
      [2, 32],
      [1, 1],
      [0, 1],
    ]);
    expect(outcome.value.writes.every(({ bytes }) => bytes.length === 512)).toBe(true);
  });
});
