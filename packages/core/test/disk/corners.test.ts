import { describe, expect, it } from 'vitest';
import { bufferSource, diskFlow, readPartitionTable, type TablePartition } from '../../src/disk';
import { contentOf } from '../../src/disk/content/content';
import { areasOf, type Area, type Piece } from '../../src/disk/layout/areas';
import { choicesByCost, choiceOf, everythingShrunk } from '../../src/disk/layout/choices';
import { maxRoom } from '../../src/disk/layout/arrange';
import { describeOperation, moveRisk, type Operation } from '../../src/disk/layout/operation';
import { encodeTable } from '../../src/disk/table/encodeTable';
import { applied, mbrTable, partition } from '../fixtures/conversions';
import { data, gpt, mbr, mebibyte, mib, planned, refused, room, system } from '../fixtures/smallDisks';

describe('what an operation says, figure by figure', () => {
  const speed = { sectorSizeBytes: 512, bytesPerSecond: 100_000_000 };
  const holds = (kind: 'ntfs' | 'ext4' | 'xfs'): Partial<TablePartition> => ({
    content: contentOf(kind, 'DATA', undefined, undefined),
  });
  const say = (operation: Operation, of: Partial<TablePartition> = {}) =>
    describeOperation(operation, partition(2, 10 * mib, 1000 * mib, { label: 'DATA', ...of }), speed);
  const shrink = { kind: 'shrink', partition: 2, fromSectors: 1000 * mib, toSectors: 600 * mib } as const;

  it('a shrink is done by the tool of its file system, or by one that nobody can name', () => {
    expect(say(shrink, holds('ntfs')).sentence).toMatch(
      /\(MiB to remove\)\. It is done by its own system, while it runs\.$/,
    );
    expect(say(shrink, holds('ext4')).sentence).toMatch(
      /It is done by its own tools, while it is not mounted\.$/,
    );
    expect(say(shrink, holds('xfs')).sentence).toMatch(/\(MiB to remove\)\.$/);
    expect(say(shrink).sentence).toMatch(/\(MiB to remove\)\.$/);
    expect(describeOperation(shrink, undefined, speed).sentence).toMatch(/\(MiB to remove\)\.$/);
  });

  it('a shrink copies a quarter of what is used, and never more than is taken away', () => {
    // 400 MiB are taken away, 419.4 MB; a quarter of 12 GB is more: 419.4 MB twice at 100 MB/s, a minute begun.
    expect(say(shrink, { usedBytes: 12e9 })).toMatchObject({
      minutes: 6,
      typeMebibytes: 400,
      amountBytes: 400 * mebibyte,
    });
    // A quarter of 24 GB is 6 GB; with 8 GiB taken away that is what may be copied: 120 s, two minutes.
    const large = { ...shrink, fromSectors: 30_000 * mib, toSectors: 21_808 * mib };
    expect(say(large, { usedBytes: 24e9 })).toMatchObject({ minutes: 5 + 2, typeMebibytes: 8192 });
    expect(say(shrink)).toMatchObject({ minutes: 5, risk: 1, handsMinutes: 3, undoMinutes: 3 });
  });

  it('a growth, a move, a deletion, a type and a conversion have their minutes and risks', () => {
    const grow = say({ kind: 'grow', partition: 2, fromSectors: 600 * mib, toSectors: 1000 * mib });
    expect(grow).toMatchObject({
      amountBytes: 400 * mebibyte,
      minutes: 3,
      handsMinutes: 2,
      risk: 1,
      undoMinutes: 5,
    });
    expect(grow.sentence).toContain('by 419.4 MB');
    // 1000 MiB read and written at 100 MB/s: 21 s, a minute begun; both ways as long.
    const move: Operation = {
      kind: 'move',
      partition: 2,
      fromLba: 10 * mib,
      toLba: 4 * mib,
      sectorCount: 1000 * mib,
    };
    expect(say(move)).toMatchObject({
      amountBytes: 6 * mebibyte,
      minutes: 6,
      undoMinutes: 6,
      risk: 10,
      handsMinutes: 2,
    });
    expect(describeOperation(move, undefined, speed).risk).toBe(10);
    for (const role of ['system', 'boot', 'efi'] as const) expect(moveRisk({ role })).toBe(20);
    expect(moveRisk({ role: 'data' })).toBe(10);
    expect(say({ kind: 'delete', partition: 2 })).toMatchObject({
      amountBytes: 1000 * mebibyte,
      minutes: 1,
      risk: 2,
    });
    expect('amountBytes' in describeOperation({ kind: 'delete', partition: 2 }, undefined, speed)).toBe(
      false,
    );
    expect(say({ kind: 'set-type', partition: 2, typeCode: '0x0C' })).toMatchObject({ minutes: 1, risk: 0 });
    expect(describeOperation({ kind: 'convert', target: 'gpt' }, undefined, speed)).toMatchObject({
      minutes: 10,
      risk: 1,
    });
  });

  it('a partition without a label is called by its number, and takes an article that can be spoken', () => {
    expect(say({ kind: 'delete', partition: 2 }, { label: '' }).title).toBe('Delete partition 2');
    const create = (purpose: 'efi' | 'data') =>
      describeOperation(
        { kind: 'create', partition: 1, startLba: mib, sectorCount: 5 * mib, purpose },
        undefined,
        speed,
      );
    expect(create('efi').sentence).toContain('Create an EFI system partition');
    expect(create('data').sentence).toContain('Create a data partition');
    expect(create('data')).toMatchObject({ typeMebibytes: 5, amountBytes: 5 * mebibyte });
  });

  it('a disk whose speed nobody knows is a slow one', () => {
    const move: Operation = {
      kind: 'move',
      partition: 2,
      fromLba: 0,
      toLba: 9 * mib,
      sectorCount: 10_000 * mib,
    };
    // 10,485,760,000 bytes twice at 60 MB/s: 349.5 s, six minutes begun.
    expect(describeOperation(move, undefined, { sectorSizeBytes: 512 }).minutes).toBe(5 + 6);
  });
});

