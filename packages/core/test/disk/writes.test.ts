import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyWrites,
  bufferSource,
  endLba,
  inStretches,
  parseWrites,
  planConversion,
  encodeCapsule,
  encodeWrites,
  readPartitionTable,
  typeOf,
  undoCapsule,
  writesFor,
  type Obstacle,
  type PartitionTable,
  type Resolution,
  type SectorSource,
  type TablePartition,
} from '../../src/disk';
import { leadingOn } from '../../src/disk/convert/leadingOn';
import { applied, mbrTable, partition, takeRemedies } from '../fixtures/conversions';
import { gptDisk, inTheTable, mbrDisk, seeded, whole, written, type RandomDisk } from '../fixtures/disks';

const random = seeded(11);
const codesOf = (outcome: ReturnType<typeof planConversion>) =>
  outcome.ok ? [] : outcome.problems.map(({ code }) => code);

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
          const undo = encodeCapsule(capsule.value, null);
          const file = encodeWrites(source, plan.writes, 'conversion', null);
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
          JSON.parse(JSON.stringify(encodeWrites(disk.source, plan.writes, 'conversion', 'KX1'))),
        );
        if (!file.ok) throw new Error(file.problems[0]?.sentence);
        const writes = writesFor(disk.source, file.value);
        if (!writes.ok) throw new Error();
        const after = applied(disk.source, writes.value);
        expect(Buffer.compare(whole(after), whole(applied(disk.source, plan.writes)))).toBe(0);
        // The capsule as a document: only the converted disk takes it.
        const capsule = undoCapsule(disk.source, plan.writes);
        if (!capsule.ok) throw new Error();
        const undo = parseWrites(JSON.parse(JSON.stringify(encodeCapsule(capsule.value, null))));
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

describe('remedies', () => {
  it('never lead into a dead end: each that is offered leads on, and what has none says another way', () => {
    let tried = 0;
    let refused = 0;
    for (const [target, disks] of [
      ['gpt', mbrDisk],
      ['mbr', gptDisk],
    ] as const)
      fc.assert(
        fc.property(disks, ({ source }) => {
          const options = { random: seeded(3) };
          const first = planConversion(source, target, options);
          if (first.ok) return;
          for (const obstacle of first.problems) {
            refused += 1;
            expect(obstacle.remedies.length > 0 || obstacle.otherwise !== undefined).toBe(true);
            for (const { resolution } of obstacle.remedies) {
              tried += 1;
              const next = planConversion(source, target, { ...options, resolutions: [resolution] });
              if (next.ok) continue;
              // Not the same again, and nothing new without a way on.
              expect(next.problems).not.toContainEqual(obstacle);
              for (const one of next.problems)
                if (!first.problems.some(({ code, path }) => code === one.code && path === one.path))
                  expect(one.remedies.length, one.sentence).toBeGreaterThan(0);
            }
          }
        }),
        { numRuns: 120 },
      );
    expect(tried).toBeGreaterThan(200);
    expect(refused).toBeGreaterThan(200);
  });

  it('that change nothing, or end at something new without a way on, are not offered', () => {
    const obstacle = (
      code: Obstacle['code'],
      kinds: readonly ('no-efi' | 'logical-to-entry')[],
    ): Obstacle => ({
      code,
      path: '',
      sentence: `${code} is in the way.`,
      remedies: kinds.map((kind) => ({ resolution: { kind }, action: kind })),
    });
    const first = obstacle('no-efi-partition', ['no-efi', 'logical-to-entry']);
    const offered = (after: readonly Obstacle[]) =>
      leadingOn([first], [], ([chosen]) =>
        chosen?.kind === 'no-efi'
          ? { ok: false, problems: after }
          : { ok: true, after: mbrTable([]), operations: [], notes: [] },
      )[0]?.remedies.map(({ action }) => action);
    expect(offered([first])).toEqual(['logical-to-entry']);
    expect(offered([obstacle('boot-misplaced', [])])).toEqual(['logical-to-entry']);
    expect(offered([obstacle('boot-misplaced', ['no-efi'])])).toEqual(['no-efi', 'logical-to-entry']);
    // What has no remedy at all still says a way on.
    const [bare] = leadingOn([obstacle('no-system', [])], [], () => ({ ok: false, problems: [] }));
    expect(bare?.otherwise).toBe('Save the data, and lay the disk out anew.');
  });
});

describe('there and back', () => {
  it('brings numbers, EBRs and the borders of the extended partition back', () => {
    let extended = 0;
    let numbers = 0;
    fc.assert(
      fc.property(mbrDisk, fc.integer({ min: 1 }), ({ source }, seed) => {
        const there = takeRemedies(source, 'gpt', { random: seeded(seed) }, [{ kind: 'no-efi' }]).plan;
        if (!there || there.before.partitions.length !== there.after.partitions.length) return;
        const middle = applied(source, there.writes);
        const logical = there.before.partitions.filter(({ kind }) => kind === 'logical');
        const now = (startLba: number) =>
          there.after.partitions.find((one) => one.startLba === startLba)?.number ?? 0;
        const back = takeRemedies(
          middle,
          'mbr',
          { random: seeded(seed + 1), remembered: there.remembered },
          logical.length > 0
            ? [{ kind: 'entry-to-logical', partitions: logical.map(({ startLba }) => now(startLba)) }]
            : [],
        ).plan;
        if (!back) return;
        const kept = ({ number, kind, startLba, ebrLba }: TablePartition) => ({
          number,
          kind,
          startLba,
          ebrLba,
        });
        expect(back.after.partitions.map(kept)).toEqual(there.before.partitions.map(kept));
        expect(back.after.extended).toEqual(there.before.extended);
        numbers += 1;
        if (there.before.extended) extended += 1;
      }),
      { numRuns: 150 },
    );
    expect(numbers).toBeGreaterThan(30);
    expect(extended).toBeGreaterThan(8);
  });
});
