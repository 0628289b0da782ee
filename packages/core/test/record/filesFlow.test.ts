import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fileKinds, packList, reconcile } from '../../src/manifest';
import { filesFlow, ownerSheet, recordFileList, recordReconciled, type Move } from '../../src/record';
import { file } from '../fixtures/fileList';
import { documents, done, listHead, now, technician } from '../fixtures/shop';
import { crossable, signThrough } from '../fixtures/story';

const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** The bench move with Documents compared: these files before, those after. */
function comparedMove(
  before: Readonly<Record<string, string>>,
  after: Readonly<Record<string, string>>,
): Move {
  const pack = (files: Readonly<Record<string, string>>) =>
    packList(Object.entries(files).map(([path, content]) => file(path, content)));
  const lists = [pack(before), pack(after)] as const;
  const { counts } = reconcile(...lists);
  const open = fileKinds.reduce((sum, kind) => (kind === 'same' ? sum : sum + counts[kind]), 0);
  let move = signThrough(crossable());
  move = {
    ...move,
    fileLists: [{ ...listHead({ dataSetId: documents.id, id: uuid(1) }), at: now, by: 'Ines' }],
  };
  move = done(
    recordFileList(move, listHead({ dataSetId: documents.id, id: uuid(2), role: 'after' }), technician),
  );
  return done(
    recordReconciled(
      move,
      {
        id: uuid(3),
        dataSetId: documents.id,
        beforeId: uuid(1),
        afterId: uuid(2),
        counts,
        noise: 0,
        explained: 0,
        open,
      },
      technician,
    ),
  );
}

const sheetInput = {
  files: [],
  fileCount: 0,
  organisation: 'Marram Coast Ferries',
  today: '2026-03-02',
  record: { number: 12, code: 'ca864733ce015b52' },
};

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

describe('the owner’s sheet', () => {
  it('is a draft without a place to sign until every file is accounted for', () => {
    const open = ownerSheet(comparedMove({ a: '1', b: '2' }, { a: '1' }), technician, sheetInput);
    expect(open.draft).toBe(true);
    expect(open.bar).toEqual({ same: 1, otherName: 0, rest: 1 });
    expect(open.amounts).toContain('1 not here');
  });

  it('asks the owner to open what is largest first, three of it at most', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const [set] = move.dataSets;
    if (!set) throw new Error('no data set');
    const dataSets = [3, 9, 1, 7].map((gigabytes) => ({
      ...set,
      id: `set-${gigabytes}`,
      name: `Set of ${gigabytes}`,
      sizeBytes: gigabytes * 1e9,
    }));
    expect(ownerSheet({ ...move, dataSets }, technician, sheetInput).boxes).toEqual([
      'Set of 9 opened',
      'Set of 7 opened',
      'Set of 3 opened',
    ]);
  });

  it('says how long a missing file can be asked for, and what when nothing is kept', () => {
    const move = comparedMove({ a: '1' }, { a: '1' });
    const kept = {
      ...move,
      retention: [
        { destinationId: 'b-07', label: 'B-07', place: 'office safe', keepUntil: '2026-04-01', wiped: null },
        { destinationId: 'pier-store', label: 'PS', place: 'server', keepUntil: '2026-03-20', wiped: null },
      ],
    };
    expect(ownerSheet(kept, technician, sheetInput)).toMatchObject({
      keptUntil: '2026-03-20',
      warning: 'Is a file missing? Call before 2026-03-20. After that day nobody can bring it back.',
    });
    expect(ownerSheet(move, technician, sheetInput).warning).toBe('No backup is kept.');
  });

  it('names every explained file that it is given, and says when there are more', () => {
    const files = [{ path: 'ledgers/Cash.ods', kind: 'changed', reason: 'You entered the cash of the day.' }];
    const sheet = ownerSheet(comparedMove({ a: '1' }, { a: '1' }), technician, {
      ...sheetInput,
      files,
      fileCount: 40,
    });
    expect(sheet.files).toEqual(files);
    expect(sheet.filesNote).toBe('1 of 40 are printed; the help desk has the whole list.');
  });
});