describe('two areas that can both give room', () => {
  it('the one that has to move less gives it', () => {
    const logical = (number: number, startMib: number, mebibytes: number): TablePartition => ({
      ...partition(number, startMib * mib, mebibytes * mib, { label: `LOG${number}`, role: 'data' }),
      kind: 'logical',
      ebrLba: startMib * mib - 1,
    });
    const table = (mainMib: number, logicalMib: number) => ({
      ...mbr(
        // The first 30 MiB are free, then data, then 30 MiB free up to the extended partition.
        partition(1, 31 * mib, mainMib * mib, { label: 'MAIN', role: 'data' }),
        logical(5, 241, logicalMib),
      ),
      extended: {
        entry: 2,
        startLba: (31 + mainMib + 30) * mib,
        sectorCount: (400 - 31 - mainMib - 30) * mib,
      },
    });
    const moved = (mainMib: number, logicalMib: number, extendedStartMib: number) => {
      const given = table(mainMib, logicalMib);
      const within = {
        ...given,
        extended: { entry: 2, startLba: extendedStartMib * mib, sectorCount: (300 - extendedStartMib) * mib },
        lastUsableLba: 300 * mib - 1,
        sectorCount: 300 * mib,
      };
      const plan = planned(within, room(45));
      return plan.operations
        .filter(({ kind }) => kind === 'move')
        .map((one) => ('partition' in one ? one.partition : 0));
    };
    // Main: 30 + 30 MiB around 100 MiB. Extended from 161 to 300 MiB would have 79 free at its start: take less of it.
    expect(moved(139, 40, 200)).toEqual([5]);
    expect(moved(20, 40, 200)).not.toEqual([5]);
  });
});

