import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  chanceOfFinding,
  describeSample,
  differencesOf,
  drawSample,
  fileKinds,
  packList,
  pathAt,
  reconcile,
  sampleSizeFor,
  type Difference,
  type FileKind,
  type PackedList,
} from '../../src/manifest';
import { anyTree, file, listOf } from '../fixtures/fileList';

function differences(before: PackedList, after: PackedList): readonly Difference[] {
  return [...differencesOf(reconcile(before, after), before, after)];
}

const short = (all: readonly Difference[]) =>
  all.map(({ kind, pathBefore, pathAfter }) => [kind, pathBefore, pathAfter]);

describe('what became of the files', () => {
  it('is told for each: same, changed, renamed, moved, missing, merged, added, duplicated', () => {
    const before = listOf({
      'letters/a.txt': 'alpha',
      'letters/b.txt': 'beta',
      'letters/c.txt': 'gamma',
      'photos/1.jpg': 'one',
      'photos/copy of 1.jpg': 'one',
      'photos/2.jpg': 'two',
      'lost.txt': 'gone',
    });
    const after = listOf({
      'letters/a.txt': 'alpha',
      'letters/b.txt': 'beta, edited',
      'letters/c (old).txt': 'gamma',
      'photos/1.jpg': 'one',
      'archive/2.jpg': 'two',
      'new.txt': 'new',
      'letters/a again.txt': 'alpha',
    });
    expect(short(differences(before, after))).toEqual([
      ['changed', 'letters/b.txt', 'letters/b.txt'],
      ['renamed', 'letters/c.txt', 'letters/c (old).txt'],
      ['merged', 'photos/copy of 1.jpg', null],
      ['moved', 'photos/2.jpg', 'archive/2.jpg'],
      ['missing', 'lost.txt', null],
      ['added', null, 'new.txt'],
      ['duplicated', null, 'letters/a again.txt'],
    ]);
  });

  it('pairs equal files by name first, then by folder', () => {
    const before = listOf({ 'a/x': 'same', 'a/y': 'same', 'b/z': 'same' });
    const after = listOf({ 'c/y': 'same', 'b/w': 'same', 'd/q': 'same' });
    expect(short(differences(before, after))).toEqual([
      ['moved', 'a/x', 'd/q'],
      ['moved', 'a/y', 'c/y'],
      ['renamed', 'b/z', 'b/w'],
    ]);
  });

  it('never matches empty files by their checksum: all of them have the same', () => {
    const before = listOf({ 'a/__init__': '', kept: '' });
    const after = listOf({ 'b/other': '', kept: '' });
    expect(short(differences(before, after))).toEqual([
      ['missing', 'a/__init__', null],
      ['added', null, 'b/other'],
    ]);
  });

  it('does not call same what it cannot compare', () => {
    const before = packList([file('a', 'text'), file('b', 'text')]);
    const after = packList([file('a', 'text', { sha256: null }), file('b', 'other text', { sha256: null })]);
    expect(short(differences(before, after))).toEqual([
      ['unproven', 'a', 'a'],
      ['changed', 'b', 'b'],
    ]);
  });

  it('names the noise rule that excuses a file that was added', () => {
    const after = listOf({ 'Ada/.cache/p/1': 'x', 'Ada/notes.txt': 'y' });
    const found = [...differencesOf(reconcile(listOf({}), after), listOf({}), after, ['**/notes.*'])];
    expect(found.map(({ noise }) => noise)).toEqual(['**/{cache,caches,.cache}/**', '**/notes.*']);
  });
});

