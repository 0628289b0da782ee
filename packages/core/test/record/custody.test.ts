import { describe, expect, it } from 'vitest';
import {
  checklistOf,
  contentOn,
  fitOf,
  freeOn,
  nextWipe,
  retentionSentence,
  scopeNotices,
} from '../../src/backup';
import {
  accountFor,
  answerChecklist,
  beforeSignOff,
  keepBackup,
  keepRenames,
  noteHandover,
  recordCheck,
  recordExplained,
  recordFileList,
  recordReconciled,
  recordWipe,
  setDataSets,
  setDestinations,
  signOff,
  signStep,
  packDataSets,
  joinDataSet,
  upgradeRecord,
  type Move,
} from '../../src/record';
import {
  catalogue,
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
import { crossable, gateOf, planned, ready, saved, signThrough, told } from '../fixtures/story';

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

describe('the checklist', () => {
  it('adds what the present system and the applications keep to what every device has', () => {
    const facts = laptopWith({
      system: { ...laptopSurvey.system, release: 'corvel-9-business', applications: ['ledgerstone'] },
    });
    const lines = checklistOf(facts, catalogue, [], saved());
    const because = new Set(lines.map((line) => line.because));
    expect([...because]).toEqual(['Corvel', 'Ledgerstone Accounts', '']);
    expect(lines.find(({ id }) => id === 'ledgerstone-licence')?.howToGetItOut).toContain('vault');
    expect(lines.every(({ state }) => state === 'open')).toBe(true);
    expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
  });

  it('answers several lines in one go, each by who and when, and opens one again', () => {
    const line = (move: Move, wanted: string) =>
      checklistOf(move.facts, catalogue, move.dataSets, move).find(({ id }) => id === wanted);
    const answered = done(
      answerChecklist(
        saved(),
        [
          { id: 'fonts', answer: 'none', reason: ' none added ' },
          { id: 'outside-home', answer: 'ask', reason: '' },
        ],
        technician,
      ),
    );
    expect(line(answered, 'fonts')).toMatchObject({
      state: 'not-needed',
      notNeeded: { by: technician.actor.name, reason: 'none added' },
    });
    expect(line(answered, 'outside-home')).toMatchObject({
      state: 'ask',
      asked: { by: technician.actor.name, at: technician.now },
    });
    // The owner has answered: the question goes, and the other line stays as it was.
    const said = done(
      answerChecklist(answered, [{ id: 'outside-home', answer: 'none', reason: '' }], technician),
    );
    expect(line(said, 'outside-home')?.state).toBe('not-needed');
    expect(said.askedOwner).toEqual([]);
    expect(line(said, 'fonts')?.state).toBe('not-needed');
    const open = done(answerChecklist(said, [{ id: 'fonts', answer: 'open', reason: '' }], technician));
    expect(line(open, 'fonts')?.state).toBe('open');
    expect(line(open, 'outside-home')?.state).toBe('not-needed');
  });

  it('takes the last of two answers to one line, and refuses lines that are none or have a data set', () => {
    const twice = done(
      answerChecklist(
        saved(),
        [
          { id: 'fonts', answer: 'ask', reason: '' },
          { id: 'fonts', answer: 'none', reason: '' },
        ],
        technician,
      ),
    );
    expect([twice.notNeeded.length, twice.askedOwner.length]).toEqual([1, 0]);
    expect(
      codesOf(answerChecklist(saved(), [{ id: 'frobs', answer: 'none', reason: '' }], technician)),
    ).toEqual(['no-such-line']);
    const listed = saved();
    const withFonts = { ...listed, dataSets: listed.dataSets.map((set) => ({ ...set, id: 'fonts' })) };
    expect(
      codesOf(answerChecklist(withFonts, [{ id: 'fonts', answer: 'none', reason: '' }], technician)),
    ).toEqual(['already-a-data-set']);
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

describe('the backup afterwards', () => {
  const kept = (move: Move, keepUntil = '2026-04-01') =>
    keepBackup(move, { destinationId: 'b-07', label: 'B-07 of Odd', place: 'safe', keepUntil }, technician);

  it('has a label, a place and a last day that is still to come', () => {
    expect(codesOf(kept(saved(), '2026-03-01'))).toEqual(['day-is-over']);
    const move = done(kept(saved()));
    expect(nextWipe(move.retention)).toBe('2026-04-01');
    const [line] = move.retention;
    if (!line) throw new Error('no line');
    expect(retentionSentence(line, '2026-03-30', 'UTC')).toBe('kept for 2 more days');
    expect(retentionSentence(line, '2026-04-01', 'UTC')).toBe('to be wiped today');
    expect(retentionSentence(line, '2026-04-02', 'UTC')).toBe('should have been wiped 1 day ago');
  });

  it('is wiped after the hand-over only, once, with the method; the closed record takes that', () => {
    const wipe = (move: Move, method = 'overwritten once') =>
      recordWipe(move, { destinationId: 'b-07', method }, technician);
    expect(codesOf(wipe(saved()))).toEqual(['no-such-backup']);
    expect(codesOf(wipe(done(kept(saved()))))).toEqual(['not-handed-over']);
    const settled = signThrough(crossable());
    const all = settled.destinations.reduce(
      (move, { id, name }) =>
        done(
          keepBackup(
            move,
            { destinationId: id, label: name, place: 'safe', keepUntil: '2026-04-01' },
            technician,
          ),
        ),
      done(
        noteHandover(
          settled,
          {
            found: [documents, pictures].map(({ id, fileCount, sizeBytes }) => ({
              dataSetId: id,
              fileCount,
              sizeBytes,
              explanation: '',
            })),
            openPoints: [],
          },
          technician,
        ),
      ),
    );
    const closed = done(signOff(told(all), 'Odd', technician));
    expect(codesOf(wipe(closed, ' '))).toEqual(['no-method']);
    const wiped = done(wipe(closed));
    expect(codesOf(wipe(wiped))).toEqual(['wiped-already']);
    expect(codesOf(kept(wiped))).toEqual(['wiped-already']);
    // The other backup is another one: its line is still to be changed.
    const longer = done(
      keepBackup(
        wiped,
        { destinationId: 'pier-store', label: 'PS', place: 'server', keepUntil: '2026-05-01' },
        technician,
      ),
    );
    expect(
      longer.retention.map(({ destinationId, keepUntil, wiped: gone }) => [
        destinationId,
        keepUntil,
        gone !== null,
      ]),
    ).toEqual([
      ['b-07', '2026-04-01', true],
      ['pier-store', '2026-05-01', false],
    ]);
    expect(nextWipe(wiped.retention)).toBe('2026-04-01');
  });

  it('takes room on its drive until it is wiped', () => {
    const driveId = '5f0d6f0e-1b55-4c1f-9a37-0a6f5f7c0b07';
    const move = done(setDestinations(saved(), [{ ...driveB7, driveId, takes: ['documents'] }], technician));
    const contents = contentOn(driveId, move);
    expect(contents).toMatchObject([{ dataSets: 1, keepUntil: null }]);
    // As it lies there: what Save says of the same drive.
    const [there] = move.destinations;
    const taken = there ? fitOf(there, move.dataSets).neededBytes : 0;
    expect(taken).toBeGreaterThan(documents.sizeBytes);
    expect(freeOn({ capacityBytes: 100e9, otherBytes: 1e9 }, contents)).toBe(99e9 - taken);
    expect(freeOn({ capacityBytes: 1e9, otherBytes: 0 }, contents)).toBe(0);
    const wiped: Move = {
      ...done(kept(move)),
      retention: [
        {
          destinationId: 'b-07',
          label: 'x',
          place: 'y',
          keepUntil: '2026-04-01',
          wiped: { at: technician.now, by: 'Ines', method: 'z' },
        },
      ],
    };
    expect(contentOn(driveId, wiped)).toEqual([]);
  });

  it('is never the installer stick', () => {
    const move = ready(saved());
    expect(
      codesOf(setDestinations(move, [{ ...driveB7, name: 'Other name', serial: 'KST-C7' }], technician)),
    ).toEqual(['installer-stick']);
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