describe('a split', () => {
  it('is refused where less than a whole MiB would be left behind the system', () => {
    // An old system from sector 63: between its new end and what follows there is no whole, aligned MiB.
    const old = system({ startLba: 63, sectorCount: 100 * mib });
    const next = partition(2, 63 + 100 * mib, 100 * mib, { label: 'NEXT', role: 'data' });
    const split = (mebibytes: number) => ({ kind: 'split', systemBytes: mebibytes * mebibyte }) as const;
    const [problem] = refused(mbr(old, next), split(99));
    expect(problem).toMatchObject({ code: 'nothing-to-split', path: '/partitions/1' });
    expect(problem?.sentence).toBe('Less than 1 MiB would be left for data.');
    const plan = planned(mbr(old, next), split(98));
    expect(plan.operations.find(({ kind }) => kind === 'create')).toMatchObject({
      startLba: 99 * mib,
      sectorCount: mib,
    });
  });
});

describe('choices of what to move and to shrink', () => {
  /** Pieces of 10 MiB with gaps of 5 MiB, half of each in use. */
  const row = (pieces: number, more: (index: number) => Partial<Piece> = () => ({})): Area => {
    const [area] = areasOf(
      {
        ...gpt(...Array.from({ length: pieces }, (_unused, index) => data(index + 1, 1 + 15 * index, 10))),
        sectorCount: 400 * mib,
      },
      {},
      moveRisk,
    );
    if (!area) throw new Error('a GPT has one area');
    return {
      ...area,
      endLba: (1 + 15 * pieces) * mib,
      pieces: area.pieces.map((piece, index) => ({
        ...piece,
        minSectors: piece.sectorCount,
        ...more(index),
      })),
    };
  };
  const countsOf = (pieces: number, window: number, more?: (index: number) => Partial<Piece>) => {
    const area = row(pieces, more);
    return [...choicesByCost(area, window * mib, { left: 1e9 })].map((bits) => {
      const { moved, shrunk } = choiceOf(area, bits);
      return [moved.size, shrunk.size];
    });
  };

  it('try every set of moves up to eight pieces, and beyond it two moves at most', () => {
    const most = (pieces: number) => Math.max(...countsOf(pieces, 20).map(([moved = 0]) => moved));
    expect(most(8)).toBe(8);
    expect(most(9)).toBe(2);
    const everything = everythingShrunk(row(9), 20 * mib, { left: 1e9 }).map(
      (bits) => choiceOf(row(9), bits).moved.size,
    );
    // One alone finds no gap that takes it beside the window; the last set is all that can be moved.
    expect([...new Set(everything)].sort()).toEqual([2, 9]);
  });

  it('shrink three pieces at most where there are more than eight, and as many as help where there are fewer', () => {
    const half = () => ({ minSectors: 5 * mib });
    const most = (pieces: number) => Math.max(...countsOf(pieces, 12, half).map(([, shrunk = 0]) => shrunk));
    expect(most(9)).toBe(3);
    expect(most(8)).toBeGreaterThan(3);
  });

  it('come cheapest first: fewer points, and among those fewer sectors moved', () => {
    const area = row(6, (index) => ({ minSectors: (index % 2 === 0 ? 5 : 10) * mib }));
    const costs = [...choicesByCost(area, 14 * mib, { left: 1e9 })].map(({ risk, movedSectors }) => [
      risk,
      movedSectors,
    ]);
    expect(costs.length).toBeGreaterThan(10);
    const sorted = costs.toSorted(([a = 0, c = 0], [b = 0, d = 0]) => a - b || c - d);
    expect(costs).toEqual(sorted);
    // A piece that is shrunk before it is moved moves its shorter length only.
    const both = [...choicesByCost(area, 14 * mib, { left: 1e9 })].find(
      ({ moved, shrunk }) => moved === 1 && shrunk === 1,
    );
    expect(both).toMatchObject({ movedSectors: 5 * mib, risk: 10 + 1 });
  });

  it('end where the budget does: a level that was not looked through whole has no cheapest one', () => {
    expect([...choicesByCost(row(6), 14 * mib, { left: 3 })]).toEqual([]);
  });

  it('have a longest window, proven where all that is free is in it', () => {
    // Six gaps of 5 MiB, and everything can be moved together: 30 MiB.
    expect(maxRoom(row(6), { left: 1e6 })).toEqual({ sectors: 30 * mib, proven: true });
    const stuck = row(6, () => ({ movable: false }));
    expect(maxRoom(stuck, { left: 1e6 })).toEqual({ sectors: 5 * mib, proven: true });
    // The third can be moved: it moves up to its neighbour, and the gaps on both its sides become one.
    const one = row(6, (index) => ({ movable: index === 2 }));
    expect(maxRoom(one, { left: 1e6 }).sectors).toBe(10 * mib);
    // Half of each can be given: 5 MiB more in every gap, without a move.
    const half = row(6, () => ({ movable: false, minSectors: 5 * mib }));
    expect(maxRoom(half, { left: 1e6 })).toEqual({ sectors: 10 * mib, proven: true });
  });
});

