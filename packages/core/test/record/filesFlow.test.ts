import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { filesFlow } from '../../src/record';
import { comparedMove } from '../fixtures/compared';
import { documents, listHead, now } from '../fixtures/shop';
import { crossable } from '../fixtures/story';

describe('what became of every file', () => {
  it('accounts for each file before and after exactly once, whatever happened to them', () => {
    const seen = new Set<string>();
    const content = fc.constantFrom('a', 'b', 'c', 'd');
    const files = fc.dictionary(fc.constantFrom('x', 'y', 'sub/x', 'sub/z', 'w', 'v'), content, {
      maxKeys: 6,
    });
    fc.assert(
      fc.property(files, files, (before, after) => {
        const flow = filesFlow(comparedMove(before, after));
        expect(flow.before).toBe(Object.keys(before).length);
        expect(flow.after).toBe(Object.keys(after).length);
        expect(flow.fates.reduce((sum, fate) => sum + fate.before, 0)).toBe(flow.before);
        expect(flow.fates.reduce((sum, fate) => sum + fate.after, 0)).toBe(flow.after);
        for (const { kind } of flow.fates) seen.add(kind);
      }),
      { numRuns: 300 },
    );
    expect([...seen].toSorted()).toEqual(['added', 'changed', 'merged', 'missing', 'renamed', 'same']);
  });

  it('says it in a sentence: three the same, one changed, one missing', () => {
    const before = { a: '1', b: '2', c: '3', d: '4', e: '5' };
    expect(filesFlow(comparedMove(before, { a: '1', b: '2', c: '3', d: 'other' })).sentence).toBe(
      '5 files: 3 back with the same content, 1 changed, 1 missing',
    );
    expect(filesFlow(comparedMove(before, before)).sentence).toBe('5 files: all back, with the same content');
  });

  it('counts a rule’s files as the system’s, and never a missing one', () => {
    const move = comparedMove({ a: '1' }, { a: '1', cache: '9', other: '8' });
    const ruled = { ...move, reconciled: move.reconciled.map((one) => ({ ...one, noise: 5, open: 0 })) };
    expect(filesFlow(ruled).fates.map(({ kind, before, after }) => [kind, before, after])).toEqual([
      ['same', 1, 1],
      ['system', 0, 2],
    ]);
  });

  it('names data sets that were not compared, and those that were only counted', () => {
    const flow = filesFlow({
      ...crossable(),
      fileLists: [{ ...listHead({ dataSetId: documents.id }), at: now, by: 'Ines' }],
    });
    expect(flow.notCompared.map(({ id }) => id)).toEqual([documents.id]);
    expect(flow.sentence).toBe('No file has been compared yet.');
  });
});