describe('laws of comparing', () => {
  const sides = (list: PackedList, kinds: Uint8Array, wanted: readonly FileKind[]) =>
    Array.from({ length: list.count }, (_none, row) => row)
      .filter((row) => wanted.includes(fileKinds[kinds[row] ?? 0] ?? 'same'))
      .map((row) => pathAt(list, row));

  it('a list against itself is all same', () => {
    fc.assert(
      fc.property(anyTree, (tree) => {
        const list = listOf(tree);
        const { counts } = reconcile(list, list);
        expect(counts.same).toBe(list.count);
        expect(Object.values(counts).reduce((sum, count) => sum + count, 0)).toBe(list.count);
      }),
    );
  });

  it('every file of both lists is counted once', () => {
    fc.assert(
      fc.property(anyTree, anyTree, (a, b) => {
        const before = listOf(a);
        const after = listOf(b);
        const { counts, kindsBefore, kindsAfter } = reconcile(before, after);
        const paired = counts.same + counts.changed + counts.unproven + counts.renamed + counts.moved;
        expect(paired + counts.missing + counts.merged).toBe(before.count);
        expect(paired + counts.added + counts.duplicated).toBe(after.count);
        expect(kindsBefore).not.toContain(255);
        expect(kindsAfter).not.toContain(255);
      }),
    );
  });

  it('swapped lists give the mirror image', () => {
    fc.assert(
      fc.property(anyTree, anyTree, (a, b) => {
        const before = listOf(a);
        const after = listOf(b);
        const there = reconcile(before, after);
        const back = reconcile(after, before);
        const mirror: Readonly<Record<FileKind, FileKind>> = {
          same: 'same',
          changed: 'changed',
          unproven: 'unproven',
          renamed: 'renamed',
          moved: 'moved',
          missing: 'added',
          merged: 'duplicated',
          added: 'missing',
          duplicated: 'merged',
        };
        for (const kind of fileKinds) {
          expect(there.counts[kind]).toBe(back.counts[mirror[kind]]);
          expect(sides(before, there.kindsBefore, [kind])).toEqual(
            sides(before, back.kindsAfter, [mirror[kind]]),
          );
        }
        expect([...there.partners]).toEqual([...back.partnersAfter]);
      }),
    );
  });

  it('a file whose content is nowhere on the other side is never called anything but missing or changed', () => {
    fc.assert(
      fc.property(anyTree, anyTree, (a, b) => {
        const before = listOf(a);
        const after = listOf(b);
        const { kindsBefore } = reconcile(before, after);
        const contents = new Set(Object.values(b));
        for (let row = 0; row < before.count; row += 1) {
          const path = pathAt(before, row);
          if (contents.has(a[path] ?? '')) continue;
          expect(['missing', 'changed']).toContain(fileKinds[kindsBefore[row] ?? 0]);
        }
      }),
    );
  });
});

describe('a sample', () => {
  it('finds bad files with the chance worked out by hand', () => {
    // 10 files, 2 bad, 3 drawn: 1 − C(8,3)/C(10,3) = 1 − 56/120 = 8/15.
    expect(chanceOfFinding(10, 2, 3)).toBeCloseTo(8 / 15, 12);
    // One bad file: the share that is drawn.
    expect(chanceOfFinding(1000, 1, 250)).toBeCloseTo(0.25, 12);
    expect(chanceOfFinding(10, 8, 3)).toBe(1);
  });

  it('speaks of one in a hundred only where there are a hundred', () => {
    // One of two drawn, one of them bad: found in half of all draws.
    expect(describeSample(2, 1).sentence).toBe(
      '1 of 2 files, drawn at random: if a single one were bad, this finds it with 50 %.',
    );
    expect(describeSample(100, 50).sentence).toContain('if 1 of them (1 in 100) were bad');
  });

  it('is as small as may be for the confidence', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 1, max: 60 }),
        fc.double({ min: 0.01, max: 0.999, noNaN: true }),
        (files, some, confidence) => {
          const bad = Math.min(files, some);
          const size = sampleSizeFor(files, bad, confidence);
          // A hair below is the confidence itself, in floating point.
          const asked = confidence - 1e-12;
          expect(chanceOfFinding(files, bad, size)).toBeGreaterThanOrEqual(asked);
          if (size > 0) expect(chanceOfFinding(files, bad, size - 1)).toBeLessThan(asked);
        },
      ),
      { numRuns: 500, examples: [[5000, 1, 0.010000000000000002]] },
    );
  });

  it('finds what the formula says, drawn a thousand times', () => {
    // 200 files, 10 bad, 40 drawn: by the formula 0.899; the share of 2000 draws lies within 0.03 of it.
    let state = 42;
    const random = () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return state / 2 ** 32;
    };
    let found = 0;
    for (let turn = 0; turn < 2000; turn += 1) {
      const rows = drawSample(200, 40, random);
      expect(new Set(rows).size).toBe(40);
      if (rows.some((row) => row < 10)) found += 1;
    }
    expect(Math.abs(found / 2000 - chanceOfFinding(200, 10, 40))).toBeLessThan(0.03);
  });

  it('says plainly what it would not find', () => {
    expect(describeSample(1000, 100).sentence).toBe(
      // 10 bad: 1 − C(990,100)/C(1000,100) = 65 %; 1 bad: 100/1000 = 10 %.
      '100 of 1,000 files, drawn at random: if 10 of them (1 in 100) were bad, this finds at least one with 65 %; if a single one were bad, with 10 %.',
    );
    expect(describeSample(12, 50).sentence).toContain('Every one of 12 files');
  });
});