describe('where the entries of a GPT are', () => {
  const bytesOf = (entriesLba: number) => {
    const table = {
      ...gpt(data(1, 30, 40)),
      firstUsableLba: 100,
      gpt: { entryCount: 128, entrySizeBytes: 128, entriesLba, backupLba: 400 * mib - 1, hybrid: false },
    };
    const blank = bufferSource(new Uint8Array(400 * mib * 512), 512);
    const writes = encodeTable(table, blank);
    if (!writes.ok) throw new Error(writes.problems[0]?.sentence);
    return applied(blank, writes.value);
  };

  it('is as the primary header says, and the usual place where only the backup can be read', () => {
    const source = bytesOf(20);
    const whole = readPartitionTable(source);
    if (!whole.ok) throw new Error(whole.problems[0]?.sentence);
    const { gpt: at } = whole.value;
    const damaged = new Uint8Array(source.read(0, source.sectorCount));
    damaged.fill(7, 512, 1024);
    const rest = readPartitionTable(bufferSource(damaged, 512));
    if (!rest.ok) throw new Error(rest.problems[0]?.sentence);
    expect([at?.entriesLba, rest.value.gpt?.entriesLba]).toEqual([20, 2]);
  });
});

describe('a flow without losses', () => {
  it('adds up to the disk, and has no place after which nothing comes back', () => {
    const flow = diskFlow(planned(mbr(system(), data(2, 201, 199)), room(50)));
    const { stays, moves, new: made, free } = flow.sums;
    expect(stays + moves + made + free).toBe(400 * mib);
    expect(flow.lineBefore).toBeUndefined();
    expect(flow.erasedSectors).toBe(0);
    expect(flow.columns.length).toBeGreaterThan(0);
  });

  it('has one where what was deleted is written over, and deletions in a row are one column', () => {
    const table = mbrTable([system(), data(2, 201, 60), data(3, 261, 60)], {
      sectorCount: 400 * mib,
      lastUsableLba: 400 * mib - 1,
    });
    const flow = diskFlow(planned(table, { kind: 'grow-back', partition: 1, remove: [2, 3] }));
    expect(flow.columns[0]?.title).toBe('Delete 2 partitions');
    expect(flow.columns[0]?.operations).toHaveLength(2);
    // The growth takes the place of what was deleted: that is the column before which the Line is.
    expect(flow.lineBefore).toBe(1);
    expect(flow.erasedSectors).toBe(120 * mib);
    const used = flow.bands.find(({ numberBefore }) => numberBefore === 1);
    expect(used).toMatchObject({ fate: 'stays', usedSectors: 20 * mib, kind: 'system' });
    expect(flow.bands.filter(({ kind, fate }) => kind === 'data' && fate === 'erased')).toHaveLength(2);
  });
});
