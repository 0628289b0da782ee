import { describe, expect, it } from 'vitest';
import { scopeNotices } from '../../src/backup';
import {
  accountFor,
  beforeSignOff,
  keepRenames,
  noteHandover,
  recordCheck,
  recordExplained,
  recordFileList,
  recordReconciled,
  setDataSets,
  setDestinations,
  signStep,
  packDataSets,
  joinDataSet,
  upgradeRecord,
  type Move,
} from '../../src/record';
import {
  codesOf,
  documents,
  done,
  driveB7,
  laptop,
  laptopSurvey,
  laptopWith,
  listHead,
  pictures,
  technician,
} from '../fixtures/shop';
import { crossable, gateOf, planned, ready, saved, signThrough } from '../fixtures/story';

const compared = (move: Move, count: number, method: 'full' | 'sample' = 'full', dataSetId = 'documents') =>
  done(
    recordCheck(
      move,
      {
        dataSetId,
        destinationId: 'b-07',
        check: method === 'full' ? { method, files: 10 } : { method, files: 3, ofFiles: 10 },
        count,
        files: count === 0 ? [] : [{ kind: 'changed', path: 'a.txt' }],
      },
      technician,
    ),
  );

describe('a list of files', () => {
  it('sets the counts of its data set, and copies of what changed no longer count', () => {
    const ticked = compared(saved(), 0);
    expect(ticked.copies).toHaveLength(1);
    const listed = done(recordFileList(ticked, listHead({ dataSetId: 'documents' }), technician));
    expect(listed.dataSets[0]).toMatchObject({ fileCount: 10, sizeBytes: 100, largestFileBytes: 10 });
    expect(listed.copies).toEqual([]);
    // The same counts again prove nothing; the same content by its digest does (`belongs.test.ts`).
    const again = done(recordFileList(compared(listed, 0), listHead({ dataSetId: 'documents' }), technician));
    expect(again.copies).toEqual([]);
    expect(again.fileLists).toHaveLength(1);
  });

  it('without sizes leaves the bytes that were known', () => {
    const listed = done(
      recordFileList(
        saved(),
        listHead({ dataSetId: 'documents', withoutSize: 10, sizeBytes: 0, largestFileBytes: 0 }),
        technician,
      ),
    );
    expect(listed.dataSets[0]).toMatchObject({ fileCount: 10, sizeBytes: documents.sizeBytes });
  });

  it('of a copy needs a destination that takes it; of what was before, a device that still has it', () => {
    const copy = (destinationId: string) =>
      recordFileList(saved(), listHead({ dataSetId: 'documents', role: 'copy', destinationId }), technician);
    expect(codesOf(copy('nowhere'))).toEqual(['no-such-copy']);
    expect(codesOf(copy('b-07'))).toEqual([]);
    expect(codesOf(recordFileList(saved(), listHead({ dataSetId: 'none' }), technician))).toEqual([
      'no-such-data-set',
    ]);
    const crossed = signThrough(crossable());
    expect(codesOf(recordFileList(crossed, listHead({ dataSetId: 'documents' }), technician))).toEqual([
      'line-crossed',
    ]);
    expect(
      codesOf(recordFileList(crossed, listHead({ dataSetId: 'documents', role: 'after' }), technician)),
    ).toEqual([]);
  });
});

describe('a copy that differs', () => {
  it('closes the gate with the file’s name until it has been compared again', () => {
    const open = compared(ready(planned()), 3);
    expect(gateOf(open, 'copies-verified')).toMatchObject({ state: 'closed' });
    expect(gateOf(open, 'copies-verified')?.sentence).toContain('3 files differ, first a.txt');
    expect(codesOf(signStep(open, 'verify:b-07', { actualMinutes: 1, note: '' }, technician))).toEqual([
      'not-noted',
    ]);
    const fixed = compared(open, 0);
    expect(fixed.failedChecks).toEqual([]);
    expect(gateOf(fixed, 'copies-verified')?.sentence).not.toContain('a.txt');
  });

  it('is forgotten when the destination no longer takes the data set', () => {
    const open = compared(saved(), 3);
    expect(
      done(setDestinations(open, [{ ...driveB7, takes: ['pictures'] }], technician)).failedChecks,
    ).toEqual([]);
  });
});

describe('a sample', () => {
  it('is not enough for what will be erased: one copy is compared in full', () => {
    const sample = (move: Move) => compared(compared(move, 0, 'sample'), 0, 'sample', 'pictures');
    const readGate = (move: Move) => gateOf(move, 'copies-verified');
    const sampled = sample(sample(planned()));
    // Both drives take both; a second copy on the share, ticked, makes the number up.
    const made = ['documents', 'pictures'].reduce(
      (move, dataSetId) =>
        done(
          recordCheck(
            move,
            {
              dataSetId,
              destinationId: 'pier-store',
              check: { method: 'sample', files: 3, ofFiles: 10 },
              count: 0,
              files: [],
            },
            technician,
          ),
        ),
      sampled,
    );
    expect(readGate(made)).toMatchObject({ state: 'closed' });
    expect(readGate(made)?.sentence).toContain(
      'Documents (none compared in full), Pictures (none compared in full)',
    );
    const full = compared(compared(made, 0), 0, 'full', 'pictures');
    expect(readGate(full)?.state).toBe('green');
  });
});

describe('what is not safe to copy', () => {
  it('closes the first gate: placeholders of a cloud, encrypted files without their key’s place', () => {
    const withSets = (change: object) =>
      done(setDataSets(planned(), [{ ...documents, ...change }, pictures], technician));
    expect(gateOf(withSets({ placeholderFiles: 12 }), 'scope-stated')?.sentence).toContain(
      'Documents has 12 files that are only placeholders of a cloud',
    );
    const encrypted = { files: 2, keyWhere: '' };
    expect(gateOf(withSets({ encrypted }), 'scope-stated')?.state).toBe('closed');
    expect(gateOf(withSets({ encrypted: { ...encrypted, keyWhere: 'vault' } }), 'scope-stated')?.state).toBe(
      'green',
    );
  });

  it('asks after other accounts that no data set names', () => {
    const facts = laptopWith({ system: { ...laptopSurvey.system, accounts: ['ada', 'odd'] } });
    const named = [{ ...documents, name: 'Documents (ada)' }];
    expect(scopeNotices(named, facts).map(({ sentence }) => sentence)).toEqual([
      'The account odd is on the device, and no data set names it: are there files of odd’s?',
    ]);
    expect(scopeNotices(named, laptop)).toEqual([]);
  });
});

describe('a data set that is split', () => {
  const parts = (sizeBytes: number) => [
    { places: ['a'], sizeBytes, fileCount: 1, largestFileBytes: 5, destinationIds: ['b-07'] },
    {
      places: ['b', 'c'],
      sizeBytes: documents.sizeBytes - sizeBytes,
      fileCount: documents.fileCount - 1,
      largestFileBytes: 9,
      destinationIds: ['pier-store'],
    },
  ];

  /** Documents in parts, Pictures whole on both destinations. */
  const packing = (of: ReturnType<typeof parts>) => [
    { dataSetId: 'documents', parts: of },
    {
      dataSetId: 'pictures',
      parts: [
        {
          places: [''],
          sizeBytes: pictures.sizeBytes,
          fileCount: pictures.fileCount,
          largestFileBytes: 1,
          destinationIds: ['b-07', 'pier-store'],
        },
      ],
    },
  ];

  it('is packed against the data sets and destinations that the move has now, in one line of the log', () => {
    const outcome = packDataSets(saved(), packing(parts(1000)), technician);
    expect(outcome.ok && outcome.value.sentence).toBe(
      'Packed: 2 data sets onto 2 destinations, 1 data set in parts by folder.',
    );
    expect(codesOf(packDataSets(saved(), packing(parts(1000)).slice(1), technician))).toEqual([
      'packing-stale',
    ]);
    const elsewhere = parts(1000).map((part) => ({ ...part, destinationIds: ['b-99'] }));
    expect(codesOf(packDataSets(saved(), packing(elsewhere), technician))).toEqual(['packing-stale']);
  });

  it('is two data sets with their own drives, and one again when put together', () => {
    const split = done(packDataSets(saved(), packing(parts(1000)), technician));
    expect(split.dataSets.map(({ name }) => name)).toEqual([
      'Documents, part 1 of 2',
      'Documents, part 2 of 2',
      'Pictures',
    ]);
    expect(split.destinations.map(({ takes }) => takes)).toEqual([
      ['pictures', 'documents-part-1'],
      ['pictures', 'documents-part-2'],
    ]);
    const inParts = split.dataSets.map(({ id }) => ({ dataSetId: id, parts: parts(1) }));
    expect(codesOf(packDataSets(split, inParts, technician))).toEqual(['a-part']);
    const again = done(joinDataSet(split, 'documents', technician));
    expect(again.dataSets[0]).toMatchObject({ ...documents, largestFileBytes: 9 });
    expect(again.destinations.map(({ takes }) => takes)).toEqual([['pictures'], ['pictures']]);
  });

  it('has to be the whole, to the byte', () => {
    const short = parts(1000).map((part) => ({ ...part, sizeBytes: part.sizeBytes - 1 }));
    expect(codesOf(packDataSets(saved(), packing(short), technician))).toEqual(['parts-are-not-the-whole']);
  });
});

describe('what came back', () => {
  const counts = {
    same: 8,
    changed: 0,
    unproven: 0,
    renamed: 0,
    moved: 0,
    missing: 2,
    merged: 0,
    added: 0,
    duplicated: 0,
  };
  const listed = () => {
    let move = done(recordFileList(crossable(), listHead({ dataSetId: 'documents' }), technician));
    move = compared(compared(move, 0), 0, 'full', 'pictures');
    return move;
  };
  const afterAll = () => {
    const move = listed();
    const before = move.fileLists[0];
    const after = listHead({ dataSetId: 'documents', role: 'after', fileCount: 8 });
    const read = done(recordFileList(move, after, technician));
    return done(
      recordReconciled(
        read,
        {
          id: '6d1d7a52-2f0e-4d5b-9b53-0f6b5a1c7e10',
          dataSetId: 'documents',
          beforeId: before?.id ?? '',
          afterId: after.id,
          counts,
          noise: 0,
          explained: 0,
          open: 2,
        },
        technician,
      ),
    );
  };
  const lineOf = (move: Move) => accountFor(move).find(({ dataSetId }) => dataSetId === 'documents');

  it('of a data set with a list is compared, and a count by hand does not do', () => {
    const counted = done(
      noteHandover(
        listed(),
        {
          found: [{ dataSetId: 'documents', fileCount: 10, sizeBytes: 100, explanation: '' }],
          openPoints: [],
        },
        technician,
      ),
    );
    expect(lineOf(counted)).toMatchObject({ by: 'nothing', state: 'open' });
  });

  it('holds the hand-over back until every difference is explained, and again after a newer list', () => {
    const open = afterAll();
    expect(lineOf(open)).toMatchObject({ by: 'comparison', state: 'open' });
    expect(beforeSignOff(open).map(({ sentence }) => sentence)).toContain(
      'Documents: 2 files differ and nobody has said why (2 missing, 0 changed in all).',
    );
    const explained = done(
      recordExplained(
        open,
        {
          id: '6d1d7a52-2f0e-4d5b-9b53-0f6b5a1c7e10',
          explained: 2,
          open: 0,
          what: '2 missing: left out.',
        },
        technician,
      ),
    );
    expect(lineOf(explained)?.state).toBe('explained');
    const newer = done(
      recordFileList(explained, listHead({ dataSetId: 'documents', role: 'after' }), technician),
    );
    expect(lineOf(newer)).toMatchObject({
      state: 'open',
      openBecause: 'a newer list has not been compared yet.',
    });
    expect(
      codesOf(
        recordExplained(
          open,
          {
            id: '00000000-0000-4000-8000-000000000000',
            explained: 0,
            open: 0,
            what: '',
          },
          technician,
        ),
      ),
    ).toEqual(['no-such-comparison']);
  });
});

describe('names on a destination', () => {
  it('are kept for a copy that goes there, and go with it', () => {
    const renames = [{ folder: '', from: 'a?', to: 'a_', because: 'forbidden-character' as const }];
    const given = { dataSetId: 'documents', destinationId: 'b-07', renames };
    expect(codesOf(keepRenames(saved(), { ...given, destinationId: 'x' }))).toEqual(['no-such-copy']);
    const move = done(keepRenames(saved(), given));
    expect(move.renames[0]?.names).toEqual(renames);
    expect(done(keepRenames(move, { ...given, renames: [] })).renames).toEqual([]);
    expect(done(setDestinations(move, [], technician)).renames).toEqual([]);
  });
});

describe('an old record', () => {
  it('that is not old comes back as it is', () => {
    const move = saved();
    expect(upgradeRecord(move)).toBe(move);
    expect(upgradeRecord('nonsense')).toBe('nonsense');
  });
});
